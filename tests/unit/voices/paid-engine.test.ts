import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { plainContent } from '#core/script/content'
import { withDirection } from '#core/script/edit'
import { defaultHouseStyle } from '#core/style/house-style'
import type { ProblemError} from '#core/problem';
import { type Problem } from '#core/problem'
import type { EngineRequest } from '#core/score/request'
import { requestForText } from '#voices/cast-score'
import { castingFor } from '#voices/choose'
import { divided, silenceBetween } from '#voices/paid/divide'
import type { Accounts } from '#voices/paid/accounts'
import type { AskedUtterance, Engine, Spoken } from '#voices/port'
import { netvoice as kind } from '#voices/netvoice/index'
import type { Settings } from '../../../demo/speech-service/settings'
import { digest, rmsDb } from '../../support/audio'
import { castPassage } from '../../support/casting'
import { randomOf } from '../../support/fuzz'
import { longText } from '../../support/long-text'
import { programs } from '../../support/paths'
import { speechService, type RunningService } from '../../support/speech-service'

// The adapter of services, against the simulated one.

const running: RunningService[] = []
const opened: Engine[] = []
afterAll(async () => {
  await Promise.all(opened.map(engine => engine.close()))
  await Promise.all(running.map(service => service.close()))
})

async function setUp(settings: Partial<Settings> = {}, { random, accounts, ...options }: { random?: () => number, timeoutMs?: number, firstWaitMs?: number, accounts?: (own: Accounts) => Accounts } = {}) {
  const service = await speechService(settings, random)
  const engine = kind.open({ programs, parallel: 1, accounts: accounts?.(service.accounts) ?? service.accounts, ...options })
  running.push(service)
  opened.push(engine)
  return { service, engine }
}

const casting = { engine: 'netvoice', voice: 'en-gb-linnet', voiceRevision: '1', ...kind.capabilities.defaults }
const asked = (texts: readonly string[]): AskedUtterance[] => texts.map((text, index) => ({ key: String(index), request: requestForText(casting, text), purpose: null }))
async function askAll(engine: Engine, utterances: readonly AskedUtterance[]): Promise<Map<string, Spoken | Problem>> {
  const answers = new Map<string, Spoken | Problem>()
  for (const question of await engine.questions!(utterances)) for (const [key, answer] of await question.ask()) answers.set(key, answer)
  return answers
}
const spokenOf = (answer: Spoken | Problem | undefined): Spoken => {
  if (answer === undefined || !('samples' in answer)) throw new Error(JSON.stringify(answer))
  return answer
}
const problemOf = (work: Promise<unknown>): Promise<Problem> => work.then(() => { throw new Error('It went well.') }, (error: unknown) => (error as ProblemError).problem)

const sentences = longText(6)
/** Of a sentence, in samples: two windows of 5 ms. */
const edge = 240

test('many sentences are one request, and each sounds as it does when it is asked for alone', async () => {
  const { service, engine } = await setUp()
  const together = await askAll(engine, asked(sentences))
  expect(service.billed()).toHaveLength(1)
  expect(service.billed()[0]!.characters).toBe([...sentences.join('')].length)
  for (const [index, text] of sentences.entries()) {
    const alone = await engine.speak(requestForText(casting, text))
    const joined = spokenOf(together.get(String(index)))
    // The silence at its edges is trimmed in windows, which begin elsewhere.
    const shift = joined.wordMarks[3]! - alone.wordMarks[3]!
    const [from, to] = [edge, Math.min(alone.samples.length, joined.samples.length - shift) - edge]
    expect([joined.sampleRate, Math.abs(shift) <= edge, Math.abs(joined.samples.length - alone.samples.length) <= 2 * edge]).toEqual([24_000, true, true])
    expect(digest(joined.samples.slice(from + shift, to + shift))).toBe(digest(alone.samples.slice(from, to)))
    expect(joined.wordMarks.map((value, place) => place % 2 === 1 ? value - shift : value).slice(2)).toEqual(alone.wordMarks.slice(2))
  }
})

test.each([[300, false], [300, true], [1_000, true]] as const)('under a limit of %i characters (markup counted: %s) all is said, no request is refused, and no edge is within a word', async (charactersPerRequest, countsMarkup) => {
  const { service, engine } = await setUp({ charactersPerRequest, countsMarkup })
  const answers = await askAll(engine, asked(sentences))
  expect(service.service.asked.map(({ status }) => status)).toEqual(service.service.asked.map(() => 200))
  for (const entry of service.billed()) expect(entry.characters).toBeLessThanOrEqual(charactersPerRequest)
  for (let index = 0; index < 6; index += 1) {
    const { samples } = spokenOf(answers.get(String(index)))
    // Trimmed to speech and faded, so no click.
    expect([Math.abs(samples[0]!) < 200, Math.abs(samples.at(-1)!) < 200, rmsDb(samples) > -40]).toEqual([true, true, true])
  }
})

test('a service that tells no times is asked for each piece by itself', async () => {
  const { service, engine } = await setUp({ wordTimes: false })
  const answers = await askAll(engine, asked(sentences.slice(0, 3)))
  expect(service.billed()).toHaveLength(3)
  expect([...answers.values()].every(answer => spokenOf(answer).samples.length > 6_000)).toBe(true)
})

test('a rest in a sentence is a place between two pieces that are spoken one by one', async () => {
  const { engine } = await setUp()
  const text = 'The bees come home, and the hive is full.'
  const and = text.indexOf('and')
  const [utterance] = castPassage({ id: 'p', kind: 'paragraph', content: withDirection(plainContent(text), { id: 'd', kind: 'rest', ms: 700 }, and, and) }, { language: 'en', style: defaultHouseStyle, casting })
  const { samples, wordMarks } = await engine.speak(utterance!.request)
  const place = utterance!.stretches![1]!.place
  const at = wordMarks[wordMarks.findIndex((each, index) => index % 2 === 0 && each === place) + 1]!
  // Sound on both sides, near to the cut: the rest itself is laid by the assembler.
  expect(rmsDb(samples.subarray(at - 4_800, at))).toBeGreaterThan(-40)
  expect(rmsDb(samples.subarray(at, at + 4_800))).toBeGreaterThan(-40)
})

test('with a third of all answers at fault everything comes, and each request is billed once', async () => {
  const { service, engine } = await setUp({ charactersPerRequest: 300, faults: { busy: 0.1, unavailable: 0.08, cutOff: 0.08, slow: 0.07 }, slowMs: 3_000 }, { random: randomOf(7), timeoutMs: 2_500 })
  const answers = await askAll(engine, asked(sentences))
  expect([...answers.values()].filter(answer => 'samples' in answer)).toHaveLength(sentences.length)
  const ids = service.billed().map(({ request }) => request)
  expect(new Set(ids).size).toBe(ids.length)
  expect(service.service.asked.filter(({ status }) => status !== 200).length).toBeGreaterThan(0)
}, 120_000)

test('without idempotency keys an answer that was cut off is paid for again, and no other', async () => {
  let cuts = 0
  // The first two requests are cut off.
  const { service, engine } = await setUp({ idempotency: false, faults: { busy: 0, unavailable: 0, cutOff: 0.5, slow: 0 } }, { random: () => (cuts += 1) <= 2 ? 0.1 : 0.9 })
  await askAll(engine, asked(sentences.slice(0, 3)))
  expect(service.billed()).toHaveLength(3)
})

test.each([
  ['a wrong key', {}, 'wrong', 'account-refused'],
  ['a spent allowance', { charactersPerMonth: 5 }, undefined, 'allowance-spent'],
] as const)('%s is a clear problem at once', async (_, settings, key, code) => {
  const { service, engine } = await setUp(settings, { accounts: own => ({ ...own, of: async id => ({ ...(await own.of(id))!, ...(key === undefined ? {} : { key }) }) }) })
  expect((await problemOf(engine.speak(requestForText(casting, 'The bees.')))).code).toBe(code)
  expect(service.service.bill.entries).toEqual([])
})

test('without an account it has no voices, and says what to do when it is asked all the same', async () => {
  const { engine } = await setUp({}, { accounts: own => ({ ...own, of: () => Promise.resolve(null) }) })
  expect((await engine.list()).voices).toEqual([])
  expect(await problemOf(engine.speak(requestForText(casting, 'The bees.')))).toMatchObject({ code: 'account-missing', message: expect.stringContaining('Settings') as string })
})

test('a service that is not there is tried again, and then a problem that says so', async () => {
  const { service, engine } = await setUp({}, { firstWaitMs: 10 })
  await engine.list()
  await service.close()
  running.splice(running.indexOf(service), 1)
  expect(await problemOf(engine.speak(requestForText(casting, 'The bees.')))).toMatchObject({ code: 'service-stopped', message: expect.stringContaining('cannot be reached') as string })
  // The voices that it had stay known.
  expect((await engine.list()).voices.length).toBeGreaterThan(0)
})

test('the key is in no problem, and a price is in the list of voices', async () => {
  const { engine } = await setUp()
  const { voices } = await engine.list()
  expect(voices.map(({ id, tier, price }) => [id, tier, price])).toContainEqual(['en-gb-avocet', 'fine', { microsPerMillion: 16_000_000, currency: 'EUR' }])
  expect(castingFor({ voices, variants: [] }, 'de', {}).voice).toBe('de-wendehals')
})

test('what was begun before and got lost is asked for again in the same words, and takes are given for what is wanted alone', async () => {
  const keys: string[] = []
  const begun: Parameters<Accounts['reserve']>[1]['order'][] = []
  const { service, engine } = await setUp({}, {
    accounts: own => ({
      ...own,
      begun: () => Promise.resolve(begun),
      reserve: (_, { order }) => {
        begun.push(order)
        keys.push('11111111-1111-4111-8111-111111111111')
        return Promise.resolve(keys[0]!)
      },
    }),
  })
  await askAll(engine, asked(sentences.slice(0, 3)))
  begun.splice(1)
  const again = await askAll(engine, asked(sentences.slice(0, 3)).slice(1, 2))
  expect([...again.keys()]).toEqual(['1'])
  expect(service.billed()).toHaveLength(1)
})

test('a request that the service refuses does not take its neighbours with it', async () => {
  const { engine } = await setUp()
  const bad: EngineRequest = { ...requestForText(casting, 'x'), body: { pieces: [{ segments: [{ text: 'Bees.', rate: 40, pitchSemitones: 0 }] }] } }
  const answers = await askAll(engine, [...asked(['One.', 'Two.']), { key: 'bad', request: bad, purpose: null }])
  expect([...answers].map(([key, answer]) => [key, 'samples' in answer ? 'spoken' : answer.code])).toEqual([['0', 'spoken'], ['1', 'spoken'], ['bad', 'request-refused']])
})

const tone = (ms: number): number[] => Array.from({ length: ms * 24 }, (_, index) => Math.round(8_000 * Math.sin(index / 5)))
const quiet = (ms: number): number[] => new Array<number>(ms * 24).fill(0)

test('an answer is cut in its silence, near the times of its words, or not at all', () => {
  const samples = Int16Array.from([...quiet(100), ...tone(300), ...quiet(400), ...tone(300), ...quiet(100)])
  const words = [{ place: 0, sample: 100 * 24 }, { place: 5, sample: 800 * 24 }]
  const pieces = divided({ samples, words }, 24_000, [5, 5])!
  expect(pieces.map(({ samples: own, words: marks }) => [Math.round(own.length / 24), marks])).toEqual([[600, [{ place: 0, sample: 2_400 }]], [600, [{ place: 0, sample: 4_800 }]]])
  expect(divided({ samples, words: words.slice(0, 1) }, 24_000, [5, 5])).toBeNull()
  expect(silenceBetween(Int16Array.from([...tone(100), ...quiet(60), ...tone(100)]), 24_000, 0, 260 * 24)).toBeNull()
})

test('a service that does not say at once what it offers is asked for that again, but not while a user waits', async () => {
  const service = await speechService()
  running.push(service)
  let requests = 0
  // A door before it that is closed twice.
  const door = createServer(({ url }, response) => {
    requests += 1
    if (requests <= 6) response.writeHead(503).end()
    else void fetch(`${service.account.address}${url!}`, { headers: { authorization: `Bearer ${service.account.key}` } }).then(async answer => response.end(await answer.text()))
  })
  await new Promise<void>(resolve => { door.listen(0, '127.0.0.1', resolve) })
  const address = `http://127.0.0.1:${(door.address() as AddressInfo).port}`
  const engine = kind.open({ programs, parallel: 1, firstWaitMs: 10, accounts: { ...service.accounts, of: () => Promise.resolve({ ...service.account, address }) } })
  opened.push(engine)
  expect(await problemOf(engine.about())).toMatchObject({ code: 'service-busy', message: expect.stringContaining('503') as string })
  expect(await problemOf(engine.list())).toMatchObject({ code: 'service-busy' })
  expect(await engine.questions!(asked(['One.']))).toHaveLength(1)
  door.closeAllConnections()
  door.close()
})
