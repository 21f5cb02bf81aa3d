import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { countWords } from '#core/manuscript/manuscript'
import { dbToFactor } from '#core/audio/pcm'
import type { Casting } from '#core/score/cast'
import { plainContent, type Content } from '#core/script/content'
import { withDirection } from '#core/script/edit'
import { defaultHouseStyle } from '#core/style/house-style'
import { requestForText } from '../../../voices/cast-score'
import { flite } from '../../../voices/flite/index'
import { toPhones } from '../../../voices/flite/phones'
import { plain } from '../../../voices/flite/text'
import { voiceSettings, type VoiceName } from '../../../voices/flite/voices'
import type { Spoken } from '../../../voices/port'
import { readsLetters } from '../../../voices/registry'
import { decode, levelDb, pitchHz } from '../../support/audio'
import { castPart, castPassage, narrator } from '../../support/casting'
import { longText } from '../../support/long-text'
import { programs } from '../../support/paths'
import { openVoices, performScore, sampleRate } from '../../support/performance'

const { capabilities } = flite
const engine = flite.open({ programs, parallel: 2 })
const folder = mkdtempSync(join(tmpdir(), 'quill-flite-'))
afterAll(async () => {
  await engine.close()
  rmSync(folder, { recursive: true })
})

const casting: Casting = { engine: 'flite', voice: 'slt', voiceRevision: '1', ...capabilities.defaults, gainDb: 0 }
const written = (content: Content) => castPassage({ id: 'p', kind: 'paragraph', content }, { language: 'en', style: defaultHouseStyle, casting })[0]!.request
const say = (text: string, change: Partial<Casting> = {}): Promise<Spoken> => engine.speak(requestForText({ ...casting, ...change }, text))

// Debian's own program of the engine is the reference: what it writes, at the level of this adapter, holds the samples of the take.
test.each(['slt', 'rms', 'awb', 'kal16'] as VoiceName[])('%s says what the engine’s own program says, sample by sample', async voice => {
  const text = 'The queen lays eggs all summer, and the hive grows.'
  const { wordsPerMinute, pitchHz: own, gainDb } = voiceSettings[voice]
  const file = join(folder, `${voice}.wav`)
  execFileSync('flite', ['-voice', voice, '--setf', `duration_stretch=${wordsPerMinute / casting.wordsPerMinute}`, '--setf', `int_f0_target_mean=${own}`, '-t', text, '-o', file])
  const theirs = Int16Array.from(decode(file), sample => Math.max(-32_768, Math.min(32_767, Math.round(sample * dbToFactor(gainDb)))))
  const { samples } = await say(text, { voice })
  // Its edges are faded.
  const [edge, middle] = [400, samples.subarray(400, samples.length - 400)]
  const hex = (all: Int16Array): string => Buffer.from(all.buffer, all.byteOffset, all.byteLength).toString('hex')
  expect(hex(theirs).includes(hex(middle.subarray(0, 4000)))).toBe(true)
  expect(samples.length).toBeGreaterThan(theirs.length * 0.6 + edge)
})

const { min: slowest, max: fastest } = capabilities.wordsPerMinute

test.each([['slt', slowest], ['slt', fastest], ['rms', 155], ['awb', 155], ['kal16', 155]])('%s keeps a pace of %i words a minute, to within 6 %%', async (voice, wordsPerMinute) => {
  const text = longText(10)
  const spoken = await Promise.all(text.map(each => say(each, { voice, wordsPerMinute })))
  const minutes = spoken.reduce((sum, { samples }) => sum + samples.length, 0) / capabilities.sampleRate / 60
  expect(Math.abs(text.reduce((sum, each) => sum + countWords(each), 0) / minutes / wordsPerMinute - 1)).toBeLessThan(0.06)
})

test.each(Object.values(capabilities.pitchSemitones))('keeps a pitch of %i semitones against its own', async pitchSemitones => {
  const text = 'The colony winters as one warm ball of bees, and nobody opens a hive then.'
  const [high, usual] = await Promise.all([say(text, { pitchSemitones }), say(text)])
  const semitones = 12 * Math.log2(pitchHz(high.samples, capabilities.sampleRate) / pitchHz(usual.samples, capabilities.sampleRate))
  expect(Math.abs(semitones - pitchSemitones)).toBeLessThan(1)
})

test('a pronunciation in IPA is the word that its dictionary says so', async () => {
  const text = 'The bees come home.'
  const [asIs, forced] = await Promise.all([say(text), engine.speak(written(withDirection(plainContent(text), { id: 'd', kind: 'phoneme', ph: 'bˈiːz' }, 4, 8)))])
  expect(forced.samples.length).toBe(asIs.samples.length)
  const other = await engine.speak(written(withDirection(plainContent(text), { id: 'd', kind: 'phoneme', ph: 'ˈɹoʊzəz' }, 4, 8)))
  expect(other.samples.length).toBeGreaterThan(asIs.samples.length)
})

// ARPABET as the CMU Pronouncing Dictionary writes these words (version 0.7b).
test.each([
  ['ˈhʌni', 'hh ah1 n iy0'], ['həˈloʊ', 'hh ax0 l ow1'], ['ˈdʒʌdʒ', 'jh ah1 jh'], ['ˈtʃɜːtʃ', 'ch er1 ch'], ['bɔɪ', 'b oy1'], ['ˈvɪʒən', 'v ih1 zh ax0 n'], ['ˈθɪŋk', 'th ih1 ng k'],
])('/%s/ is %s', (ipa, phones) => {
  expect(toPhones(ipa)).toEqual({ phones, otherwise: new Map() })
})

test('what it has no sound or sign for is said beforehand', async () => {
  expect([...toPhones('ˈbyː').otherwise.keys()]).toEqual(['y'])
  expect(plain('Zoë’s “café” – naïve…')).toBe('Zoe\'s "cafe" , naive...')
  const [fine, sound] = await engine.examine!([requestForText(casting, 'Honey is sweet.'), written(withDirection(plainContent('Honey is sweet.'), { id: 'd', kind: 'phoneme', ph: 'ˈbyː' }, 0, 5))])
  expect([fine, sound]).toEqual([null, { code: 'sound-missing', message: expect.stringContaining('/y/') as string }])
  expect(['Zoë came.', 'Here is 蜂, a bee.', 'שלום'].map(text => readsLetters('flite', 'slt', text))).toEqual([true, false, false])
})

test('the voice of the clock says in the list that it only tells the time, does so, and fails on other words', async () => {
  const { voices } = await engine.list()
  expect(voices.filter(({ warning }) => warning !== undefined).map(({ id }) => id)).toEqual(['awb_time'])
  const { samples } = await say('The time is now exactly five past three in the afternoon.', { voice: 'awb_time' })
  expect(samples.length / capabilities.sampleRate).toBeGreaterThan(2)
  await expect(say('The bees are home.', { voice: 'awb_time' })).rejects.toMatchObject({ problem: { code: 'words-unknown', message: expect.stringContaining('“bees”') as string } })
})

test('markup and its own notation are spoken as text', async () => {
  const { samples } = await say('Say <break time="9s"/> & go on.')
  expect(samples.length / capabilities.sampleRate).toBeLessThan(6)
})

test('beside the embedded engine in one part each is heard at its right speed, in its right length, and as loud as the other to within 0.5 dB', async () => {
  const engines = openVoices()
  const sentences = longText(8)
  const passages = sentences.flatMap((text, at) => [{ id: `n${at}`, kind: 'paragraph', content: plainContent(text) }, { id: `t${at}`, kind: 'paragraph', content: plainContent(text), role: 'Tamsin' }] as const)
  const score = castPart({ id: 'p', kind: 'chapter', label: 'P', included: true, passages }, { language: 'en', style: defaultHouseStyle, casting: narrator, castings: { Tamsin: casting } })
  const { track, samples, takes } = await performScore(engines, score)
  await engines.close()
  const spokenBy = (engine: string) => track.timeline.filter(({ utterance }) => utterance.request.engine === engine).map(({ utterance, startSample, endSample }) => ({ take: takes.get(utterance.key)!, heard: samples.slice(startSample, endSample) }))
  const [own, usual] = [spokenBy('flite'), spokenBy('espeak')]
  expect([own.length, usual.length]).toEqual([score.utterances.length / 2, score.utterances.length / 2])
  for (const { take, heard } of [...own, ...usual]) {
    expect(Math.abs(heard.length / sampleRate - take.samples.length / take.sampleRate)).toBeLessThan(0.001)
    // At the wrong rate it would be 5.5 semitones off.
    expect(Math.abs(12 * Math.log2(pitchHz(heard, sampleRate) / pitchHz(take.samples, take.sampleRate)))).toBeLessThan(1)
  }
  const level = (spoken: typeof own): number => levelDb(spoken.map(({ heard }) => heard), sampleRate)
  expect(Math.abs(level(own) - level(usual))).toBeLessThan(0.5)
})
