<script setup lang="ts" generic="Key extends string">
// Reasons to choose from, each with how much there is of it.

defineProps<{ reasons: readonly { readonly key: Key, readonly title: string, readonly count: number, readonly main?: boolean }[] }>()
const chosen = defineModel<Key>({ required: true })
</script>

<template>
  <ul class="reason-list">
    <li v-for="each in reasons" :key="each.key">
      <button type="button" :aria-pressed="chosen === each.key" :class="{ none: each.count === 0 }" @click="chosen = each.key"><span>{{ each.title }}</span><component :is="each.main === true ? 'b' : 'span'">{{ each.count.toLocaleString('en') }}</component></button>
    </li>
  </ul>
</template>

<style scoped>
.reason-list { list-style: none; margin: 0; padding: 0; }
button { display: flex; justify-content: space-between; width: 100%; padding: 5px 8px; border: 0; border-radius: 3px; background: none; font: inherit; font-size: 14.5px; text-align: left; color: var(--ink); cursor: pointer; }
button[aria-pressed='true'] { background: var(--sheet); font-weight: 650; box-shadow: inset 0 0 0 1px var(--line); }
button.none { color: var(--quiet); }
</style>
