import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import type { Socket } from 'node:net'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { asProblem, fail } from '#core/problem'
import { lameName } from './libraries/lame'
import { soxrName } from './libraries/soxr'

/** An encoder that takes no input for so long hangs. */
const stallMs = 60_000

/** What ffmpeg and ffprobe are told before a file that anybody may have made: it is read in formats only that can name no other files. */
export const guarded = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', 'wav,w64,mp3,flac,ogg,aac,mov,aiff,caf,matroska']

/** The encoder was ended from outside, or hung; the work may be tried again. */
export class EncoderLostError extends Error {
  override readonly name = 'EncoderLostError'
}

/**
 * Runs ffmpeg, on raw input or on files. Throws a problem when it is missing or fails, `EncoderLostError` when it was ended by a signal or hung: when `progress`, of
 * its own what it has taken in, stays the same.
 */
export async function runFfmpeg(parameters: readonly string[], input: Readable | null, progress: (() => number) | null = null, hungAfterMs = stallMs): Promise<void> {
  const child = spawn('ffmpeg', ['-hide_banner', '-nostdin', '-loglevel', 'error', ...parameters], { stdio: [input === null ? 'ignore' : 'pipe', 'ignore', 'pipe'] })
  let log = ''
  child.stderr!.on('data', (chunk: Buffer) => { log = (log + chunk.toString()).slice(-2000) })
  const ended = once(child, 'close')
  const fed = input === null ? Promise.resolve() : pipeline(input, child.stdin!)
  fed.catch(() => undefined)
  const stopWatching = killWhenHung(child, progress ?? (() => (child.stdin as Socket).bytesWritten), hungAfterMs)
  let code: unknown
  let signal: unknown
  try {
    [code, signal] = await ended
  } catch {
    fail('encoder-missing', 'The encoder ffmpeg is not installed. Run bin/start once, or install the Debian package ffmpeg.')
  } finally {
    stopWatching()
  }
  if (code === 0) return fed
  if (typeof signal === 'string') throw new EncoderLostError(`The encoder was ended by ${signal}.`)
  // What broke the input is the cause; the encoder's own end only follows from it.
  await fed.catch((error: NodeJS.ErrnoException) => { if (error.code !== 'EPIPE') throw error })
  if (/No space left on device/u.test(log)) throw asProblem({ code: 'ENOSPC' })
  fail('encoder-failed', `The encoder stopped: ${log.trim().split('\n').at(-1) ?? 'no reason given'}. Check the free space and try again.`)
}

/** Kills a child that does not get on. Gives the step that ends the watch. */
function killWhenHung(child: ChildProcess, progress: () => number, hungAfterMs: number): () => void {
  let seen = -1
  const timer = setInterval(() => {
    const now = progress()
    if (now === seen) child.kill('SIGKILL')
    seen = now
  }, hungAfterMs)
  return () => clearInterval(timer)
}

let version: Promise<string> | null = null

/** Names and versions of what encodes; part of every file's fingerprint. Rejects with a problem when one of them is missing. */
export function encoderName(): Promise<string> {
  version ??= readVersion()
  return version
}

async function readVersion(): Promise<string> {
  const child = spawn('ffmpeg', ['-hide_banner', '-version'], { stdio: ['ignore', 'pipe', 'ignore'] })
  let output = ''
  child.stdout.on('data', (chunk: Buffer) => { output += chunk.toString() })
  try {
    await once(child, 'close')
  } catch {
    fail('encoder-missing', 'The encoder ffmpeg is not installed. Run bin/start once, or install the Debian package ffmpeg.')
  }
  const found = /^ffmpeg version (\S+)/u.exec(output)?.[1]
  return [`ffmpeg ${found ?? 'unknown'}`, lameName(), soxrName()].join(', ')
}
