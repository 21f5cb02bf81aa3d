import escapeHtml from 'escape-html'
import type { SpeechService } from './service'
import { tierNames } from './settings'

const amount = (micros: number, currency: string): string => `${(micros / 1_000_000).toFixed(6)} ${currency}`
const row = (cells: readonly (string | number)[]): string => `<tr>${cells.map(cell => `<td>${escapeHtml(String(cell))}</td>`).join('')}</tr>`
const table = (heads: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  `<table><thead><tr>${heads.map(head => `<th scope="col">${head}</th>`).join('')}</tr></thead><tbody>${rows.map(row).join('')}</tbody></table>`
const shownEntries = 50

/** The service's own page: how it is set, what it was asked, what it has billed. */
export function pageOf({ settings, bill, asked }: SpeechService): string {
  const { currency, prices, faults } = settings
  const month = bill.monthOf(new Date())
  return `<!doctype html><html lang="en"><meta charset="utf-8"><title>Simulated speech service</title>
<style>body{font:15px/1.5 sans-serif;max-width:60rem;margin:2rem auto;padding:0 1rem}table{border-collapse:collapse;margin:0 0 1.5rem}td,th{border:1px solid #bbb;padding:.2rem .6rem;text-align:left}</style>
<h1>Simulated speech service</h1>
<p>It sells speech as an outside service would, for trying things out: nothing here costs money. Its settings are in the file settings.json of its folder, and are read at its start.</p>
<h2>How it is set</h2>
${table(['Setting', 'Value'], [
  ['Characters in a request', `${settings.charactersPerRequest}, markup ${settings.countsMarkup ? 'counted' : 'not counted'}`],
  ['Requests a second, at once', `${settings.requestsPerSecond}, ${settings.requestsAtOnce}`],
  ['Times of words', settings.wordTimes ? 'told' : 'not told'],
  ['Idempotency keys', settings.idempotency ? 'known' : 'not known'],
  ['Characters a month', settings.charactersPerMonth ?? 'no limit'],
  ...tierNames.map(tier => [`A million characters, ${tier}`, `${amount(prices[tier].microsPerMillion, currency)}; ${prices[tier].freeCharacters} a month are free`]),
  ['Faults', `${faults.busy * 100} % busy, ${faults.unavailable * 100} % unavailable, ${faults.cutOff * 100} % cut off, ${faults.slow * 100} % slow`],
])}
<h2>Bill of ${month.month}: ${amount(month.micros, currency)}</h2>
<p>${month.characters.plain} characters plain, ${month.characters.fine} fine, ${bill.entries.length} requests in all. <a href="/bill.csv">As CSV</a></p>
${table(['Time', 'Request', 'Voice', 'Tier', 'Characters', 'Price'], bill.entries.slice(-shownEntries).reverse().map(each => [each.at, each.request ?? '–', each.voice, each.tier, each.characters, amount(each.micros, currency)]))}
<h2>Last requests</h2>
${table(['Time', 'Voice', 'Characters', 'Answer'], asked.map(each => [each.at, each.voice, each.characters, each.status]))}
</html>`
}
