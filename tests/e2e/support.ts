import { expect, type Locator, type Page } from '@playwright/test'
import pg from 'pg'
import { wavHeader } from '#core/audio/wav'
import type { PresetName } from '#core/style/presets'
import type { ManuscriptView, ProductionView, ReadingDesk } from '#shared/api'

export const address = (): string => process.env['QUILL_ADDRESS']!

/** A short document whose sentences no other test has. */
export function markdown(name: string, chapters = 3): string {
  const chapter = (number: number): string => `## ${name} chapter ${number}\n\nThis is the first sentence of ${name} ${number}. Here is a second one in ${name} ${number}.\n\n- ${name} item ${number}\n\n> Said in ${name} ${number}.\n`
  return `# ${name}\n\n${Array.from({ length: chapters }, (_, index) => chapter(index + 1)).join('\n')}`
}

/** Asks the server for JSON, past the pages. */
export async function ask<T>(path: string, body?: object, method = body === undefined ? 'GET' : 'POST'): Promise<T> {
  const response = await fetch(`${address()}/api/${path}`, body === undefined ? { method } : {
    method, body: JSON.stringify(body), headers: { 'content-type': 'application/json' },
  })
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return await response.json() as T
}

/** Sends a document and waits until it has been read. */
export async function takeIn(name: string, body: string | Buffer<ArrayBuffer>): Promise<ManuscriptView> {
  const sent = await fetch(`${address()}/api/manuscripts?name=${encodeURIComponent(name)}`, { method: 'POST', body })
  const { id } = await sent.json() as ManuscriptView
  await expect.poll(async () => (await ask<ManuscriptView>(`manuscripts/${id}`)).state, { timeout: 120_000, intervals: [50] }).toBe('ready')
  return ask<ManuscriptView>(`manuscripts/${id}`)
}

/** A new production of a text, as the intake page makes it, or with another house style; gives its edition's id. */
export async function makeProduction(name: string, text: string, houseStyle?: PresetName): Promise<string> {
  const { id, found } = await takeIn(`${name}.md`, text)
  return (await ask<{ editionId: string }>('editions', { manuscriptId: id, title: found!.title, language: found!.language, ...(houseStyle === undefined ? {} : { houseStyle }) })).editionId
}

/** The production of an edition. */
export const productionOf = (editionId: string): Promise<ProductionView> => ask<ProductionView>(`productions/${editionId}`)

/** Removes the production of an edition. */
export async function removeProductionOf(editionId: string): Promise<void> {
  await ask(`productions/${(await productionOf(editionId)).id}`, undefined, 'DELETE')
}

/** A new production of a short document, open on the Script page; gives its address, with the id of its edition. */
export async function bringIn(page: Page, name: string, chapters = 3): Promise<string> {
  const production = `${address()}/productions/${await makeProduction(name, markdown(name, chapters))}`
  await page.goto(`${production}/script`)
  await expect(page.locator('.ProseMirror')).toBeVisible()
  return production
}

/** Reads everything that is missing. */
export async function readAll(production: string): Promise<void> {
  const id = production.split('/').at(-1)!
  await ask(`editions/${id}/readings`, {})
  await expect.poll(async () => (await ask<ReadingDesk>(`editions/${id}/reading`)).reading?.state, { timeout: 60_000, intervals: [200] }).toBe('done')
}

/** Options of a list that are gone through at most. */
const mostOptions = 50

/** Chooses what a list has that begins so, with the arrow keys. Where the focus is put meanwhile by other means it goes back: a list that opens puts it on what is chosen. */
export async function chooseByKeys(page: Page, list: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: list, exact: true }).focus()
  await page.keyboard.press('ArrowDown')
  const focused = page.locator('[role=option]:focus')
  await expect(focused).toBeVisible()
  for (let steps = 0; steps < mostOptions && !(await focused.textContent())!.trim().startsWith(option); steps += 1) await page.keyboard.press('ArrowDown')
  await expect(focused).toContainText(option)
  await page.keyboard.press('Enter')
}

/** Finds a command by its name in the list of commands, and does it. */
export async function doCommand(page: Page, title: string): Promise<void> {
  await page.keyboard.press('Control+k')
  await page.keyboard.type(title)
  await page.keyboard.press('Enter')
}

export const passage = (page: Page, text: string): Locator => page.locator('.ProseMirror .passage', { hasText: text })

/** Puts the caret at the end of a passage and types. */
export async function typeInto(page: Page, text: string, typed: string): Promise<void> {
  // Lines may still move while the fonts arrive.
  await expect(async () => {
    const box = (await passage(page, text).boundingBox())!
    await passage(page, text).click({ position: { x: box.width - 3, y: box.height - 8 }, timeout: 10_000 })
  }).toPass()
  await page.keyboard.press('End')
  await page.keyboard.type(typed)
}

export const saved = (page: Page): Promise<void> => expect(page.locator('.status')).toHaveText('Saved')

/** Hz, of sounds that tests bring in. */
export const soundRate = 22_050

/** Such a sound as a WAV file. */
export const wavFile = (samples: Int16Array): Uint8Array<ArrayBuffer> => new Uint8Array([...wavHeader(samples.length, soundRate), ...new Uint8Array(samples.buffer)])

/** Asks the database itself, for what only a fault brings about. */
export async function inDatabase(sql: string, values: unknown[] = []): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['QUILL_TEST_DATABASE']! })
  await client.connect()
  await client.query(sql, values)
  await client.end()
}
