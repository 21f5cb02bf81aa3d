import { bandRange, highPassRange, mostBands, mostGainDb, qRange } from '../mastering/equaliser'
import { denoiseRange } from '../mastering/denoise'
import { longestAnnouncement, noAnnouncements, type Announcements } from '../script/announcements'
import { wholeText } from '../script/whole-text'
import { largestHeading, leastLengthMs, leastBytes, mostEmptyLines, simpleSplits, type FileSplit } from './file-split'
import { extraNames, extras } from './lists'
import { audioFormats, formatNames, formatOf, type FormatName } from './formats'
import { leastLongest, mostDigits, mostFirstNumber, mostNameBytes, workFields, type NameRules } from './naming'
import type { DeliveryProfile, Limits } from './profile'
import { profileNames, profiles, type ProfileName } from './profiles'

/** A profile as a file: what it leaves out is as in the profile that it is made from. */
export interface ProfileFile extends Partial<Omit<DeliveryProfile, 'limits' | 'split' | 'nameRules' | 'announcements'>> {
  readonly version: 1
  readonly from?: ProfileName
  readonly split?: Partial<FileSplit>
  readonly nameRules?: Partial<NameRules>
  readonly announcements?: Partial<Announcements> | null
  readonly limits?: Partial<Limits>
}

const orNull = <S extends object>(schema: S) => ({ anyOf: [schema, { type: 'null' }] }) as const
const db = { type: 'number', minimum: -100, maximum: 0 } as const
const ms = { type: 'integer', minimum: 0, maximum: 60_000 } as const
const span = <S extends object>(ends: S) => orNull({ type: 'object', additionalProperties: false, required: ['least', 'most'], properties: { least: orNull(ends), most: orNull(ends) } } as const)

const lengthMs = orNull({ type: 'integer', minimum: leastLengthMs, maximum: 1_000 * 60 * 60_000 } as const)
const simple = (by: string) => ({ type: 'object', additionalProperties: false, required: ['by'], properties: { by: { const: by } } }) as const
const numbered = (by: string, name: string, minimum: number, maximum: number) => ({
  type: 'object', additionalProperties: false, required: ['by', name], properties: { by: { const: by }, [name]: { type: 'integer', minimum, maximum } },
}) as const

/** JSON Schema of `FileSplit`. */
export const fileSplitSchema = {
  type: 'object', additionalProperties: false,
  properties: {
    where: {
      description: 'Where a file begins: at a part, a slide with its hints, a heading of this level or above, empty lines of the source, a passage, a sentence; whole: nowhere else',
      anyOf: [...simpleSplits.map(simple), numbered('heading', 'level', 1, largestHeading), numbered('emptyLines', 'lines', 2, mostEmptyLines)],
    },
    aboutMs: { ...lengthMs, description: 'Files are about so long, cut between passages, else between sentences' },
    longestMs: { ...lengthMs, description: 'No file is longer, with its margins' },
    largestBytes: { ...orNull({ type: 'integer', minimum: leastBytes } as const), description: 'No file is larger' },
  },
} as const

/** JSON Schema of `NameRules`. */
export const nameRulesSchema = {
  type: 'object', additionalProperties: false,
  properties: {
    firstNumber: { type: 'integer', minimum: 0, maximum: mostFirstNumber, description: 'The number of the first file' },
    counts: { enum: ['files', 'parts'], description: 'files: they are counted; parts: a file has the number of the slide or part that it begins in' },
    digits: { ...orNull({ type: 'integer', minimum: 1, maximum: mostDigits } as const), description: 'Least figures of a number; null: as many as the last has, but two' },
    letters: { enum: ['ascii', 'written'], description: 'Lower-case a–z, figures and hyphens, or letters as they are written' },
    longest: { type: 'integer', minimum: leastLongest, maximum: mostNameBytes, description: 'Most characters of a name without its extension' },
  },
} as const

const template = { type: 'string', maxLength: longestAnnouncement, pattern: wholeText } as const
const named = orNull({ type: 'string', minLength: 1, maxLength: 200, pattern: wholeText } as const)

/** JSON Schema of `Announcements`. */
export const announcementsSchema = {
  type: 'object', additionalProperties: false,
  properties: {
    opening: { ...template, description: 'Said before everything: a text with {production} {author} {narrator} {year} {copyright}; a field of which nothing is known goes with the words before it' },
    part: { ...template, description: 'Said before each chapter, slide or article; may also have {number} and {part}, its label' },
    closing: { ...template, description: 'Said after everything' },
    role: { ...named, description: 'Who speaks them: the name of a role; null: the narrator' },
    ownFiles: { enum: ['none', 'credits', 'all'], description: 'What is a file of its own; credits: opening and closing' },
    repeats: { enum: ['say', 'skip'], description: 'Whether a part is announced whose own title says the same' },
    intro: { ...named, description: 'Name of a sound of the production that is heard first' },
    outro: { ...named, description: 'Name of a sound of the production that is heard last' },
    roomTone: { ...named, description: 'Name of a sound of the production that is under all speech and silence' },
    soundsOf: { enum: ['production', 'part'], description: 'Whether the sounds are heard around everything, or around each part' },
  },
} as const

/** JSON Schema of `ProfileFile`. */
export const profileFileSchema = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  title: 'Delivery profile',
  type: 'object',
  additionalProperties: false,
  required: ['version'],
  properties: {
    version: { const: 1 },
    from: { enum: profileNames, description: 'What is left out is as in this one; book where it is not given' },
    name: { type: 'string', minLength: 1, maxLength: 80, pattern: wholeText },
    format: { enum: formatNames, description: formatNames.map(name => `${name}: ${audioFormats[name].name}`).join('; ') },
    bitRateKbps: { ...orNull({ type: 'integer', minimum: 8, maximum: 320 } as const), description: 'kbit/s, of mp3 (constant), m4b and opus' },
    bits: { enum: [16, 24, null], description: 'Of a sample, of wav and flac' },
    sampleRate: { type: 'integer', minimum: 8000, maximum: 48_000, description: 'Hz' },
    channels: { enum: [1, 2], description: 'In stereo both say the same' },
    target: orNull({
      type: 'object', additionalProperties: false, required: ['measure', 'level', 'tolerance'],
      properties: {
        measure: { enum: ['rms', 'integrated'], description: 'RMS in dBFS, or integrated loudness in LUFS' },
        level: { type: 'number', minimum: -40, maximum: -10 },
        tolerance: { type: 'number', minimum: 0.2, maximum: 6, description: 'dB' },
      },
    }),
    equaliser: orNull({
      type: 'object', additionalProperties: false, required: ['highPassHz', 'bands'], description: 'What is done to the sound of the voice before it is levelled',
      properties: {
        highPassHz: { ...orNull({ type: 'number', minimum: highPassRange.least, maximum: highPassRange.most } as const), description: 'What is lower is taken away, by 12 dB an octave' },
        bands: {
          type: 'array', maxItems: mostBands, description: 'What is around a frequency (hz) is raised or lowered, the narrower the higher q is',
          items: {
            type: 'object', additionalProperties: false, required: ['hz', 'gainDb', 'q'],
            properties: {
              hz: { type: 'number', minimum: bandRange.least, maximum: bandRange.most }, gainDb: { type: 'number', minimum: -mostGainDb, maximum: mostGainDb }, q: { type: 'number', minimum: qRange.least, maximum: qRange.most },
            },
          },
        },
      },
    } as const),
    denoiseDb: { ...orNull({ type: 'number', minimum: denoiseRange.least, maximum: denoiseRange.most } as const), description: 'By how much the noise of recordings that the script plays is lowered, dB' },
    gainPer: { enum: ['file', 'production'], description: 'production: all files have one gain, as long as it keeps them within their limits' },
    ceilingDb: { ...orNull({ type: 'number', minimum: -20, maximum: 0 }), description: 'Peaks, between samples too, are held below it' },
    dualMono: { type: 'boolean', description: 'A mono file counts for loudness as played on two speakers' },
    headMs: ms,
    tailMs: ms,
    split: fileSplitSchema,
    partRestMs: { ...ms, description: 'Silence between parts that are in one file, at least' },
    namePattern: { type: 'string', minLength: 1, maxLength: 200, pattern: wholeText, description: `Has {number}, before {within}, {title}, {part} and {slide}; may have ${workFields.map(name => `{${name}}`).join(' ')}` },
    nameRules: nameRulesSchema,
    announcements: orNull(announcementsSchema),
    extras: { type: 'array', uniqueItems: true, items: { enum: extraNames }, description: `What lies beside the files, besides checksums and manifest.json: ${extraNames.map(name => `${name}: ${extras[name]}`).join('; ')}` },
    limits: {
      type: 'object', additionalProperties: false,
      properties: {
        rmsDb: span(db), integratedDb: span(db), channels: { enum: [1, 2, null] }, peakDb: orNull(db), truePeak: { type: 'boolean' }, noiseFloorDb: orNull(db),
        headMs: span(ms), tailMs: span(ms),
        longestMs: orNull({ type: 'integer', minimum: 1000 }), largestBytes: orNull({ type: 'integer', minimum: 1000 }), longestSilenceMs: orNull({ type: 'integer', minimum: 500 }),
      },
    },
  },
} as const

export function profileOfFile({ version: _, from = 'book', limits, split, nameRules, announcements, ...given }: ProfileFile): DeliveryProfile {
  const base = fitting(profiles[from], given.format)
  return { ...base, ...given, split: { ...base.split, ...split }, nameRules: { ...base.nameRules, ...nameRules }, announcements: announcements === undefined || announcements === null ? null : { ...noAnnouncements, ...announcements }, limits: { ...base.limits, ...limits } }
}

/** A profile in another format: what that does not have is gone, and what it must have is there. */
export function fitting(profile: DeliveryProfile, name: FormatName = profile.format): DeliveryProfile {
  const { bitRates, bits, sampleRates } = formatOf(name)
  const kept = <T>(value: T | null, allowed: readonly T[] | null): T | null => allowed === null ? null : value !== null && allowed.includes(value) ? value : allowed[0]!
  return { ...profile, format: name, bitRateKbps: kept(profile.bitRateKbps, bitRates), bits: kept(profile.bits, bits), sampleRate: kept(profile.sampleRate, sampleRates)! }
}

/** A profile as the file that gives it. */
export function fileOfProfile(profile: DeliveryProfile): ProfileFile {
  return { version: 1, ...profile }
}
