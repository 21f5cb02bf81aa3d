import { announcementsProblem } from '#core/script/announcements'
import { fail } from '#core/problem'
import { announcementsRequestSchema, type AnnouncementsRequest } from '#shared/schemas'
import { changeEdition } from '#store/editions'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<AnnouncementsRequest>(announcementsRequestSchema)

/** Says and plays something else around the text. */
export default route(async (event, { database }) => {
  const { announcements } = await body(event)
  const problem = announcements === null ? null : announcementsProblem(announcements)
  if (problem !== null) fail('announcement-wrong', problem)
  await changeEdition(database, idParam(event), { announcements })
  return { ok: true }
})
