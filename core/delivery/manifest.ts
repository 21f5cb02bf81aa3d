import { samplesToMs } from '../audio/pcm'
import type { Track } from '../audio/track'

/** `manifest.json` of a delivery; described in `docs/manifest.schema.json`. No date and no path: equal runs are equal. */
export interface Manifest {
  readonly version: 1
  readonly title: string
  readonly language: string
  readonly files: readonly ManifestFile[]
}

export interface ManifestFile {
  readonly number: number
  readonly name: string
  readonly title: string
  /** Places in the script of the parts it holds, from 1. */
  readonly parts: readonly number[]
  readonly durationMs: number
  /** Decoded samples at the delivered rate. */
  readonly sampleCount: number
  readonly sha256: string
  readonly chapters: readonly FileChapter[]
  readonly sentences: readonly ManifestSentence[]
}

/** A chapter within a file. */
export interface FileChapter {
  readonly title: string
  readonly startMs: number
  readonly endMs: number
}

export interface ManifestSentence {
  readonly text: string
  readonly startMs: number
  readonly endMs: number
}

/** The sentences of a track with their times, ms with three decimals; pieces of one sentence are joined. */
export function manifestSentences(track: Track): ManifestSentence[] {
  const sentences: ManifestSentence[] = []
  for (const { utterance, startSample, endSample } of track.timeline) {
    const startMs = roundedMs(startSample, track.sampleRate)
    const endMs = roundedMs(endSample, track.sampleRate)
    const last = sentences.at(-1)
    if (utterance.beginsSentence || last === undefined) sentences.push({ text: utterance.text, startMs, endMs })
    else sentences[sentences.length - 1] = { text: `${last.text} ${utterance.text}`, startMs: last.startMs, endMs }
  }
  return sentences
}

/** A length in ms with three decimals. */
export function roundedMs(samples: number, sampleRate: number): number {
  return toThousandths(samplesToMs(samples, sampleRate))
}

export const toThousandths = (value: number): number => Math.round(value * 1000) / 1000
