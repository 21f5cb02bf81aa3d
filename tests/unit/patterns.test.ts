import { execFile } from 'node:child_process'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { sentenceSpans } from '#core/language/sentences'
import { spokenForm } from '#core/score/spoken'
import { plainContent } from '#core/script/content'
import { afterProlog } from '#core/script/xml-prolog'
import { presetRules } from '#core/style/presets'
import { newRule, prepareRules, ruleNames } from '#core/style/rule'
import { root } from '../support/paths'

// No text that somebody brings may hold the machine up: what looks for something in it takes time that grows with its length only.

test('every pattern of the sources takes 100,000 hostile characters in its stride', async () => {
  // The watchdog ends it after two minutes: one pattern that backtracks would take years.
  const { stdout } = await promisify(execFile)(process.execPath, [join(root, 'tests/support/slow-patterns.mjs'), root, 'core', 'intake', 'voices', 'shared', 'press', 'store', 'server', 'app'], { timeout: 120_000 })
  const { patterns, slow } = JSON.parse(stdout) as { patterns: number, slow: string[] }
  expect(patterns).toBeGreaterThan(600)
  expect(slow).toEqual([])
}, 150_000)

const hostile = [' ', 'a', 'A', '0', '.', ',', '-', '–', '/', '(', '[', '"', '“', '\'', '#', '*', '_', '=', '+', '@', '%', '&', '…', '—', '\n', 'I', '🐝', '1 ', 'a.', 'A-', '.@', 'a@', '1.', '1,', '1/', '1+', ' +1', 'No. ', 'St. ', 'http://', '€ ', '1 kg ', 'Nov. ', '5 p.m. ']

/** A text thirty times as long takes thirty times as long, on a busy machine some times more; with the square it takes 900 times. */
const slack = 5
const mostTries = 3

/** Fails where time grows with more than the length; a text of 100,000 characters is tried only where one of 3,000 does not foretell that it would never end. */
function inStride(name: string, find: (text: string) => unknown, units = hostile, length = 100_000): string[] {
  // Of the processor: what other programs and machines take does not count. The best of some, up to one that is within the bound.
  const timed = (length: number, unit: string, bound: number): number => {
    const text = `${unit.repeat(Math.ceil(length / unit.length))}x`
    let best = Infinity
    for (let tries = 0; best > bound && tries < mostTries; tries += 1) {
      const before = process.cpuUsage()
      find(text)
      const { user, system } = process.cpuUsage(before)
      best = Math.min(best, (user + system) / 1000)
    }
    return best
  }
  return units.flatMap(unit => {
    const few = Math.min(timed(3_000, unit, 200), timed(3_000, unit, 200))
    if (few > 200) return [`${name} on ${JSON.stringify(unit)}: ${Math.round(few)} ms for 3,000 characters`]
    const bound = Math.max(1_000, few * (length / 3_000) * slack)
    const many = timed(length, unit, bound)
    return many > bound ? [`${name} on ${JSON.stringify(unit)}: ${Math.round(few)} ms for 3,000 characters, ${Math.round(many)} for ${length}`] : []
  })
}

test.each(['en-GB', 'de', 'fr', 'es'])('what each rule looks for in %s is found in time that grows with the text', language => {
  const slow = ruleNames.flatMap(does => {
    const { rules } = prepareRules([newRule(does, does)])
    return inStride(does, text => rules[0]!.find({ text, language, kind: 'paragraph' }, { kind: 'paragraph' }))
  })
  expect(slow).toEqual([])
}, 120_000)

test('all rules together act in time that grows with the text', () => {
  const rules = prepareRules(presetRules('course'))
  expect(inStride('course', text => spokenForm(plainContent(text), 'en-GB', { rules }), ['1 ', '1+', ' +1', '.@', '%', '_ ', 'A-', 'a. ', '1 kg. ', 'No. 5. '], 30_000)).toEqual([])
}, 120_000)

test('sentences are found in time that grows with the text', () => {
  expect(inStride('sentences', text => sentenceSpans(text, 'en'))).toEqual([])
})

test('a page with forty comments before its first element is a page', () => {
  const page = `${'<!-- saved -->\n'.repeat(40)}<html>`
  expect(page.slice(afterProlog(page))).toBe('<html>')
  const document = '<?xml version="1.0"?>\n<!DOCTYPE a [<!ENTITY b "c>">]>\n<!-- <html> --><speak>'
  expect(document.slice(afterProlog(document))).toBe('<speak>')
  for (const open of ['<!--', '<?x', '<!doctype [']) expect(afterProlog(open.repeat(30_000))).toBe(open.length * 30_000)
})
