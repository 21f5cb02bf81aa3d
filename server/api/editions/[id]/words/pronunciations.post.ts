import { pronunciationsOf } from '#services/pronunciations'
import type { Pronunciations } from '#shared/api'
import { pronunciationsSchema, type PronunciationsRequest } from '#shared/schemas'
import { bodyOf, idParam, route } from '../../../../utils/route'

const body = bodyOf<PronunciationsRequest>(pronunciationsSchema)

/** How a word is said now, and how it could be said. */
export default route(async (event, { engines }): Promise<Pronunciations> => pronunciationsOf({ engines }, { editionId: idParam(event), ...await body(event) }))
