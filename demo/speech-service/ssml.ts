import { SaxesParser, type SaxesTagPlain } from 'saxes'
import { ProblemError } from '#core/problem'
import { plainTone, segmentWords, type Tone, type ToneSegment } from '#core/score/tone'

/** What is said at one go, and the silence behind it. */
export interface Sentence {
  /** Places of words are characters (UTF-16) of the request's text, markup left out. */
  readonly segments: readonly ToneSegment[]
  readonly restMs: number
}

const longestRestMs = 10_000

/** The elements that the service knows, with their attributes. */
const known: Readonly<Record<string, readonly string[]>> = {
  speak: [], s: [], break: ['time'], prosody: ['rate', 'pitch'], phoneme: ['alphabet', 'ph'], 'say-as': ['interpret-as'],
}

function refuse(message: string): never {
  throw new ProblemError({ code: 'markup-refused', message })
}

function numberIn(value: string | undefined, pattern: RegExp, name: string): number {
  const found = pattern.exec(value ?? '')
  return found === null ? refuse(`${name} is “${value ?? ''}”: not understood.`) : Number(found[1])
}

export interface ReadMarkup {
  readonly sentences: readonly Sentence[]
  /** Of its text, markup left out, in code points. */
  readonly characters: number
}

/** Reads the markup of a request. Throws a problem for what the service does not know. */
export function readMarkup(markup: string): ReadMarkup {
  const sentences: { segments: ToneSegment[], restMs: number }[] = []
  const tones: Tone[] = [plainTone]
  const open: string[] = []
  let segments: ToneSegment[] = []
  let [place, characters] = [0, 0]
  let phonemes = 0
  const end = (restMs: number): void => {
    if (segments.length > 0) sentences.push({ segments, restMs })
    else if (sentences.length > 0) sentences.at(-1)!.restMs += restMs
    segments = []
  }
  const toneWithin = (outer: Tone, { name, attributes }: SaxesTagPlain): Tone => {
    if (name === 'prosody') {
      const { rate, pitch } = attributes
      return {
        ...outer,
        rate: rate === undefined ? outer.rate : outer.rate * numberIn(rate, /^(\d{1,3}(?:\.\d{1,3})?)%$/u, 'rate') / 100,
        pitchSemitones: pitch === undefined ? outer.pitchSemitones : outer.pitchSemitones + numberIn(pitch, /^([+-]\d{1,2}(?:\.\d{1,2})?)st$/u, 'pitch'),
      }
    }
    if (name === 'phoneme') {
      if (attributes['alphabet'] !== 'ipa') refuse('phoneme takes the alphabet “ipa”.')
      phonemes += 1
      return { ...outer, phoneme: { id: String(phonemes), ph: attributes['ph'] ?? refuse('phoneme has no “ph”.') } }
    }
    if (name === 'say-as') return attributes['interpret-as'] === 'characters' ? { ...outer, characters: true } : refuse('say-as takes “characters” only.')
    return outer
  }
  const parser = new SaxesParser()
  parser.on('error', error => refuse(`The markup is not well-formed: ${error.message}`))
  parser.on('doctype', () => refuse('A document type is not accepted.'))
  parser.on('opentag', tag => {
    const attributes = known[tag.name] ?? refuse(`The element “${tag.name}” is not known.`)
    const other = Object.keys(tag.attributes).find(name => !attributes.includes(name))
    if (other !== undefined) refuse(`The attribute “${other}” of “${tag.name}” is not known.`)
    if ((open.length === 0) !== (tag.name === 'speak')) refuse('The root is “speak”, and only the root.')
    if (tag.name === 's') end(0)
    if (tag.name === 'break') end(Math.min(longestRestMs, numberIn(tag.attributes['time'], /^(\d{1,5})ms$/u, 'time')))
    open.push(tag.name)
    tones.push(toneWithin(tones.at(-1)!, tag))
  })
  parser.on('closetag', ({ name }) => {
    open.pop()
    tones.pop()
    if (name === 's' || name === 'speak') end(0)
  })
  parser.on('text', text => {
    const words = [...text.matchAll(segmentWords)].flatMap(({ 0: word, index }) => [place + index, place + index + word.length])
    if (words.length > 0 || segments.length > 0) segments.push({ text, tone: tones.at(-1)!, words })
    place += text.length
    characters += [...text].length
  })
  parser.write(markup).close()
  return { sentences, characters }
}
