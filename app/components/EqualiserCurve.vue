<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { AriaComponent, GridComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { useTheme } from 'vuetify'
import { responseDb, type Equaliser } from '#core/mastering/equaliser'
import { signed } from '#core/delivery/profile'
import { lamp, paper } from '~/utils/themes'

// What an equaliser does to each frequency.

const { equaliser } = defineProps<{ readonly equaliser: Equaliser }>()
use([LineChart, AriaComponent, GridComponent, SVGRenderer])

/** Of the picture: Hz, dB either way, and points. */
const [lowest, highest, mostDb, points] = [20, 10_000, 12, 120]
/** A rate that holds all of it, Hz. */
const rate = 48_000
const curve = computed(() => Array.from({ length: points + 1 }, (_, index) => {
  const hz = lowest * (highest / lowest) ** (index / points)
  return [hz, Math.max(-mostDb, Math.min(mostDb, responseDb(equaliser, hz, rate)))]
}))

const theme = useTheme()
const option = computed(() => {
  const { quiet, line, verdigris } = theme.global.name.value === 'lamp' ? lamp : paper
  const text = { color: quiet, fontFamily: 'inherit' }
  return {
    animation: false, textStyle: text, aria: { enabled: true },
    grid: { left: 36, right: 14, top: 10, bottom: 24 },
    xAxis: { type: 'log', min: lowest, max: highest, axisLabel: { ...text, formatter: (hz: number) => hz >= 1000 ? `${hz / 1000} kHz` : `${hz} Hz` }, axisLine: { lineStyle: { color: line } }, splitLine: { lineStyle: { color: line } } },
    yAxis: { type: 'value', min: -mostDb, max: mostDb, interval: 6, axisLabel: { ...text, formatter: signed }, splitLine: { lineStyle: { color: line } } },
    series: [{ type: 'line', data: curve.value, showSymbol: false, lineStyle: { color: verdigris, width: 2 } }],
  }
})
</script>

<template>
  <figure>
    <VChart :option="option" :init-options="{ renderer: 'svg' }" autoresize class="chart" />
    <figcaption class="quiet">What it does to each frequency, in dB; beyond ±12 it is drawn at the edge.</figcaption>
  </figure>
</template>

<style scoped>
figure { margin: 0 0 12px; }
.chart { height: 170px; }
figcaption { font-size: 13.5px; }
</style>
