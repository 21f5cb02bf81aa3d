<script setup lang="ts">
import { passageKinds, type PassageKind } from '#core/script/script'
import { restsOf, type HouseStyle, type HouseStylePatch, type Rests } from '#core/style/house-style'
import { kindNames } from '~/utils/words'

// The rests of the house style, in ms. The row of the passage that holds the caret is marked.

const props = defineProps<{ houseStyle: HouseStyle, kind: PassageKind | null, counts: Readonly<Partial<Record<PassageKind, number>>>, levels?: readonly number[] }>()
const emit = defineEmits<{ change: [patch: HouseStylePatch] }>()

/** Levels with rests of their own, and those that are asked for. */
const levels = computed(() => [...new Set([...props.levels ?? [], ...Object.keys(props.houseStyle.headingRests ?? {}).map(Number)])].sort())

function setLevel(level: number, rests: Partial<Rests>): void {
  emit('change', { headingRests: { ...props.houseStyle.headingRests, [level]: { ...restsOf(props.houseStyle, { kind: 'heading', level }), ...rests } } })
}
</script>

<template>
  <section class="card" aria-labelledby="rests-head">
    <h2 id="rests-head">Rests</h2>
    <p class="quiet">Silence around passages, in thousandths of a second (ms), for all parts: house style “{{ houseStyle.name }}”</p>
    <table>
      <thead><tr><th scope="col">Kind</th><th scope="col">before</th><th scope="col">after</th></tr></thead>
      <tbody>
        <tr v-for="each in passageKinds" :key="each" :class="{ here: each === kind }">
          <th scope="row">{{ kindNames[each] }} <span class="quiet">{{ counts[each] ?? 0 }}</span></th>
          <td v-for="side in (['beforeMs', 'afterMs'] as const)" :key="side">
            <RestField
              :ms="houseStyle.rests[each][side]" :label="`${kindNames[each]}, rest ${side === 'beforeMs' ? 'before' : 'after'}, ms`"
              @change="emit('change', { rests: { [each]: { [side]: $event } } })"
            />
          </td>
        </tr>
        <tr v-for="level in levels" :key="`level ${level}`">
          <th scope="row">Heading, level {{ level }}</th>
          <td v-for="side in (['beforeMs', 'afterMs'] as const)" :key="side">
            <RestField :ms="restsOf(houseStyle, { kind: 'heading', level })[side]" :label="`Heading of level ${level}, rest ${side === 'beforeMs' ? 'before' : 'after'}, ms`" @change="setLevel(level, { [side]: $event })" />
          </td>
        </tr>
        <tr>
          <th scope="row" colspan="2">Between sentences</th>
          <td><RestField :ms="houseStyle.sentenceRestMs" label="Between sentences, ms" @change="emit('change', { sentenceRestMs: $event })" /></td>
        </tr>
      </tbody>
    </table>
    <p class="quiet note">Between two passages the longer of the two rests counts.</p>
  </section>
</template>

<style scoped>
.card { border-left: 3px solid var(--dusk); padding: 2px 0 2px 10px; }
h2 { margin: 0; font-family: var(--sans); font-size: 14.5px; font-weight: 600; }
p { margin: 0; font-size: 13px; }
table { border-collapse: collapse; margin: 6px 0; font-size: 13.5px; width: 100%; }
thead th { font-weight: 400; color: var(--quiet); text-align: right; font-size: 12.5px; }
th[scope='row'], thead th:first-child { text-align: left; font-weight: 400; padding: 2px 4px 2px 5px; white-space: nowrap; }
td { text-align: right; padding: 2px 0 2px 4px; }
tr.here { background: var(--sheet); }
tr.here th { font-weight: 600; }
.note { line-height: 1.35; }
</style>
