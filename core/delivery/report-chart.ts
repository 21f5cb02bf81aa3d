import type { EChartsOption } from 'echarts'
import type { FindingCode } from './conformance'
import { signed } from './profile'
import type { ConformanceReport, ReportFile } from './report'

/** Colours of a picture, as CSS writes them. */
export interface ChartColours {
  readonly text: string
  readonly line: string
  readonly band: string
  readonly passes: string
  readonly fails: string
}

/** What is measured of a file, and where it belongs. */
interface Measure {
  readonly name: string
  readonly value: (file: ReportFile) => number | null
  readonly least: number | null
  readonly most: number | null
  /** Faults of this measure. */
  readonly codes: readonly FindingCode[]
}

/** Beyond its band a picture shows so much, dB; what lies further off is drawn at its edge. */
const beyondDb = 6
/** A band without an end, or no band, reaches so far from what was measured, dB. */
const aroundDb = 3

/** Lines of a grid, between which there are whole dB. */
const intervals = 3

/** Where levels and peaks are drawn, % of the height. */
const grids = [{ top: '9%', height: '33%' }, { top: '58%', height: '33%' }] as const

/** A picture of a report: level and highest peak of each file, against their bands. What fails by its measure is marked. Each point has a tooltip for who shows them. */
export function reportChart({ level, peak, files }: Pick<ConformanceReport, 'level' | 'peak' | 'files'>, colours: ChartColours): EChartsOption {
  const measures: Measure[] = [
    {
      name: level.measure === 'rms' ? 'RMS, dB' : 'Loudness, LUFS', least: level.span?.least ?? null, most: level.span?.most ?? null, codes: ['too-quiet', 'too-loud', 'no-sound'],
      value: ({ levels }) => levels === null ? null : level.measure === 'rms' ? levels.rmsDb : levels.integratedDb,
    },
    { name: peak.truePeak ? 'True peak, dB' : 'Sample peak, dB', least: null, most: peak.mostDb, codes: ['peak-high', 'clipped'], value: ({ levels }) => levels === null ? null : peak.truePeak ? levels.truePeakDb : levels.samplePeakDb },
  ]
  const text = { color: colours.text, fontFamily: 'inherit' }
  return {
    animation: false,
    textStyle: text,
    aria: { enabled: true },
    title: measures.map(({ name }, index) => ({ text: name, left: 0, top: `${index * 49}%`, textStyle: { ...text, fontSize: 13, fontWeight: 'normal' as const } })),
    grid: grids.map(grid => ({ ...grid, left: 44, right: 12 })),
    xAxis: measures.map((_, index) => ({
      type: 'category' as const, gridIndex: index, data: files.map((__, place) => String(place + 1)), axisLabel: { ...text, hideOverlap: true }, axisLine: { lineStyle: { color: colours.line } }, axisTick: { show: false },
    })),
    yAxis: measures.map((measure, index) => {
      const [min, max] = rangeOf(measure, files)
      return { type: 'value' as const, gridIndex: index, min, max, interval: (max - min) / intervals, axisLabel: { ...text, formatter: (value: number) => signed(value) }, splitLine: { lineStyle: { color: colours.line } } }
    }),
    series: measures.map((measure, index) => {
      const [min, max] = rangeOf(measure, files)
      return {
        type: 'scatter' as const, xAxisIndex: index, yAxisIndex: index, symbolSize: files.length > 100 ? 5 : 9,
        data: files.flatMap((file, place) => pointOf(file, place, measure, [min, max], colours)),
        markArea: {
          silent: true, itemStyle: { color: colours.band },
          data: measure.least === null && measure.most === null ? [] : [[{ yAxis: measure.least ?? min }, { yAxis: measure.most ?? max }]],
        },
      }
    }),
  }
}

function pointOf(file: ReportFile, place: number, { value: valueOf, codes }: Measure, [min, max]: readonly [number, number], { passes, fails }: ChartColours): object[] {
  const value = valueOf(file)
  if (value === null) return []
  const { name, findings } = file
  const isFault = (findings ?? []).some(({ code }) => codes.includes(code))
  const shown = Math.min(max, Math.max(min, value))
  // A fault is told by its shape, too.
  return [{ name, value: [place, shown], symbol: isFault ? 'diamond' : 'circle', itemStyle: { color: isFault ? fails : passes }, tooltip: { formatter: `{b}<br>${signed(Math.round(value * 10) / 10)}` } }]
}

/** From where to where an axis goes, dB. */
function rangeOf({ value, least, most }: Measure, files: readonly ReportFile[]): readonly [number, number] {
  const values = files.flatMap(file => value(file) ?? [])
  const [from, to] = [least ?? most ?? Math.min(...values, 0), most ?? least ?? Math.max(...values, -100)]
  const bottom = Math.max(from - beyondDb, Math.min(from, ...values) - aroundDb)
  const top = Math.min(to + beyondDb, Math.max(to, ...values) + aroundDb)
  const highest = Math.ceil(top)
  return [highest - Math.ceil((highest - bottom) / intervals) * intervals, highest]
}
