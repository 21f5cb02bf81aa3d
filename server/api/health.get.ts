import { route } from '../utils/route'

export default route(async (_, { database }) => {
  await database.rows('SELECT 1 AS one')
  return { ok: true }
})
