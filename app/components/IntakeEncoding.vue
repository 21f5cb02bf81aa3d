<script setup lang="ts">
import { encodingNames, type EncodingCertainty, type TextEncoding } from '#core/manuscript/encodings'

// How the text of a document was decoded, how sure that is, and the way to another encoding.

const props = defineProps<{ encoding: TextEncoding }>()
const emit = defineEmits<{ read: [encoding: string] }>()

const certainties: Readonly<Record<EncodingCertainty, string>> = {
  chosen: 'chosen by you', declared: 'as the document says', certain: 'recognised, certain', likely: 'recognised, likely', doubtful: 'doubtful: check its letters',
}
const items = computed(() => encodingNames.filter(name => name !== props.encoding.name))
</script>

<template>
  <details class="encoding" :open="encoding.certainty === 'doubtful' || encoding.certainty === 'likely'">
    <summary>Encoding of the text: {{ encoding.name }} <span class="quiet">({{ certainties[encoding.certainty] }})</span></summary>
    <ul v-if="encoding.others.length > 0">
      <li v-for="other in encoding.others" :key="other.name">
        <button type="button" class="link" @click="emit('read', other.name)">Read it as {{ other.name }}</button>
        <span>“{{ other.instead }}” <span class="quiet">instead of “{{ other.now }}”</span></span>
      </li>
    </ul>
    <v-autocomplete :model-value="null" :items="items" label="Another encoding" @update:model-value="$event === null || emit('read', $event)" />
  </details>
</template>

<style scoped>
.encoding { border-top: 1px solid var(--line); padding-top: 10px; }
summary { cursor: pointer; font-weight: 600; }
summary .quiet { font-weight: 400; }
ul { list-style: none; padding: 8px 0; margin: 0; }
li { display: flex; flex-direction: column; padding: 4px 0; font-size: 14px; overflow-wrap: anywhere; }
</style>
