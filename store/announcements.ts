import { QueryTypes } from 'sequelize'
import { v5 as uuidv5 } from 'uuid'
import { noDetails } from '#core/delivery/details'
import { profiles, type ProfileName } from '#core/delivery/profiles'
import { aroundParts, noAnnouncements, nothingAround, withAnnouncements, type AnnouncedPart, type AnnouncedWork, type Announcements, type AroundPart } from '#core/script/announcements'
import type { CastScore } from '#core/score/request'
import { withRoomTone } from '#core/score/sounds'
import type { Part } from '#core/script/script'
import type { LoadedEdition } from './editions'
import { PartRow } from './models'

/** What is announced in an edition: what it has of its own, else what its profile says. The role is given by its id; one that is not in the cast is left as it is written. */
export function announcementsOf({ edition, ownProfile, roles }: Pick<LoadedEdition, 'edition' | 'ownProfile' | 'roles'>): Announcements {
  const profile: ProfileName = edition.profile
  const given = edition.announcements ?? (ownProfile ?? profiles[profile]).announcements ?? noAnnouncements
  const role = roles.find(({ id, name }) => id === given.role || name === given.role)
  return role === undefined ? given : { ...given, role: role.id }
}

export function announcedWork({ production, edition }: Pick<LoadedEdition, 'production' | 'edition'>): AnnouncedWork {
  const { narrator, year, copyright } = edition.details ?? noDetails
  return { production: production.title, author: production.author ?? '', narrator, year, copyright }
}

/** How the parts of an edition are announced. */
export interface Announced {
  /** A part with what is said and heard around it. */
  readonly announce: (part: Part) => Part
  /** A score with the tone of the room under it. */
  readonly toned: (score: CastScore) => CastScore
  /** All that decides these, besides the text of the part and the sounds. */
  readonly mark: (partId: string) => string
}

export async function announcing(loaded: LoadedEdition): Promise<Announced> {
  const announcements = announcementsOf(loaded)
  const { opening, part, closing, intro, outro, repeats, roomTone } = announcements
  const isSilent = opening + part + closing === '' && intro === null && outro === null
  const all = isSilent ? null : aroundParts(await partsOf(loaded.edition.id), announcements, announcedWork(loaded), loaded.edition.language, (partId, what) => uuidv5(what, partId))
  const around = (partId: string): AroundPart => all?.get(partId) ?? nothingAround
  return {
    announce: each => withAnnouncements(each, around(each.id), repeats),
    toned: score => withRoomTone(score, roomTone, loaded.sounds),
    mark: partId => JSON.stringify([around(partId), repeats, roomTone]),
  }
}

function partsOf(editionId: string): Promise<AnnouncedPart[]> {
  return PartRow.sequelize!.query<AnnouncedPart>(
    'SELECT p.id, p.kind, p.label, p.included, EXISTS (SELECT 1 FROM passages s, jsonb_array_elements(s.content->\'runs\') r WHERE s.part_id = p.id AND r->>\'text\' ~ \'[^[:space:][:punct:]]\') AS speaks '
    + 'FROM parts p WHERE p.edition_id = $1 ORDER BY p.rank', { bind: [editionId], type: QueryTypes.SELECT })
}
