import { expect, type Locator, type Page } from '@playwright/test'

export const address = (): string => process.env['QUILL_ADDRESS']!

/** A short document whose sentences no other test has. */
export function markdown(name: string, chapters = 3): string {
  const chapter = (number: number): string => `## ${name} chapter ${number}\n\nThis is the first sentence of ${name} ${number}. Here is a second one in ${name} ${number}.\n\n- ${name} item ${number}\n\n> Said in ${name} ${number}.\n`
  return `# ${name}\n\n${Array.from({ length: chapters }, (_, index) => chapter(index + 1)).join('\n')}`
}

/** Brings a document in by the file dialog and accepts what was found; gives the production's address. */
export async function bringIn(page: Page, name: string, chapters = 3): Promise<string> {
  await page.goto(address())
  const chooser = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Bring in a document' }).click()
  await (await chooser).setFiles({ name: `${name}.md`, mimeType: 'text/markdown', buffer: Buffer.from(markdown(name, chapters)) })
  await page.getByRole('button', { name: `Accept ${chapters} parts` }).click()
  await expect(page).toHaveURL(/\/script/u)
  await expect(page.locator('.ProseMirror')).toBeVisible()
  return page.url().replace(/\/script.*/u, '')
}

/** Reads everything that is missing, on the Reading page. */
export async function readAll(page: Page, production: string): Promise<void> {
  await page.goto(`${production}/reading`)
  await page.getByRole('button', { name: /^Read \d+ sentence/u }).click()
  await expect(page.getByRole('heading', { name: 'All read' })).toBeVisible({ timeout: 60_000 })
}

export const passage = (page: Page, text: string): Locator => page.locator('.ProseMirror .passage', { hasText: text })

/** Puts the caret at the end of a passage and types. */
export async function typeInto(page: Page, text: string, typed: string): Promise<void> {
  const box = (await passage(page, text).boundingBox())!
  await passage(page, text).click({ position: { x: box.width - 3, y: box.height - 8 } })
  await page.keyboard.press('End')
  await page.keyboard.type(typed)
}

export const saved = (page: Page): Promise<void> => expect(page.locator('.status')).toHaveText('Saved')
