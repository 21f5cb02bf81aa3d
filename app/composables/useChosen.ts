import { ref } from 'vue'

/** Things that are chosen one by one, by their ids; none is all of them. */
export function useChosen() {
  const chosen = ref<ReadonlySet<string>>(new Set())

  function choose(id: string, on: boolean): void {
    chosen.value = new Set(on ? [...chosen.value, id] : [...chosen.value].filter(each => each !== id))
  }

  return { chosen, choose }
}
