<script setup lang="ts">
import { compare } from '~/utils/difference'

// Two texts for one place with what differs between them, and the choice.

const props = defineProps<{ heading: string, choices: readonly { readonly key: string, readonly title: string, readonly text: string | null, readonly action: string | null }[] }>()
const compared = computed(() => {
  const texts = props.choices.map(choice => choice.text)
  return texts.map((text, index) => text === null ? null : compare(text, texts[index === 0 ? 1 : 0] ?? ''))
})
const emit = defineEmits<{ choose: [key: string] }>()
</script>

<template>
  <section class="conflict" role="alert">
    <p><b>{{ heading }}</b></p>
    <div v-for="(choice, index) in choices" :key="choice.key">
      <p class="quiet">{{ choice.title }}</p>
      <p v-if="compared[index]" class="serif">{{ compared[index].before }}<mark>{{ compared[index].own }}</mark>{{ compared[index].after }}</p>
      <p v-else class="serif">not there any more</p>
      <v-btn v-if="choice.action !== null" size="small" @click="emit('choose', choice.key)">{{ choice.action }}</v-btn>
    </div>
  </section>
</template>

<style scoped>
.conflict { margin: 14px 24px; padding: 12px 16px; border: 1px solid var(--vermilion); border-left-width: 4px; display: grid; grid-template-columns: repeat(auto-fit, minmax(min(100%, 260px), 1fr)); gap: 10px 24px; }
.conflict > p { grid-column: 1 / -1; margin: 0; }
.conflict .quiet { margin: 0; font-size: 13px; }
.conflict .serif { font-weight: 400; margin: 0 0 8px; max-height: 12em; overflow-y: auto; overflow-wrap: anywhere; }
.conflict mark { background: var(--stale-wash); color: inherit; text-decoration: underline; text-decoration-thickness: 1px; text-underline-offset: 3px; }
</style>
