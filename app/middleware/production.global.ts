import { useNotices } from '~/stores/notices'
import { useProduction } from '~/stores/production'
import { ApiError, messageOf } from '~/utils/api'

/** Between two attempts while the server does not answer, ms. */
const againMs = 1_000

/** Before a page of a production: finds out which edition it shows. An address with the id of an edition leads to that of its production. */
export default defineNuxtRouteMiddleware(async to => {
  const { production: id } = to.params
  if (typeof id !== 'string') return
  const store = useProduction()
  const asked = typeof to.query['edition'] === 'string' ? to.query['edition'] : null
  for (;;) {
    try {
      const production = await store.find(id, asked)
      if (production.id === id) return
      const { edition: _, ...query } = to.query
      const several = production.editions.length > 1 ? { edition: store.editionId } : {}
      return await navigateTo({ path: to.path.replace(id, production.id), query: { ...query, ...several }, hash: to.hash }, { replace: true })
    } catch (error) {
      // What is not there is not asked for again.
      if (error instanceof ApiError && error.status < 500) return abortNavigation(createError({ statusCode: 404, data: messageOf(error), fatal: true }))
      useNotices().show(messageOf(error))
      await new Promise(resolve => setTimeout(resolve, againMs))
    }
  }
})
