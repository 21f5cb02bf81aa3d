import { init, use } from 'echarts/core'
import { ScatterChart } from 'echarts/charts'
import { AriaComponent, GridComponent, MarkAreaComponent, TitleComponent } from 'echarts/components'
import { SVGRenderer } from 'echarts/renderers'
import escape from 'escape-html'
import { clock } from '#core/estimate/clock'
import { decibels } from '#core/mastering/decibels'
import { faultLine, type ConformanceReport, type ReportFile } from '#core/delivery/report'
import { secondsOf, verdictOf } from '#core/delivery/verdict'
import { reportChart } from '#core/delivery/report-chart'

use([ScatterChart, AriaComponent, GridComponent, MarkAreaComponent, TitleComponent, SVGRenderer])

/** On paper. */
const colours = { text: '#1f2a30', line: '#d9d2c1', band: '#dfe8e2', passes: '#27695f', fails: '#b03a22' }
const chartSize = { width: 900, height: 340 }

const style = `
body { font: 14px/1.45 system-ui, sans-serif; color: ${colours.text}; max-width: 960px; margin: 24px auto; padding: 0 16px; }
h1 { font-size: 22px; margin: 0 0 4px; } h2 { font-size: 16px; margin: 24px 0 6px; } ul { padding-left: 18px; margin: 4px 0; }
table { border-collapse: collapse; width: 100%; } th, td { text-align: left; vertical-align: top; padding: 4px 8px; border-bottom: 1px solid ${colours.line}; }
th { font-weight: 600; } .number { text-align: right; font-variant-numeric: tabular-nums; white-space: nowrap; } .fails { color: ${colours.fails}; font-weight: 600; }
tr { break-inside: avoid; } thead { display: table-header-group; } svg { max-width: 100%; height: auto; }
@page { margin: 14mm; } @media print { body { margin: 0; } }`

/** A report as a page to print: one file that needs nothing else. */
export function reportHtml(report: ConformanceReport, language = 'en'): string {
  const { title, profile, asks, delivery, files, concession } = report
  const failing = files.filter(({ findings }) => verdictOf(findings) !== 'passes').length
  const count = `${files.length} ${files.length === 1 ? 'file' : 'files'}`
  const heading = delivery === null ? title : `${title}, delivery ${delivery.number}`
  return `<!doctype html>
<html lang="${escape(language)}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(heading)}: conformance</title><style>${style}</style></head>
<body>
<h1>${escape(heading)}</h1>
<p>Conformance report for the profile “${escape(profile)}”${delivery === null ? '' : `. Made ${escape(dayOf(delivery.madeAt))}; ${files.length < delivery.sheetCount ? `${files.length} of the ${delivery.sheetCount} files of the run sheet` : `all ${count} of the run sheet`}`}.</p>
<p>${failing === 0 ? `<b>${count}: all pass.</b>` : `<b class="fails">${failing} of ${count} ${failing === 1 ? 'does' : 'do'} not pass.</b>`}</p>
${concession === null ? '' : `<p>Delivered all the same, decided ${escape(dayOf(concession.at))}: ${escape(concession.reason)}</p>`}
<h2>What the profile asks for</h2>
<ul>${asks.map(line => `<li>${escape(line)}</li>`).join('')}</ul>
<h2>Levels</h2>
<p>Numbers on the line below are places in the table. The band is what the profile allows; a diamond fails by this measure.</p>
${chartSvg(report)}
<h2>Files</h2>
<table><thead><tr>${['', 'File', 'Minutes', 'RMS dB', 'LUFS', 'True peak dB', 'Floor dB', 'Head s', 'Tail s', 'Verdict'].map((name, index) => `<th${index === 0 || index > 1 && index < 9 ? ' class="number"' : ''}>${name}</th>`).join('')}</tr></thead>
<tbody>${files.map(rowOf).join('\n')}</tbody></table>
</body></html>
`
}

const dayOf = (time: string): string => `${time.slice(0, 16).replace('T', ' ')} UTC`

function rowOf({ name, durationMs, levels, findings }: ReportFile, index: number): string {
  const numbers = [clock(durationMs), decibels(levels?.rmsDb), decibels(levels?.integratedDb), decibels(levels?.truePeakDb), decibels(levels?.noiseFloorDb), secondsOf(levels?.headMs), secondsOf(levels?.tailMs)]
  const faults = findings === null || findings.length === 0 ? '' : `<ul>${findings.map(finding => `<li>${escape(faultLine(finding))}</li>`).join('')}</ul>`
  const verdict = verdictOf(findings)
  return `<tr><td class="number">${index + 1}</td><td>${escape(name)}${faults}</td>${numbers.map(text => `<td class="number">${text}</td>`).join('')}<td${verdict === 'passes' ? '' : ' class="fails"'}>${verdict}</td></tr>`
}

function chartSvg(report: ConformanceReport): string {
  const chart = init(null, null, { renderer: 'svg', ssr: true, ...chartSize })
  chart.setOption(reportChart(report, colours))
  const svg = chart.renderToSVGString()
  chart.dispose()
  return svg
}
