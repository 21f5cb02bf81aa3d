import { computed } from 'vue'
import { useDesk } from '~/stores/desk'
import { useNotices } from '~/stores/notices'

/** What every stage of a production begins with: its edition, loaded and watched. */
export function useDeskPage(stage: string) {
  const desk = useDesk()
  const notices = useNotices()
  const id = String(useRoute().params['id'])
  useHead({ title: () => `${desk.desk?.title ?? 'Production'}, ${stage} – Orator Quill` })
  const loading = notices.attempt(() => desk.open(id))
  return { desk, notices, id, loading, ready: computed(() => desk.desk !== null && desk.editionId === id) }
}
