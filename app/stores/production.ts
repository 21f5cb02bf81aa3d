import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { ProductionView } from '#shared/api'
import { ask } from '~/utils/api'

/** The production whose pages are shown, and which of its editions. */
export const useProduction = defineStore('production', () => {
  const production = ref<ProductionView | null>(null)
  const editionId = ref<string | null>(null)
  const editions = computed(() => production.value?.editions ?? [])

  /** Finds a production by its id, or by that of an edition, and chooses the edition that is asked for, or else the first. */
  async function find(id: string, asked: string | null): Promise<ProductionView> {
    const found = await ask<ProductionView>(`/api/productions/${id}`)
    production.value = found
    editionId.value = [asked, id, found.editions[0]?.id].find(each => found.editions.some(edition => edition.id === each)) ?? null
    return found
  }

  /** The address of one of its pages; the edition is named where there are several. */
  function page(stage: string, query: Readonly<Record<string, string>> = {}, edition = editionId.value): string {
    const all = new URLSearchParams({ ...query, ...(editions.value.length > 1 && edition !== null ? { edition } : {}) }).toString()
    return `/productions/${production.value?.id ?? ''}/${stage}${all === '' ? '' : `?${all}`}`
  }

  return { production, editionId, editions, find, page }
})
