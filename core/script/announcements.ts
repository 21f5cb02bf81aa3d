import { primaryLanguage } from '../language/abbreviations'
import { filledTemplate } from '../template'
import { plainContent, writtenText, type Content } from './content'
import type { Part, PartKind, Passage, PassageKind } from './script'

/** What is said of a production and its parts besides their text, and sounds around it. Texts are templates: fields (`announcementFields`) stand in braces; none is said where it is empty. */
export interface Announcements {
  /** Said before everything, once. */
  readonly opening: string
  /** Said before each part, but not before hints, front and back matter. */
  readonly part: string
  /** Said after everything, once. */
  readonly closing: string
  /** Who speaks them: the id of a role, or its name; null for the narrator. */
  readonly role: string | null
  /** What is a file of its own; the rest is in the file of what it announces. */
  readonly ownFiles: 'none' | 'credits' | 'all'
  /** Whether a part is announced whose own title says the same. */
  readonly repeats: 'say' | 'skip'
  /** Names of sounds of the production, before and after everything or each part; null for none. */
  readonly intro: string | null
  readonly outro: string | null
  readonly soundsOf: 'production' | 'part'
  /** Name of a sound of the production that is under all speech and silence: the tone of a room; null for silence. */
  readonly roomTone: string | null
}

export const noAnnouncements: Announcements = { opening: '', part: '', closing: '', role: null, ownFiles: 'credits', repeats: 'say', intro: null, outro: null, soundsOf: 'production', roomTone: null }

export const announcedPlaces = ['opening', 'part', 'closing'] as const
export type AnnouncedPlace = (typeof announcedPlaces)[number]

/** What templates can say of a production. */
export interface AnnouncedWork {
  readonly production: string
  readonly author: string
  readonly narrator: string
  readonly year: string
  readonly copyright: string
}

export const workFields = ['production', 'author', 'narrator', 'year', 'copyright'] as const satisfies readonly (keyof AnnouncedWork)[]
/** `number` counts the parts of a kind that are announced, from 1; `part` is the label of the part. */
export const partFields = ['number', 'part'] as const
export type AnnouncementField = (typeof workFields)[number] | (typeof partFields)[number]

export const announcementFields: Readonly<Record<AnnouncedPlace, readonly AnnouncementField[]>> = { opening: workFields, part: [...partFields, ...workFields], closing: workFields }

/** Most characters of a template. */
export const longestAnnouncement = 2_000

/** Silence between a sound and what is said beside it, ms (*common practice*: about a second). */
const soundRestMs = 1_000

/** What keeps a template from being said; null where nothing does. */
export function announcementProblem(template: string, place: AnnouncedPlace): string | null {
  const known = announcementFields[place]
  const wrong = [...template.matchAll(/\{([^{}]{0,40})\}?/gu)].find(([written, name]) => !written.endsWith('}') || !known.includes(name as AnnouncementField))
  return wrong === undefined ? null : `It contains ${wrong[0]}; use ${known.map(name => `{${name}}`).join(' ')}.`
}

/** The first problem of all templates; null where there is none. */
export function announcementsProblem(announcements: Announcements): string | null {
  for (const place of announcedPlaces) {
    const problem = announcementProblem(announcements[place], place)
    if (problem !== null) return problem
  }
  return null
}

type Values = Readonly<Partial<Record<AnnouncementField, string>>>

/** What a template says. A field of which nothing is known goes with the words before it. */
export const announcementText = (template: string, values: Values): string => filledTemplate(template.replace(/\s+/gu, ' '), values)

/** Fields of a template of which nothing is known. */
export const unknownFields = (template: string, values: Values): AnnouncementField[] => [...workFields, ...partFields].filter(name => template.includes(`{${name}}`) && values[name] === '')

/** What is known of a part before its text is looked at. */
export interface AnnouncedPart extends Pick<Part, 'id' | 'kind' | 'label' | 'included'> {
  /** Something in it can be spoken. */
  readonly speaks: boolean
}

/** Kinds of parts that are announced. */
export const announcedKinds: ReadonlySet<PartKind> = new Set(['chapter', 'slide', 'article'])

/** Passages around the text of a part, which are not in the script. */
export interface AroundPart {
  readonly before: readonly Passage[]
  readonly after: readonly Passage[]
}

export const nothingAround: AroundPart = { before: [], after: [] }

/** Titles of files that hold an announcement only, by language; English where it is not here. */
const fileTitles: Readonly<Record<string, Readonly<Record<'opening' | 'closing', string>>>> = {
  en: { opening: 'Opening credits', closing: 'Closing credits' },
  de: { opening: 'Vorspann', closing: 'Abspann' },
  fr: { opening: 'Générique de début', closing: 'Générique de fin' },
  es: { opening: 'Créditos iniciales', closing: 'Créditos finales' },
}

/** Words to begin with, by language; those of English without their words where it is not here. */
const suggestions: Readonly<Record<string, Pick<Announcements, AnnouncedPlace>>> = {
  en: { opening: '{production}, by {author}. Read by {narrator}.', part: 'Chapter {number}.', closing: 'This was {production}, by {author}. Read by {narrator}. Copyright {copyright}. Thank you for listening.' },
  de: { opening: '{production}, von {author}. Gelesen von {narrator}.', part: 'Kapitel {number}.', closing: 'Das war {production}, von {author}. Gelesen von {narrator}. Copyright {copyright}. Danke fürs Zuhören.' },
  fr: { opening: '{production}, de {author}. Lu par {narrator}.', part: 'Chapitre {number}.', closing: 'C’était {production}, de {author}. Lu par {narrator}. Copyright {copyright}. Merci de votre écoute.' },
  es: { opening: '{production}, de {author}. Leído por {narrator}.', part: 'Capítulo {number}.', closing: 'Esto fue {production}, de {author}. Leído por {narrator}. Copyright {copyright}. Gracias por escuchar.' },
}
const wordless: Pick<Announcements, AnnouncedPlace> = { opening: '{production}. {author}. {narrator}.', part: '{number}.', closing: '{production}. {author}. {narrator}.' }

/** Templates to begin with in a language (BCP 47). */
export const suggestedAnnouncements = (language: string): Pick<Announcements, AnnouncedPlace> => suggestions[primaryLanguage(language)] ?? wordless

/**
 * What is said and heard around the parts of a script, by the id of the part. The opening is before the first part that speaks, the closing after the last one. `idOf`
 * makes ids of passages.
 */
export function aroundParts(parts: readonly AnnouncedPart[], announcements: Announcements, work: AnnouncedWork, language: string, idOf = (partId: string, what: string): string => `${partId}.${what}`): Map<string, AroundPart> {
  const { role, ownFiles, intro, outro, soundsOf } = announcements
  const speaking = parts.filter(({ included, speaks }) => included && speaks)
  const [first, last] = [speaking[0], speaking.at(-1)]
  const titles = fileTitles[primaryLanguage(language)] ?? fileTitles['en']!
  const numbers = new Map<PartKind, number>()
  const said = (part: AnnouncedPart, of: AnnouncedPlace, values: Values): Passage[] => {
    const text = announcementText(announcements[of], values)
    if (!/[\p{L}\p{N}]/u.test(text)) return []
    const isOwnFile = ownFiles === 'all' || ownFiles === 'credits' && of !== 'part'
    return [{ id: idOf(part.id, of), kind: 'title', content: plainContent(text), ...(role === null ? {} : { role }), announcement: { of, isOwnFile, title: of === 'part' ? text : titles[of] } }]
  }
  const heard = (part: AnnouncedPart, name: string | null, what: 'intro' | 'outro', isHere: boolean): Passage[] =>
    name === null || !(isHere || soundsOf === 'part') ? [] : [{ id: idOf(part.id, what), kind: 'title', content: soundContent(name, what), announcement: { of: 'sound', isOwnFile: false, title: '' } }]
  return new Map(speaking.map((part): [string, AroundPart] => {
    const isAnnounced = announcedKinds.has(part.kind)
    const number = (numbers.get(part.kind) ?? 0) + 1
    if (isAnnounced) numbers.set(part.kind, number)
    return [part.id, {
      before: [
        ...heard(part, intro, 'intro', part === first),
        ...(part === first ? said(part, 'opening', work) : []),
        ...(isAnnounced ? said(part, 'part', { ...work, number: String(number), part: part.label }) : []),
      ],
      after: [...(part === last ? said(part, 'closing', work) : []), ...heard(part, outro, 'outro', part === last)],
    }]
  }))
}

function soundContent(sound: string, what: 'intro' | 'outro'): Content {
  const runs = [{ text: '', on: [], point: 'sound' }, { text: '', on: [], point: 'rest' }]
  return { version: 2, runs: what === 'intro' ? runs : runs.toReversed(), directions: [{ id: 'sound', kind: 'sound', sound }, { id: 'rest', kind: 'rest', ms: soundRestMs }] }
}

/** A part with what is said around it. Its announcement is left out where that only repeats its title and is not to. */
export function withAnnouncements(part: Part, { before, after }: AroundPart, repeats: Announcements['repeats']): Part {
  const [first] = part.passages
  const kept = repeats === 'say' || first === undefined ? before : before.filter(passage => passage.announcement?.of !== 'part' || !saysTitle(writtenText(passage.content), first.kind, writtenText(first.content)))
  return { ...part, passages: [...kept, ...part.passages, ...after] }
}

/** Whether an announcement says the title that a part begins with. */
function saysTitle(announcement: string, kind: PassageKind, text: string): boolean {
  return (kind === 'title' || kind === 'heading') && saysWords(announcement, text)
}

/** Whether a text says all words of another, in a row. */
function saysWords(text: string, words: string): boolean {
  const plain = (given: string): string => ` ${(given.toLowerCase().match(/[\p{L}\p{M}\p{N}]+/gu) ?? []).join(' ')} `
  return plain(words).trim() !== '' && plain(text).includes(plain(words))
}

/** A part as far as its title is compared with its announcement. */
interface TitledPart {
  readonly label: string
  readonly passages: readonly (Pick<Passage, 'kind' | 'announcement'> & { readonly title: string })[]
}

/** Labels of the parts whose own title says what their announcement has said. */
export function doubledTitles(parts: readonly TitledPart[]): string[] {
  return parts.filter(({ passages }) => {
    const announced = passages.findIndex(({ announcement }) => announcement?.of === 'part')
    const [first] = passages.slice(announced + 1)
    return announced >= 0 && first !== undefined && saysTitle(passages[announced]!.title, first.kind, first.title)
  }).map(({ label }) => label)
}
