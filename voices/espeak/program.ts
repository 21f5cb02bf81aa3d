import { execFileSync } from 'node:child_process'
import { samplesOf } from '#core/audio/pcm'
import { fail, type Problem } from '#core/problem'
import type { Spoken } from '../port'
import { laid, trimmed } from '../trimmed'
import { capabilities } from './capabilities'
import { listedVariants, listedVoices, type EngineVoices, type RawVoice } from './listed'
import { problemsOf, translateOrder, type SpeakOrder } from './order'
import { ipaLines } from './phonemes'

// The engine's command-line program, where its library cannot be loaded. What it says has the same samples; it tells no times of words, so that a sentence is
// spoken in pieces, one after the other, where something is put into it or its level changes.

const limitMs = 30_000
const largestOutput = 1 << 28
const wavHeaderBytes = 44

function run(options: readonly string[], input = ''): Buffer {
  return execFileSync('espeak-ng', options, { input, timeout: limitMs, maxBuffer: largestOutput, stdio: ['pipe', 'pipe', 'ignore'] })
}

interface Installed {
  readonly version: string
  /** Folder of its voices. */
  readonly data: string
}

let installed: Installed | null = null

function about(): Installed {
  if (installed !== null) return installed
  const [, version, data] = /text-to-speech: (\S+) +Data at: (.+)/u.exec(run(['--version']).toString('utf8')) ?? fail('engine-broken', 'The speech engine’s program espeak-ng does not say its version. Install the Debian package espeak-ng again.')
  installed = { version: version!, data: data! }
  return installed
}

/** Whether the program is there. */
export function isInstalled(): boolean {
  try {
    return about().version !== ''
  } catch {
    return false
  }
}

export function listVoices(): EngineVoices {
  return { version: about().version, voices: listedVoices(readList(run(['--voices']))), variants: listedVariants(readList(run(['--voices=variant']))) }
}

/** It writes spaces of names as low lines. */
function readList(output: Buffer): RawVoice[] {
  return output.toString('utf8').split('\n').slice(1).filter(line => line.trim() !== '').map(line => {
    const [, language, ageAndGender, name, ...rest] = line.trim().split(/\s+/u)
    // The name of a file may have a space; other languages follow in brackets.
    const others = rest.findIndex(word => word.startsWith('('))
    const identifier = rest.slice(0, others < 0 ? rest.length : others).join(' ')
    const gender = ageAndGender!.endsWith('F') ? 'female' : ageAndGender!.endsWith('M') ? 'male' : 'unknown'
    return { name: name!.replace(/_/gu, ' ').trim(), language: language!, identifier, gender }
  })
}

/** Speaks one utterance. */
export function speak(order: SpeakOrder): Spoken {
  const { markup, marks } = translateOrder(order, about().data)
  const options = ['-v', order.identifier, '-s', String(order.rate), '-p', String(order.pitch), '-b', '1', '-m', '--stdin', '--stdout']
  const { samples, begins } = laid(piecesOf(markup).map(piece => ({ samples: samplesOf(run(options, piece).subarray(wavHeaderBytes)), words: [] })), capabilities.sampleRate)
  return trimmed(samples, capabilities.sampleRate, [], marks.map((mark, index) => ({ ...mark, sample: begins[index + 1]! })))
}

/** Markup parted at its marks; elements that are open there end, and begin anew. */
export function piecesOf(markup: string): string[] {
  const pieces: string[] = []
  const open: string[] = []
  let piece = ''
  const end = (): void => { pieces.push(`${piece}${open.map(tag => `</${nameOf(tag)}>`).reverse().join('')}`) }
  for (const [token] of markup.matchAll(/<[^<>]*>|[^<]+/gu)) {
    if (token.startsWith('<mark')) {
      end()
      piece = open.join('')
      continue
    }
    if (token.startsWith('</')) open.pop()
    else if (token.startsWith('<')) open.push(token)
    piece += token
  }
  end()
  return pieces
}

const nameOf = (tag: string): string => /\w+/u.exec(tag)![0]

export function examine(orders: readonly SpeakOrder[]): (Problem | null)[] {
  return problemsOf(orders, about().data)
}

/** How a voice reads each of some texts, in IPA. */
export function readInIpa(identifier: string, texts: readonly string[]): string[] {
  const lines = ipaLines(identifier, texts)
  // Where the voice divides one or finds nothing to say in it, each is asked for by itself.
  return lines.length === texts.length ? lines : texts.map(text => ipaLines(identifier, [text]).join(' '))
}
