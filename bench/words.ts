import type { Page } from '@playwright/test'
import type { Unit } from '#core/score/compile'
import type { Script } from '#core/script/script'
import { defaultHouseStyle, patchBetween } from '#core/style/house-style'
import { presetRules } from '#core/style/presets'
import { prepareRules } from '#core/style/rule'
import { wordFinder } from '#core/words/find-words'
import type { WordEntry } from '#core/words/wordbook'
import type { Application } from './application'
import { chaptersOfTheBook, markdownOf } from './book'
import { inBrowser } from './browser'
import { scoreOf } from './score'
import type { Note } from './note'

const style = { ...defaultHouseStyle, rules: presetRules('book') }
const word = (id: string, written: string, said: string): WordEntry => ({ id, graphemes: [written], language: 'en', said: [{ by: 'ipa', text: said }] })

/** Milliseconds between two marks of the page. */
function between(page: Page, from: string, to: string): Promise<number> {
  return page.evaluate(([first, last]) => performance.getEntriesByName(last!)[0]!.startTime - performance.getEntriesByName(first!)[0]!.startTime, [from, to])
}

/** Census, rules and wordbook over the whole book. */
export async function benchWords(application: Application, script: Script, note: Note): Promise<void> {
  console.log('\nWords of the whole book')
  const editionId = await application.produce('The book and its words', markdownOf('The book and its words', chaptersOfTheBook()), 2)
  await application.ask(`editions/${editionId}/operations`, 'POST', { window: 'benchmark', operations: [{ op: 'setHouseStyle', patch: patchBetween(defaultHouseStyle, style) }] })
  const rules = prepareRules(style.rules)
  const units = new Map<string, Unit>()
  const cache = { get: (input: string) => units.get(input), set: (input: string, unit: Unit) => { units.set(input, unit) } }
  const compileAll = (entries: readonly WordEntry[]): number => {
    const began = performance.now()
    const findWords = wordFinder([{ version: 1, entries }])
    for (const part of script.parts) scoreOf(part, { language: 'en', style, rules, findWords }, cache)
    return (performance.now() - began) / 1000
  }
  note('score with the rules of a book', compileAll([word('1', 'Queequeg', 'ˈkwiːkwɛɡ')]), 's')
  const before = units.size
  note('recompile after one change of the wordbook', compileAll([word('1', 'Queequeg', 'ˈkwɪkwɛɡ')]), 's', 1)
  note('passages compiled again', units.size - before, '')

  const address = `${application.address}/productions/${editionId}/words`
  await inBrowser(async page => {
    await page.addInitScript(() => {
      const noted = window as unknown as { longestGap: number }
      noted.longestGap = 0
      let last = performance.now()
      const look = (now: number): void => {
        // Only while the census is taken.
        if (performance.getEntriesByName('census asked').length > 0 && performance.getEntriesByName('census done').length === 0) noted.longestGap = Math.max(noted.longestGap, now - last)
        last = now
        requestAnimationFrame(look)
      }
      requestAnimationFrame(look)
    })
    await page.goto(address)
    await page.waitForFunction(() => performance.getEntriesByName('census done').length > 0)
    note('census, first entries', await between(page, 'census asked', 'census first') / 1000, 's', 0.5)
    note('census, all', await between(page, 'census asked', 'census done') / 1000, 's', 3)
    note('longest time between two frames meanwhile', await page.evaluate(() => (window as unknown as { longestGap: number }).longestGap), 'ms')
    note('entries', Number((await page.getByRole('button', { name: 'All that is open' }).textContent())!.replace(/\D/gu, '')), '')
    await page.goto(`${address}?view=style`)
    await page.waitForFunction(() => performance.getEntriesByName('rules done').length > 0)
    note('preview of all rules', await between(page, 'rules asked', 'rules done') / 1000, 's', 2)
  })
  const texts = Array.from({ length: 50 }, (_, index) => `Queequeg${'abcde'[index % 5]!}${'xyz'[index % 3]!}`)
  await application.ask(`editions/${editionId}/words/ipa`, 'POST', { texts: ['warm'] })
  const times: number[] = []
  for (let run = 0; run < 5; run += 1) {
    const began = performance.now()
    await application.ask(`editions/${editionId}/words/ipa`, 'POST', { texts })
    times.push(performance.now() - began)
  }
  note('IPA of 50 words, median of 5', times.sort((a, b) => a - b)[2]!, 'ms', 100)
}
