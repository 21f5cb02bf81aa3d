import { computed } from 'vue'
import { useDesk } from '~/stores/desk'
import { ApiError, messageOf } from '~/utils/api'
import { useNotices } from '~/stores/notices'
import { useProduction } from '~/stores/production'

/** What every stage of a production begins with: its edition, loaded and watched. */
export function useDeskPage(stage: string) {
  const desk = useDesk()
  const notices = useNotices()
  const production = useProduction()
  const id = production.editionId ?? ''
  useHead({ title: () => `${desk.desk?.title ?? 'Production'}, ${stage} – Orator Quill` })
  const loading = notices.attempt(() => desk.open(id).catch((error: unknown) => {
    // What is not there is not asked for again.
    if (!(error instanceof ApiError) || error.status >= 500) throw error
    desk.leave()
    showError({ statusCode: 404, data: messageOf(error) })
  }))
  return { desk, notices, id, page: production.page, loading, ready: computed(() => desk.desk !== null && desk.editionId === id) }
}
