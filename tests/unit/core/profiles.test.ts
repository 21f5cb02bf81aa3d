import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Ajv } from 'ajv'
import { bytesPerSecond, formatNames, formatOf, soundProblem } from '#core/delivery/formats'
import { profileProblem } from '#core/delivery/profile'
import { fileOfProfile, profileFileSchema, profileOfFile, type ProfileFile } from '#core/delivery/profile-file'
import { profileNames, profiles } from '#core/delivery/profiles'
import { root } from '../../support/paths'

const validate = new Ajv().compile(profileFileSchema)
const openFile = (file: Omit<ProfileFile, 'version'>) => profileOfFile({ version: 1, ...file })

test.each(profileNames)('all of %s goes together, and it comes back from its file', name => {
  expect(profileProblem(profiles[name])).toBeNull()
  const file = fileOfProfile(profiles[name])
  expect(validate(file)).toBe(true)
  expect(profileOfFile(file)).toEqual(profiles[name])
})

test.each(formatNames)('a profile that only says %s has whatever that format must have', format => {
  for (const from of profileNames) expect(profileProblem(openFile({ from, format }))).toBeNull()
})

test('what a format does not take is said with what it takes', () => {
  expect(profileProblem(openFile({ format: 'opus', sampleRate: 44_100 }))).toBe('Opus takes a rate (sampleRate) of 48000 Hz, not 44100.')
  expect(profileProblem(openFile({ format: 'flac', bitRateKbps: 128 }))).toBe('FLAC has no bit rate: leave bitRateKbps out.')
  expect(profileProblem(openFile({ format: 'mp3', bitRateKbps: 100 }))).toContain('64, 80, 96, 112, 128, 160, 192, 224, 256, 320 kbit/s, not 100')
  expect(profileProblem(openFile({ format: 'mulaw', bits: 16 }))).toContain('leave bits out')
  expect(profileProblem(openFile({ format: 'wav', bits: null }))).toContain('WAV takes 16, 24 bits')
})

test('a target that its own limits refuse is found, and peaks that are held too high', () => {
  expect(profileProblem(openFile({ target: { measure: 'rms', level: -16, tolerance: 0.5 } }))).toContain('The target of −16 is outside its limits')
  expect(profileProblem(openFile({ ceilingDb: -1 }))).toBe('Peaks may have −3 dB at most, but are held at −1 only.')
})

test('a second of WAV, µ-law, and MP3 has the bytes that its numbers say', () => {
  expect(bytesPerSecond(profiles.broadcast)).toBe(48_000 * 2 * 3)
  expect(bytesPerSecond(profiles.telephony)).toBe(8000)
  expect(bytesPerSecond(profiles.book)).toBe(24_000)
})

test('every format knows a setting that it takes', () => {
  for (const format of formatNames) {
    const { bitRates, bits, sampleRates } = formatOf(format)
    expect(soundProblem({ format, bitRateKbps: bitRates?.[0] ?? null, bits: bits?.[0] ?? null, sampleRate: sampleRates[0]!, channels: 1 })).toBeNull()
  }
})

test('the schema of a profile is the documented one', () => {
  expect(JSON.parse(readFileSync(join(root, 'docs/profile.schema.json'), 'utf8'))).toEqual(JSON.parse(JSON.stringify(profileFileSchema)))
})
