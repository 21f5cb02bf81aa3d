import { defaultSplit } from './file-split'
import type { DeliveryProfile, Limits } from './profile'

const noLimits: Limits = {
  rmsDb: null, integratedDb: null, peakDb: null, truePeak: true, noiseFloorDb: null, headMs: null, tailMs: null, longestMs: null, largestBytes: null, longestSilenceMs: null,
}

const mp3 = { format: 'mp3', sampleRate: 44_100, dualMono: false, gainPer: 'production', split: defaultSplit, partRestMs: 2000, namePattern: '{number}-{title}' } as const

export const profileNames = ['book', 'course', 'podcast'] as const
export type ProfileName = (typeof profileNames)[number]

/** Profiles to start from. Their values are *common practice*. */
export const profiles: Readonly<Record<ProfileName, DeliveryProfile>> = {
  /** At least 192 kbit/s constant, RMS −23…−18 dBFS, peaks at most −3 dBFS, noise floor at most −60 dBFS, head 0.5…1 s, tail 1…5 s, at most 120 min. */
  book: {
    ...mp3, name: 'Book, retail', bitRateKbps: 192,
    target: { measure: 'rms', level: -20, tolerance: 0.5 }, ceilingDb: -3, headMs: 700, tailMs: 1500,
    split: { ...defaultSplit, longestMs: 120 * 60_000 },
    limits: {
      ...noLimits, rmsDb: { least: -23, most: -18 }, peakDb: -3, noiseFloorDb: -60,
      headMs: { least: 500, most: 1000 }, tailMs: { least: 1000, most: 5000 }, longestMs: 120 * 60_000, longestSilenceMs: 10_000,
    },
  },
  /** Half a second before and after the speech of a slide, and all clips equally loud. */
  course: {
    ...mp3, name: 'Course clips', bitRateKbps: 128,
    target: { measure: 'integrated', level: -19, tolerance: 0.5 }, ceilingDb: -1.5, headMs: 500, tailMs: 500,
    limits: { ...noLimits, integratedDb: { least: -20, most: -18 }, peakDb: -1, headMs: { least: 450, most: 600 }, tailMs: { least: 450, most: 1000 } },
  },
  /** −16 LUFS, a mono file counted as played on two speakers; true peak at most −1 dB. */
  podcast: {
    ...mp3, name: 'Podcast', bitRateKbps: 128, dualMono: true, gainPer: 'file',
    target: { measure: 'integrated', level: -16, tolerance: 0.5 }, ceilingDb: -1, headMs: 300, tailMs: 1000,
    limits: { ...noLimits, integratedDb: { least: -17, most: -15 }, peakDb: -1, longestSilenceMs: 10_000 },
  },
}

export const defaultProfile = profiles.book
