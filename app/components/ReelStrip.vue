<script setup lang="ts">
import { mdiPause, mdiPlay } from '@mdi/js'
import { useElementSize, useMediaQuery } from '@vueuse/core'
import { useTheme } from 'vuetify'
import { clock } from '#core/estimate/clock'
import type { PagePeaks, PageUtterance } from '#shared/api'

// The part as sound: its waveform, its sentences, where it plays. Listening starts anywhere.

const props = defineProps<{
  utterances: readonly PageUtterance[], peaks: PagePeaks, current: number | null, elapsed: number, playing: boolean
}>()
const emit = defineEmits<{ play: [from: number], resume: [], stop: [] }>()

const canvas = ref<HTMLCanvasElement | null>(null)
const { width } = useElementSize(canvas)
/** One line where there is little room. */
const narrow = useMediaQuery('(max-width: 1000px)')
const height = computed(() => narrow.value ? 34 : 76)
const theme = useTheme()

const starts = computed(() => props.utterances.map(utterance => utterance.startMs))
const totalMs = computed(() => {
  const last = props.utterances.length - 1
  return last < 0 ? 0 : starts.value[last]! + props.utterances[last]!.durationMs
})
const nowMs = computed(() => props.current === null ? 0 : (starts.value[props.current] ?? 0) + props.elapsed * 1000)
const sentence = computed(() => props.current === null ? 0 : props.current + 1)

watch([width, height, totalMs, () => props.utterances, () => props.peaks, () => theme.global.name.value], () => requestAnimationFrame(draw))

function draw(): void {
  const element = canvas.value
  const context = element?.getContext('2d')
  if (element === null || !context || width.value === 0 || totalMs.value === 0) return
  const ratio = devicePixelRatio
  element.width = Math.round(width.value * ratio)
  element.height = Math.round(height.value * ratio)
  context.scale(ratio, ratio)
  const colours = getComputedStyle(element)
  const colour = (name: string): string => `rgb(${colours.getPropertyValue(`--v-theme-${name}`)})`
  const scale = width.value / totalMs.value
  const middle = (height.value - 10) / 2
  props.utterances.forEach((utterance, index) => {
    const from = starts.value[index]! * scale
    const span = utterance.durationMs * scale
    const peaks = props.peaks[utterance.key]
    context.fillStyle = colour('line')
    context.fillRect(from, height.value - 6, 1, 6)
    if (!utterance.read || peaks === undefined) {
      context.strokeStyle = colour(utterance.stale ? 'ochreFill' : utterance.read ? 'line' : 'quiet')
      context.strokeRect(from + 0.5, middle - 5, Math.max(1, span - 1), 10)
      return
    }
    context.fillStyle = colour('verdigris')
    const step = 3
    for (let x = 0; x < span; x += step) {
      const first = Math.floor(x / span * peaks.length)
      const last = Math.max(first + 1, Math.floor(Math.min(1, (x + step) / span) * peaks.length))
      const peak = Math.max(...peaks.slice(first, last))
      const half = Math.max(0.75, peak * (middle - 2))
      context.fillRect(from + x, middle - half, step - 1, half * 2)
    }
  })
}

function indexAt(ms: number): number {
  const index = starts.value.findLastIndex(start => start <= ms)
  return Math.max(0, index)
}

function point(event: MouseEvent): void {
  const box = canvas.value!.getBoundingClientRect()
  emit('play', indexAt((event.clientX - box.left) / box.width * totalMs.value))
}

function slide(event: Event): void {
  emit('play', indexAt(Number((event.target as HTMLInputElement).value)))
}

function toggle(): void {
  if (props.playing) emit('stop')
  else emit('resume')
}
defineExpose({ toggle })
</script>

<template>
  <section class="reel" aria-label="Listening" data-region="reel">
    <button class="play" type="button" :disabled="utterances.length === 0" :aria-label="playing ? 'Stop' : 'Play'" @click="toggle">
      <v-icon :icon="playing ? mdiPause : mdiPlay" size="24" />
    </button>
    <p class="time">
      <b>{{ clock(nowMs) }}</b><br>
      <span class="quiet">of {{ clock(totalMs) }} · sentence {{ sentence }} / {{ utterances.length }}</span>
    </p>
    <div class="wave">
      <canvas ref="canvas" :style="{ height: `${height}px` }" aria-hidden="true" @click="point" />
      <span v-if="current !== null && totalMs > 0" class="needle" :style="{ left: `${nowMs / totalMs * 100}%` }" aria-hidden="true" />
      <label class="sr-only">Place in the part
        <input type="range" min="0" :max="Math.round(totalMs)" step="1000" :value="Math.round(nowMs)" :aria-valuetext="`${clock(nowMs)} of ${clock(totalMs)}`" @change="slide">
      </label>
    </div>
    <div class="aside"><slot /></div>
  </section>
</template>

<style scoped>
.reel { display: grid; grid-template-columns: auto 152px 1fr minmax(180px, 250px); align-items: center; gap: 14px; padding: 8px 18px 8px 14px; background: var(--sheet); border-top: 1px solid var(--line); min-height: 96px; }
.play { width: 42px; height: 42px; border: 0; border-radius: 50%; background: var(--verdigris); color: var(--sheet); cursor: pointer; }
.play:disabled { background: var(--line); cursor: default; }
.time { margin: 0; font-size: 13.5px; line-height: 1.45; font-variant-numeric: tabular-nums; }
.time b { font-size: 16px; }
.wave { position: relative; min-width: 0; }
canvas { display: block; width: 100%; cursor: pointer; }
.needle { position: absolute; top: 0; bottom: 0; width: 2px; margin-left: -1px; background: var(--vermilion); pointer-events: none; }
.aside { font-size: 13.5px; line-height: 1.5; }
.wave:focus-within canvas { outline: 2px solid var(--verdigris); outline-offset: 2px; }
@media (max-width: 1000px) {
  .reel { grid-template-columns: auto auto 1fr; min-height: 0; padding: 4px 12px; }
  .play { width: 36px; height: 36px; }
  .time { white-space: nowrap; }
  .time b { margin-right: 6px; }
  .time br, .aside { display: none; }
}
@media (max-width: 639px) { .reel { grid-template-columns: auto 1fr; } .wave { display: none; } }
</style>
