<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import type { DirectionCard } from '~/composables/useDirectionCards'
import type { PlacedDirection } from '~/editor/commands'
import { directionWords } from '~/editor/signs'

// The directions of the lines that are seen, each level with its line, below the card before it, or at the end of the room.

const props = defineProps<{ cards: readonly DirectionCard[] }>()
const emit = defineEmits<{ edit: [placed: PlacedDirection] }>()

/** Height of a card with its gap; one with a reason is higher. */
const cardHeight = 27
const reasonHeight = 36

const list = ref<HTMLElement | null>(null)
/** Where the list begins in the window, however far its column is scrolled. */
const origin = ref(0)
watch(() => props.cards, () => {
  if (list.value !== null) origin.value = list.value.getBoundingClientRect().top
}, { immediate: true, flush: 'post' })

const { height: room } = useElementSize(list)
const heightOf = (card: DirectionCard): number => cardHeight + (card.unavailable === null ? 0 : reasonHeight)

const laid = computed(() => {
  let free = 0
  const tops = props.cards.map(card => {
    const top = Math.max(free, card.top - origin.value)
    free = top + heightOf(card)
    return top
  })
  // Those of lines below the room stand at its end, as far as there is room for all.
  let end = Math.max(room.value, props.cards.reduce((sum, card) => sum + heightOf(card), 0))
  for (let index = tops.length - 1; index >= 0; index -= 1) {
    tops[index] = Math.min(tops[index]!, end - heightOf(props.cards[index]!))
    end = tops[index]!
  }
  return props.cards.map((card, index) => ({ ...card, y: tops[index]! }))
})
</script>

<template>
  <ul ref="list" class="cards" aria-label="Directions on these lines">
    <li v-for="card in laid" :key="card.placed.direction.id" :class="{ here: card.here, cannot: card.unavailable !== null }" :style="{ top: `${card.y}px` }">
      <button type="button" @mousedown.prevent @click="emit('edit', card.placed)">
        <b>{{ directionWords(card.placed.direction) }}</b><span v-if="card.text !== ''" class="quiet"> · {{ card.text }}<template v-if="card.spoken !== null">, “{{ card.spoken }}”</template></span>
      </button>
      <p v-if="card.unavailable !== null" :title="card.unavailable">{{ card.unavailable }}</p>
    </li>
  </ul>
</template>

<style scoped>
.cards { list-style: none; margin: 0; padding: 0; position: relative; }
li { position: absolute; left: 0; right: 0; border-left: 3px solid var(--dusk); padding-left: 8px; background: var(--paper); }
li.here { border-left-color: var(--verdigris); background: var(--sheet); }
li.cannot { border-left-color: var(--vermilion); }
button { display: block; width: 100%; border: 0; background: none; font: inherit; font-size: 13px; line-height: 23px; color: var(--ink); text-align: left; padding: 0; cursor: pointer; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
b { font-weight: 600; }
p { margin: 0; font-size: 12px; line-height: 1.3; color: var(--vermilion); display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; overflow: hidden; }
</style>
