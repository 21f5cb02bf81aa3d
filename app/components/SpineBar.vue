<script setup lang="ts">
import type { PartState } from '#shared/api'

// A part of the spine: as long as its minutes, filled by its state, never told by colour alone.

defineProps<{ ms: number, longestMs: number, state: PartState, share: number, included: boolean }>()
</script>

<template>
  <span
    class="bar" :class="[state, { out: !included }]" aria-hidden="true"
    :style="{ width: `max(6px, ${ms / Math.max(1, longestMs) * 100}%)`, '--share': `${share * 100}%` }"
  />
</template>

<style scoped>
.bar { display: block; height: 8px; border: 1.3px solid var(--gall); box-sizing: border-box; }
.bar.read { background: var(--lit); border-color: var(--verdigris); }
.bar.partly { background: linear-gradient(90deg, var(--lit) var(--share), transparent var(--share)); border-color: var(--verdigris); }
.bar.stale { border-color: var(--ochre); background: repeating-linear-gradient(115deg, var(--ochre-fill) 0 3px, transparent 3px 6px); }
.bar.beingRead { border-color: var(--verdigris); background: linear-gradient(90deg, var(--lit) var(--share), var(--verdigris) var(--share) calc(var(--share) + 3px), transparent calc(var(--share) + 3px)); }
.bar.silent { border-style: dotted; }
.bar.out { border-style: dashed; background: none; border-color: var(--quiet); }
</style>
