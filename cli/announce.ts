import type { DeliveryProfile } from '#core/delivery/profile'
import type { DeliveredWork } from '#core/runsheet/run-sheet'
import { isSpeakable } from '#core/manuscript/manuscript'
import type { Casting } from '#core/score/cast'
import { aroundParts, doubledTitles, nothingAround, withAnnouncements } from '#core/script/announcements'
import { writtenText } from '#core/script/content'
import type { Script } from '#core/script/script'
import type { SpeechEngines } from '#voices/engines'
import { openCasting, type OpenedDocument, type VoiceFlags } from './environment'
import { noteOnce } from './print'

/** Who speaks announcements on the command line, where that is not the narrator. */
const announcer = 'announcer'

/** Parts that a warning names. */
const named = 3

/** A document with what a profile has said and heard around its parts. Where a title is said twice, that is said on standard error. */
export function announcedDocument<D extends Pick<OpenedDocument, 'script'>>(document: D, { announcements }: DeliveryProfile, { title, author, details }: Omit<DeliveredWork, 'cover'>, flags: AnnouncerFlags): D {
  const { script } = document
  if (announcements === null) return document
  const { narrator, year, copyright } = details
  const listed = script.parts.map(part => ({ ...part, speaks: part.passages.some(({ content }) => isSpeakable(writtenText(content))) }))
  const asked = { ...announcements, role: flags.announcer === undefined ? null : announcer }
  const around = aroundParts(listed, asked, { production: title, author: author ?? '', narrator, year, copyright }, script.language)
  const parts = script.parts.map(part => withAnnouncements(part, around.get(part.id) ?? nothingAround, asked.repeats))
  const doubled = doubledTitles(parts.map(part => ({ ...part, passages: part.passages.map(passage => ({ ...passage, title: writtenText(passage.content) })) })))
  if (doubled.length > 0) noteOnce(`${doubled.length === 1 ? '1 title is' : `${doubled.length} titles are`} said twice, by the announcement and by the part itself: ${doubled.slice(0, named).join(', ')}${doubled.length > named ? ` and ${doubled.length - named} more` : ''}. Announce by {number} only, or leave these announcements out with --announce-repeats skip.`)
  return { ...document, script: { ...script, parts } satisfies Script }
}

export interface AnnouncerFlags {
  readonly announcer?: string
}

/** The castings of roles on the command line. The engine and pitch that are asked for are the narrator's. */
export async function openCastings(engines: SpeechEngines, script: Script, { announcer: voice, pitch: _, engine: __, ...flags }: AnnouncerFlags & VoiceFlags): Promise<Record<string, Casting>> {
  return voice === undefined ? {} : { [announcer]: await openCasting(engines, script, { ...flags, voice }) }
}
