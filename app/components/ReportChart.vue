<script setup lang="ts">
import { ScatterChart } from 'echarts/charts'
import { AriaComponent, GridComponent, MarkAreaComponent, TitleComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import { useTheme } from 'vuetify'
import type { ConformanceReport } from '#core/delivery/report'
import { reportChart } from '#core/delivery/report-chart'
import { lamp, paper } from '~/utils/themes'

// Level and highest peak of each file, against what the profile allows.

const { report } = defineProps<{ readonly report: ConformanceReport }>()
const emit = defineEmits<{ readonly choose: [place: number] }>()
use([ScatterChart, AriaComponent, GridComponent, MarkAreaComponent, TitleComponent, TooltipComponent, SVGRenderer])

const theme = useTheme()
const option = computed(() => {
  const { quiet, line, lit, verdigris, vermilion } = theme.global.name.value === 'lamp' ? lamp : paper
  return { tooltip: {}, ...reportChart(report, { text: quiet, line, band: lit, passes: verdigris, fails: vermilion }) }
})
</script>

<template>
  <figure>
    <VChart :option="option" :init-options="{ renderer: 'svg' }" autoresize class="chart" @click="emit('choose', $event.dataIndex)" />
    <figcaption class="quiet">The band is what the profile allows; a diamond fails by this measure. Numbers are those in the list.</figcaption>
  </figure>
</template>

<style scoped>
figure { margin: 0; }
.chart { height: 270px; }
figcaption { font-size: 13.5px; }
</style>
