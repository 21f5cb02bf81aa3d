import { execFile, spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { appendFile, mkdtemp, readFile, readdir, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { promisify } from 'node:util'
import { expect, test, type Page } from '@playwright/test'
import pg from 'pg'
import type { Manifest } from '#core/delivery/manifest'
import { Application, mostInFlight } from '../../bench/application'
import { passage, saved, typeInto } from './support'

// Each process is killed at a seeded moment of each stage that it works in; the work must go on by itself, and its result be that of an
// undisturbed run. QUILL_KILLS: how often for each pair. QUILL_KILL_REPORT: a file that gets a line of JSON for each kill.

const kills = Number(process.env['QUILL_KILLS'] ?? 1)
const report = process.env['QUILL_KILL_REPORT']
const recoveryMs = 75_000

const commands = { server: '.output/server/index.mjs', worker: 'dist/worker.mjs', reader: 'dist/reader-child.mjs', engine: 'dist/espeak-child.mjs', encoder: 'libopus' } as const
type Victim = keyof typeof commands | 'database'

/** MP3 is encoded in threads of the worker: only other formats have processes that can be killed. */
const profileFor = (victim: Victim): 'book' | 'web' => victim === 'encoder' ? 'web' : 'book'

let application: Application
let folder = ''
/** How long a reading and a delivery take here, undisturbed, ms. */
let usual = { reading: 0, delivery: 0 }

test.beforeAll(async () => {
  application = await Application.start('test-results/log-kill', 4480)
  folder = await mkdtemp(join(tmpdir(), 'quill kill '))
  const id = await application.produce('Undisturbed', scriptOf('Undisturbed'), 2)
  usual = { reading: await application.read(id) * 1000, delivery: await application.deliver(id) * 1000 }
})
test.afterAll(async () => {
  await application.stop()
  await rm(folder, { recursive: true, force: true })
})

/** About 40 s of audio in four parts, whose sentences no other test has. */
function scriptOf(name: string): string {
  return `# ${name}\n\n${[1, 2, 3, 4].map(part => `## ${name} ${part}\n\n${[1, 2, 3].map(number => `In ${name} this is sentence ${number} of part ${part}.`).join(' ')}\n`).join('\n')}`
}

/** 0…1, the same for the same words. */
function seeded(words: string): number {
  return createHash('sha256').update(words).digest().readUInt32LE(0) / 2 ** 32
}

async function processes(victim: Victim): Promise<number[]> {
  if (victim === 'database') return [application.pid('database')]
  const found: number[] = []
  for (const name of await readdir('/proc')) {
    if (!/^\d+$/u.test(name)) continue
    const read = (file: string): Promise<string> => readFile(`/proc/${name}/${file}`, 'utf8').catch(() => '')
    if ((await read('cmdline')).includes(commands[victim]) && (await read('environ')).includes(`QUILL_DATA=${application.environment['QUILL_DATA']}`)) found.push(Number(name))
  }
  return found
}

/** Kills a process; false when it has ended meanwhile by itself. */
function wasThere(pid: number): boolean {
  try {
    return process.kill(pid, 'SIGKILL')
  } catch {
    return false
  }
}

/** Kills as soon as there is something to kill; false when there is nothing before `until` ends. */
async function kill(victim: Victim, until: Promise<unknown>): Promise<boolean> {
  let ended = false
  void until.finally(() => { ended = true }).catch(() => undefined)
  while (!ended) {
    const killed = (await processes(victim).catch(() => [])).filter(wasThere)
    if (killed.length > 0) return true
    await sleep(2)
  }
  return false
}

/** Tries again while server or database are away. */
async function insist<T>(action: () => Promise<T>): Promise<T> {
  for (const began = Date.now(); ;) {
    try {
      return await action()
    } catch (error) {
      if (Date.now() - began > recoveryMs || !/fetch failed|: 50[03]/u.test((error as Error).message)) throw error
      await sleep(200)
    }
  }
}

/** Waits until a reading or a delivery has ended; it must not have been started a second time. */
async function ended(id: string, stage: 'reading' | 'delivery'): Promise<void> {
  const state = async (): Promise<string> => stage === 'reading'
    ? (await application.ask<{ reading: { state: string, made: number, total: number, faults: number } | null }>(`editions/${id}/reading`)).reading!.state
    : (await application.runSheet(id)).deliveries[0]!.state
  await expect.poll(() => insist(state), { timeout: recoveryMs, intervals: [50] }).not.toBe('running')
  expect(await insist(state)).toBe('done')
}

async function query<T>(sql: string): Promise<T[]> {
  const client = new pg.Client(application.environment['QUILL_DATABASE_URL'])
  await client.connect()
  try {
    return (await client.query(sql)).rows as T[]
  } finally {
    await client.end()
  }
}

/** Bytes in packs that no take lies in: audio that was written and not made known when its process died, or made twice. */
async function lostBytes(): Promise<number> {
  const takes = join(application.environment['QUILL_DATA']!, 'takes')
  let bytes = 0
  for (const name of await readdir(takes)) bytes += (await stat(join(takes, name))).size
  const [row] = await query<{ live: string }>('SELECT coalesce(sum(sample_count * 2), 0) AS live FROM takes')
  return bytes - Number(row!.live)
}

/** The newest delivery's files and manifest must be those of an undisturbed run of the same text by the command line, and nothing else lie there. */
async function expectUndisturbed(id: string, name: string, victim: Victim): Promise<void> {
  const own = await mkdtemp(join(folder, 'run '))
  await writeFile(join(own, 'text.md'), scriptOf(name))
  await promisify(execFile)(join(process.cwd(), 'bin/quill'), ['read', join(own, 'text.md'), '--language', 'en-GB', '--profile', profileFor(victim), '--out', join(own, 'out'), '--cache', join(own, 'cache')])
  const undisturbed = JSON.parse(await readFile(join(own, 'out/manifest.json'), 'utf8')) as Manifest
  const delivered = join(application.environment['QUILL_DATA']!, 'deliveries', (await insist(() => application.runSheet(id))).deliveries[0]!.id)
  expect(JSON.parse(await readFile(join(delivered, 'manifest.json'), 'utf8'))).toEqual(undisturbed)
  expect((await readdir(delivered)).sort()).toEqual([...undisturbed.files.map(file => file.name), 'SHA256SUMS', 'manifest.json', 'playlist.cue', 'playlist.m3u8'].sort())
  for (const file of undisturbed.files) {
    expect(createHash('sha256').update(await readFile(join(delivered, file.name))).digest('hex')).toBe(file.sha256)
  }
}

/** Lets a stage run and kills a process in it; again with another text when the stage was over before. Gives the production and its name. */
async function disturb(victim: Victim, stage: 'reading' | 'delivery', name: string): Promise<{ id: string, name: string }> {
  for (let attempt = 1; attempt <= 5; attempt += 1) {
    const own = `${name} ${attempt}`
    const id = await insist(() => application.produce(own, scriptOf(own), 2))
    await insist(() => application.ask(`editions/${id}`, 'PATCH', { profile: profileFor(victim) }))
    if (stage === 'delivery') await insist(() => application.read(id))
    await application.ask(stage === 'reading' ? `editions/${id}/readings` : `editions/${id}/deliveries`, 'POST', {})
    const over = ended(id, stage)
    // The later attempts are earlier in the stage.
    await sleep(seeded(own) * usual[stage] / attempt)
    const killed = await kill(victim, over)
    await over
    if (killed) return { id, name: own }
  }
  throw new Error(`The ${victim} was never there in a ${stage}.`)
}

async function noted(pair: string, check: () => Promise<number>): Promise<void> {
  let lost = 0
  let survived = false
  try {
    lost = await check()
    survived = true
  } finally {
    if (report !== undefined) await appendFile(report, `${JSON.stringify({ pair, survived, lost })}\n`)
  }
}

for (let number = 1; number <= kills; number += 1) {
  for (const [victim, stage] of [
    ['server', 'reading'], ['worker', 'reading'], ['engine', 'reading'], ['database', 'reading'],
    ['server', 'delivery'], ['worker', 'delivery'], ['encoder', 'delivery'], ['database', 'delivery'],
  ] as const) {
    test(`${victim} killed during ${stage}, ${number}: it goes on by itself, nothing is made twice, the files are those of an undisturbed run`, async () => {
      await noted(`${victim}, ${stage}`, async () => {
        const before = await insist(lostBytes)
        const { id, name } = await disturb(victim, stage, `The ${victim} ${stage} ${number}`)
        if (stage === 'reading') await insist(() => application.deliver(id))
        await expectUndisturbed(id, name, victim)
        const [take] = await query<{ bytes: number }>('SELECT avg(sample_count * 2)::double precision AS bytes FROM takes')
        const lost = Math.round((await lostBytes() - before) / take!.bytes)
        expect(lost).toBeLessThanOrEqual(stage === 'reading' ? mostInFlight : 0)
        return lost
      })
    })
  }

  for (const victim of ['server', 'reader', 'database'] as const) {
    test(`${victim} killed during intake, ${number}: the document arrives all the same`, async ({ page }) => {
      await noted(`${victim}, intake`, async () => {
        const name = `The ${victim} intake ${number}`
        await page.goto(application.address)
        const chooser = page.waitForEvent('filechooser')
        await page.getByRole('button', { name: 'Bring in a document' }).click()
        const long = `${scriptOf(name)}\n\n${'It goes on like this for a long time, so that there is a middle. '.repeat(60_000)}`
        await (await chooser).setFiles({ name: `${name}.md`, mimeType: 'text/markdown', buffer: Buffer.from(long) })
        const arrived = page.getByRole('button', { name: /^Accept \d+ part/u }).waitFor({ timeout: recoveryMs })
        await sleep(seeded(name) * 300)
        expect(await kill(victim, arrived)).toBe(true)
        await arrived
        expect((await readdir(join(application.environment['QUILL_DATA']!, 'manuscripts'))).filter(file => !file.endsWith('.part'))).not.toEqual([])
        return 0
      })
    })
  }

  for (const victim of ['server', 'database'] as const) {
    test(`${victim} killed during editing, ${number}: what is typed meanwhile is kept and saved`, async ({ page }) => {
      await noted(`${victim}, editing`, async () => {
        const name = `The ${victim} editing ${number}`
        const id = await insist(() => application.produce(name, scriptOf(name), 2))
        await edit(page, `${application.address}/productions/${id}/script`, name, victim)
        return 0
      })
    })
  }
}

async function edit(page: Page, production: string, name: string, victim: Victim): Promise<void> {
  await page.goto(production)
  await page.getByRole('button', { name: new RegExp(`^${name} 1`, 'u') }).or(page.getByText(`${name} 1`).first()).first().click()
  await typeInto(page, 'this is sentence 3 of part 1', ' Typed before.')
  await sleep(seeded(name) * 1500)
  expect(await kill(victim, sleep(recoveryMs))).toBe(true)
  await page.keyboard.type(' Typed meanwhile.')
  await saved(page)
  await page.reload()
  await expect(passage(page, 'Typed before. Typed meanwhile.')).toBeVisible()
}

test('two workers share a reading, and make nothing twice', async () => {
  const other = spawn(process.execPath, [join(process.cwd(), 'dist/worker.mjs')], { env: { ...process.env, ...application.environment }, stdio: 'ignore' })
  try {
    await expect.poll(async () => (await query('SELECT id FROM workers WHERE seen_at > now() - interval \'30 seconds\'')).length, { timeout: 30_000 }).toBeGreaterThan(1)
    const before = await lostBytes()
    const text = Array.from({ length: 400 }, (_, number) => `Shared sentence ${number}.`).join(' ')
    const id = await application.produce('Shared', `# Shared\n\n## Shared part\n\n${text}\n`, 2)
    await application.read(id)
    const packs = await query(`SELECT DISTINCT t.pack FROM readings r JOIN reading_utterances u ON u.reading_id = r.id JOIN takes t ON t.key = u.key WHERE r.edition_id = '${id}'`)
    // Each process writes packs of its own.
    expect(packs.length).toBeGreaterThanOrEqual(2)
    expect(await lostBytes()).toBe(before)
  } finally {
    other.kill('SIGTERM')
  }
})

test('sentences that the engine dies on are faults with their place; the rest is read, and they are read from the list', async ({ page }) => {
  const text = (name: string): string => `# ${name}\n\n## Of faults\n\n${Array.from({ length: 150 }, (_, number) => `In ${name} this is sentence ${number}.`).join(' ')}\n`
  let id = ''
  let pauseMs = 800
  for (let attempt = 1; attempt <= 5; attempt += 1) {
    const name = `Faulty ${attempt}`
    id = await application.produce(name, text(name), 2)
    await application.ask(`editions/${id}/readings`, 'POST', {})
    const over = ended(id, 'reading')
    let running = true
    void over.finally(() => { running = false }).catch(() => undefined)
    // The second comes while the child that replaces the first has the sentence in hand.
    while (running) {
      await kill('engine', over)
      await sleep(100)
      await kill('engine', over)
      await sleep(pauseMs)
    }
    // On a slow machine so many fail in a row that the reading ends itself: then the next goes slower.
    if (!await over.then(() => true, () => false)) {
      pauseMs *= 2
      continue
    }
    if ((await application.ask<{ faults: unknown[] }>(`editions/${id}/reading`)).faults.length >= 2) break
    // On a quick one too few are struck.
    pauseMs /= 2
  }
  await page.goto(`${application.address}/productions/${id}/reading`)
  const faults = page.locator('.faults')
  const rows = faults.locator('tbody tr')
  await expect(rows.first()).toContainText('Of faults')
  await expect(rows.first()).toContainText('The speech engine stopped twice on this text. Shorten or rewrite it.')
  const count = await rows.count()
  await rows.first().getByRole('button', { name: 'Try again' }).click()
  await expect(rows).toHaveCount(count - 1)
  await faults.getByRole('button', { name: /^Try/u }).first().click()
  await expect(page.getByRole('heading', { name: 'All read' })).toBeVisible()
  await expect(faults).toHaveCount(0)
})
