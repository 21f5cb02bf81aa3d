import { defineStore } from 'pinia'
import { ref } from 'vue'
import { messageOf } from '~/utils/api'

/** What the user must be told once, such as a request that failed. */
export const useNotices = defineStore('notices', () => {
  const current = ref<string | null>(null)

  function show(message: string): void {
    current.value = message
  }

  function dismiss(): void {
    current.value = null
  }

  /** Does something and tells when it fails. Resolves to null then. */
  async function attempt<T>(action: () => Promise<T>): Promise<T | null> {
    try {
      return await action()
    } catch (error) {
      show(messageOf(error))
      return null
    }
  }

  return { current, show, dismiss, attempt }
})
