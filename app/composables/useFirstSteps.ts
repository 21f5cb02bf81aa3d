import { useLocalStorage } from '@vueuse/core'

/** What somebody does on the way from a document to files, in its order. */
export const firstSteps = ['brought', 'heard', 'read', 'made', 'downloaded'] as const
export type FirstStep = typeof firstSteps[number]

/** Which of the first steps have been done in this browser, and whether their list is put away. */
export function useFirstSteps() {
  const done = useLocalStorage<FirstStep[]>('first-steps', [])
  const isAway = useLocalStorage('first-steps-away', false)
  const tick = (step: FirstStep): void => { if (!done.value.includes(step)) done.value = [...done.value, step] }
  return { done, isAway, tick }
}
