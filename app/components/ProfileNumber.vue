<script setup lang="ts">
// A number of a profile, in the unit that people write it in. Empty where nothing is asked.

const { value, scale = 1, step = undefined, required = false } = defineProps<{
  readonly value: number | null
  readonly label: string
  /** How much of the unit of the profile one of the shown unit is. */
  readonly scale?: number
  readonly step?: number
  readonly required?: boolean
}>()
const emit = defineEmits<{ readonly change: [value: number | null] }>()

const shown = computed(() => value === null ? '' : String(value / scale))

function change(text: string): void {
  const number = Number(text)
  if (text.trim() === '') emit('change', required ? value : null)
  // What has a scale is whole in the profile.
  else if (Number.isFinite(number)) emit('change', scale === 1 ? number : Math.round(number * scale))
}
</script>

<template>
  <v-text-field :model-value="shown" type="number" :step="step ?? 'any'" :label="label" :placeholder="required ? undefined : 'any'" persistent-placeholder @change="change($event.target.value)" />
</template>
