import { defaultSplit } from './file-split'
import { defaultNamePattern, defaultNameRules } from './naming'
import type { DeliveryProfile, Limits } from './profile'

const noLimits: Limits = {
  rmsDb: null, integratedDb: null, channels: null, peakDb: null, truePeak: true, noiseFloorDb: null, headMs: null, tailMs: null, longestMs: null, largestBytes: null, longestSilenceMs: null,
}

const common = { channels: 1, dualMono: false, gainPer: 'production', split: defaultSplit, partRestMs: 2000, namePattern: defaultNamePattern, nameRules: defaultNameRules, equaliser: null, denoiseDb: null, announcements: null, extras: ['playlist', 'cueSheets'] } as const
const mp3 = { ...common, format: 'mp3', sampleRate: 44_100, bits: null } as const
const lossless = { ...common, sampleRate: 48_000, bitRateKbps: null, bits: 24 } as const

const hoursMs = (hours: number): number => hours * 60 * 60_000

/** Levels and margins of books for retail. */
const bookSound = {
  target: { measure: 'rms', level: -20, tolerance: 0.5 }, ceilingDb: -3, headMs: 700, tailMs: 1500,
  limits: {
    ...noLimits, rmsDb: { least: -23, most: -18 }, peakDb: -3, noiseFloorDb: -60,
    headMs: { least: 500, most: 1000 }, tailMs: { least: 1000, most: 5000 }, longestSilenceMs: 10_000,
  },
} as const

/** What telephone lines play. */
const telephone = {
  ...common, target: { measure: 'rms', level: -20, tolerance: 0.5 }, ceilingDb: -3, headMs: 100, tailMs: 250, partRestMs: 1000,
  limits: { ...noLimits, rmsDb: { least: -22, most: -18 }, channels: 1, peakDb: -2, headMs: { least: 50, most: 500 }, tailMs: { least: 100, most: 1000 } },
} as const

/** As it is read, but without clipping: what is made of it later has its own level. */
const archive = {
  ...lossless, target: null, ceilingDb: -1, headMs: 500, tailMs: 1000, limits: { ...noLimits, peakDb: -0.5, headMs: { least: 400, most: null }, tailMs: { least: 400, most: null } },
} as const

export const profileNames = ['book', 'one-file', 'course', 'podcast', 'web', 'broadcast', 'telephony', 'telephony-wide', 'archive', 'archive-wav'] as const
export type ProfileName = (typeof profileNames)[number]

/** Profiles to start from. Their values are *common practice*. */
export const profiles: Readonly<Record<ProfileName, DeliveryProfile>> = {
  /** At least 192 kbit/s constant, RMS −23…−18 dBFS, peaks at most −3 dBFS, noise floor at most −60 dBFS, head 0.5…1 s, tail 1…5 s, at most 120 min. */
  'book': {
    ...mp3, ...bookSound, name: 'Book, retail', bitRateKbps: 192, extras: [...common.extras, 'cover'],
    split: { ...defaultSplit, longestMs: hoursMs(2) }, limits: { ...bookSound.limits, longestMs: hoursMs(2) },
  },
  /** The whole book with its chapters in one file. */
  'one-file': { ...common, ...bookSound, name: 'One-file book', format: 'm4b', sampleRate: 44_100, bitRateKbps: 64, bits: null, split: { ...defaultSplit, where: { by: 'whole' } } },
  /** Half a second before and after the speech of a slide, and all clips equally loud. */
  'course': {
    ...mp3, name: 'Course clips', bitRateKbps: 128,
    target: { measure: 'integrated', level: -19, tolerance: 0.5 }, ceilingDb: -1.5, headMs: 500, tailMs: 500,
    limits: { ...noLimits, integratedDb: { least: -20, most: -18 }, peakDb: -1, headMs: { least: 450, most: 600 }, tailMs: { least: 450, most: 1000 } },
  },
  /** −16 LUFS, a mono file counted as played on two speakers; true peak at most −1 dB. */
  'podcast': {
    ...mp3, name: 'Podcast', bitRateKbps: 128, dualMono: true, gainPer: 'file',
    target: { measure: 'integrated', level: -16, tolerance: 0.5 }, ceilingDb: -1, headMs: 300, tailMs: 1000,
    limits: { ...noLimits, integratedDb: { least: -17, most: -15 }, peakDb: -1, longestSilenceMs: 10_000 },
  },
  /** Small files for pages: as loud as a podcast. */
  'web': {
    ...common, name: 'Web', format: 'opus', sampleRate: 48_000, bitRateKbps: 48, bits: null, dualMono: true,
    target: { measure: 'integrated', level: -16, tolerance: 0.5 }, ceilingDb: -1.5, headMs: 200, tailMs: 500,
    limits: { ...noLimits, integratedDb: { least: -17, most: -15 }, peakDb: -1 },
  },
  /** EBU R 128 (2014, from memory): −23 LUFS to within 0.5, true peak at most −1 dBTP. Both channels say the same. */
  'broadcast': {
    ...lossless, name: 'Broadcast', format: 'wav', channels: 2, gainPer: 'file',
    target: { measure: 'integrated', level: -23, tolerance: 0.2 }, ceilingDb: -1.5, headMs: 500, tailMs: 500,
    limits: { ...noLimits, integratedDb: { least: -23.5, most: -22.5 }, channels: 2, peakDb: -1, longestSilenceMs: 10_000 },
  },
  /** ITU-T G.711. */
  'telephony': { ...telephone, name: 'Telephony', format: 'mulaw', sampleRate: 8000, bitRateKbps: null, bits: null },
  /** For lines with twice the width of sound (ITU-T G.722 is fed so). */
  'telephony-wide': { ...telephone, name: 'Telephony, wideband', format: 'wav', sampleRate: 16_000, bitRateKbps: null, bits: 16 },
  'archive': { ...archive, name: 'Archive, FLAC', format: 'flac' },
  'archive-wav': { ...archive, name: 'Archive, WAV', format: 'wav' },
}

export const defaultProfile = profiles.book
