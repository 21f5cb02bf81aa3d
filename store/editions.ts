import { generateNKeysBetween } from 'fractional-indexing'
import { Op, QueryTypes, type Transaction } from 'sequelize'
import { v7 as uuidv7 } from 'uuid'
import { noDetails, type WorkCover, type WorkDetails } from '#core/delivery/details'
import type { NameRules } from '#core/delivery/naming'
import type { DeliveryProfile } from '#core/delivery/profile'
import { profileNames } from '#core/delivery/profiles'
import { isLanguageTag, notALanguage } from '#core/language/tag'
import type { Choices } from '#core/manuscript/choices'
import { contentOf, type ProposedPart, type ProposedPassage } from '#core/manuscript/structure'
import { fail } from '#core/problem'
import type { Announcements } from '#core/script/announcements'
import { narratorName, type Casting } from '#core/score/cast'
import type { CompileContext } from '#core/score/compile'
import { wordFinder } from '#core/words/find-words'
import type { Sounds } from '#core/score/sounds'
import type { PassageFields, ScriptChange } from '#core/script/changes'
import { plainContent, type Content } from '#core/script/content'
import { renamed } from '#core/script/roles'
import { rolesOfPassage } from '#core/script/script'
import type { Choice } from '#core/takes/choice'
import { hitsOff, type Decision } from '#core/script/decisions'
import { prepareRules } from '#core/style/rule'
import { defaultHouseStyle, type HouseStyle } from '#core/style/house-style'
import type { HouseStyleSummary, ProductionView } from '#shared/api'
import { castingFor } from '#voices/choose'
import { engineCapabilities, engineKind } from '#voices/registry'
import type { Database } from './database'
import { postEvent } from './events'
import { AssetRow, CastingRow, ChoiceRow, DecisionRow, DeliveryProfileRow, EditionRow, HouseStyleRow, PartRow, PassageRow, ProductionRow, RoleRow, WordbookRow } from './models'
import { saidVoices } from './voices'
import { wordbooksOf, type StoredWordbook } from './wordbooks'

export interface NewProduction {
  readonly manuscriptId: string | null
  readonly title: string
  readonly author: string | null
  readonly language: string
  readonly parts: readonly ProposedPart[]
  readonly choices?: Choices
  readonly casting: Casting
  /** *Plain* without. */
  readonly style?: HouseStyle
  /** Digest of what was asked for: the same that comes twice makes one production. */
  readonly request?: string
}

/** Makes a production with one edition, one narrator and a house style of its own. Gives the edition's id. */
export async function createProduction(database: Database, work: NewProduction): Promise<string> {
  const request = work.request ?? null
  return database.sequelize.transaction(async transaction => {
    if (request !== null) {
      await database.rows('SELECT pg_advisory_xact_lock(hashtext($1))::text AS locked', [request], transaction)
      const made = await EditionRow.findOne({ where: { request }, attributes: ['id'], transaction })
      if (made !== null) return made.id
    }
    const production = await ProductionRow.create({ id: uuidv7(), title: work.title, author: work.author }, { transaction })
    const rules = work.style ?? defaultHouseStyle
    const style = await HouseStyleRow.create({ id: uuidv7(), name: rules.name, rules }, { transaction })
    const edition = await EditionRow.create({
      id: uuidv7(), productionId: production.id, manuscriptId: work.manuscriptId, houseStyleId: style.id, language: work.language,
      choices: work.choices ?? null, request,
    }, { transaction })
    const role = await RoleRow.create({ id: uuidv7(), productionId: production.id, name: narratorName, isNarrator: true }, { transaction })
    await CastingRow.create({ roleId: role.id, editionId: edition.id, ...work.casting }, { transaction })
    await insertParts(edition.id, await withRoleIds(edition, work.parts, transaction), transaction)
    return edition.id
  })
}

/** A part of a proposal whose roles are called by their ids. */
export interface CastPart extends Omit<ProposedPart, 'passages'> {
  readonly passages: readonly CastPassage[]
}

export interface CastPassage extends ProposedPassage {
  readonly content: Content
}

/** Parts that come in with roles by name: those that are not there yet are made. */
export async function withRoleIds(edition: EditionRow, parts: readonly ProposedPart[], transaction: Transaction): Promise<CastPart[]> {
  const own = parts.map(part => ({ ...part, passages: part.passages.map((passage): CastPassage => ({ ...passage, content: contentOf(passage) })) }))
  const ids = await ensureRoles(edition, own.flatMap(part => part.passages.flatMap(rolesOfPassage)), transaction)
  return own.map(part => ({ ...part, passages: part.passages.map(passage => renamed(passage, name => ids.get(name)!)) }))
}

/** What a passage of a proposal is in the database, apart from its place. */
export function passageFields(passage: CastPassage): Omit<PassageFields, 'partId' | 'rank'> {
  const { kind, text, content, level, language, role, block } = passage
  return { kind, content, importedText: text, level: level ?? null, language: language ?? null, role: role ?? null, block }
}

/** Where something can be written in a part that came in without any text. */
const emptyPassage: Omit<PassageFields, 'partId' | 'rank'> = { kind: 'paragraph', content: plainContent(''), importedText: null, level: null, language: null, role: null, block: null }

async function insertParts(editionId: string, parts: readonly CastPart[], transaction: Transaction): Promise<void> {
  const ranks = generateNKeysBetween(null, null, parts.length)
  const rows = parts.map((part, index) => ({
    id: uuidv7(), editionId, rank: ranks[index]!, kind: part.kind, label: part.label, included: part.included, about: part.about,
  }))
  await PartRow.bulkCreate(rows, { transaction })
  const passages = parts.flatMap((part, index) => {
    const filled = part.passages.length === 0 ? [emptyPassage] : part.passages.map(passageFields)
    const passageRanks = generateNKeysBetween(null, null, filled.length)
    return filled.map((fields, ordinal) => ({ id: uuidv7(), partId: rows[index]!.id, rank: passageRanks[ordinal]!, ...fields }))
  })
  for (let from = 0; from < passages.length; from += 1000) await PassageRow.bulkCreate(passages.slice(from, from + 1000), { transaction })
}

export interface LoadedEdition {
  readonly edition: EditionRow
  readonly production: ProductionRow
  readonly style: HouseStyle
  /** The narrator's. */
  readonly casting: Casting
  /** Every role, the narrator first. */
  readonly roles: readonly CastRole[]
  /** How its words are said, the nearer wordbook first. */
  readonly wordbooks: readonly StoredWordbook[]
  /** The library of its production, by name. */
  readonly sounds: Sounds
  /** The profile of its files, where that was made here. */
  readonly ownProfile: DeliveryProfile | null
  /** What was decided about hits and findings. */
  readonly decisions: readonly StoredDecision[]
  /** The takes that were chosen. */
  readonly choices: readonly Choice[]
}

export interface StoredDecision {
  readonly id: string
  readonly decision: Decision
}

export interface CastRole {
  readonly id: string
  readonly name: string
  readonly casting: Casting
}

async function soundsOf(productionId: string): Promise<Sounds> {
  const rows = await AssetRow.findAll({ where: { productionId, kind: 'sound' } })
  return Object.fromEntries(rows.map(({ name, takeKey, sampleRate, sampleCount }) => [name, { key: takeKey, sampleRate, sampleCount }]))
}

/** The castings of the roles other than the narrator's, by id. */
function castingsOf({ roles }: Pick<LoadedEdition, 'roles'>): Record<string, Casting> {
  return Object.fromEntries(roles.slice(1).map(role => [role.id, role.casting]))
}

/** What the passages of an edition are compiled with. Throws a problem when its language is none. */
export function contextOf(loaded: LoadedEdition): Omit<CompileContext, 'previousKind'> {
  const { edition, style, casting, sounds, wordbooks } = loaded
  if (!isLanguageTag(edition.language)) fail('language-unknown', `The language of this production is none: ${notALanguage(edition.language)}`)
  return { language: edition.language, style, casting, castings: castingsOf(loaded), engines: engineCapabilities(), sounds, findWords: wordFinder(wordbooks), rules: prepareRules(style.rules), off: hitsOff(loaded.decisions.map(({ decision }) => decision)) }
}

/** Throws a problem when there is no such edition. */
export async function loadEdition(editionId: string): Promise<LoadedEdition> {
  const edition = await EditionRow.findByPk(editionId) ?? noEdition()
  const [production, style, roles, sounds, wordbooks, decisions, choices, ownProfile] = await Promise.all([
    ProductionRow.findByPk(edition.productionId, { rejectOnEmpty: true }),
    HouseStyleRow.findByPk(edition.houseStyleId, { rejectOnEmpty: true }),
    rolesOf(edition),
    soundsOf(edition.productionId),
    wordbooksOf(edition.productionId),
    DecisionRow.findAll({ where: { editionId }, order: [['ordinal', 'ASC']] }),
    choicesOf(editionId),
    edition.profileId === null ? null : DeliveryProfileRow.findByPk(edition.profileId, { rejectOnEmpty: true }),
  ])
  return { edition, production, style: style.rules, casting: roles[0]!.casting, roles, sounds, wordbooks, decisions: decisions.map(({ id, decision }) => ({ id, decision })), choices, ownProfile: ownProfile?.profile ?? null }
}

/** The choices of takes in an edition, the newest first: of two at one place the newer counts. */
function choicesOf(editionId: string): Promise<Choice[]> {
  return ChoiceRow.sequelize!.query<Choice>(
    'SELECT c.at, c.take, t.origin, t.text_hash AS "textHash" FROM choices c LEFT JOIN takes t ON t.id = c.take WHERE c.edition_id = $1 ORDER BY c.ordinal DESC', { bind: [editionId], type: QueryTypes.SELECT })
}

/** The narrator's casting alone. */
export async function narratorOf(editionId: string): Promise<Casting> {
  const [narrator] = await rolesOf(await EditionRow.findByPk(editionId) ?? noEdition())
  return narrator!.casting
}

/** The roles of an edition: the narrator, then the others in the order they were made. One that has no voice in this edition yet gets one. */
export async function rolesOf(edition: EditionRow, transaction?: Transaction): Promise<CastRole[]> {
  const within = transaction === undefined ? {} : { transaction }
  const load = (): Promise<[RoleRow[], CastingRow[]]> => Promise.all([
    RoleRow.findAll({ where: { productionId: edition.productionId }, order: [['isNarrator', 'DESC'], ['ordinal', 'ASC']], ...within }),
    CastingRow.findAll({ where: { editionId: edition.id }, ...within }),
  ])
  let [roles, castings] = await load()
  if (castings.length < roles.length) {
    await castMissing(edition, roles, castings, transaction)
    ;[roles, castings] = await load()
  }
  return roles.flatMap(({ id, name }) => {
    const row = castings.find(casting => casting.roleId === id)
    return row === undefined ? [] : [{ id, name, casting: castingOfRow(row) }]
  })
}

function castingOfRow({ engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, gainDb }: CastingRow): Casting {
  return { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, gainDb }
}

/** Gives voices to roles without: the narrator the usual one of the edition's language, the others colourings of that. Throws a problem when no voice speaks it. */
async function castMissing(edition: EditionRow, roles: readonly RoleRow[], castings: readonly CastingRow[], transaction: Transaction | undefined): Promise<void> {
  const known = castings.find(({ roleId }) => roleId === roles[0]!.id)
  const narrator = known === undefined ? castingFor(await saidVoices(), edition.language, {}) : castingOfRow(known)
  const missing = roles.flatMap((role, index) => castings.some(({ roleId }) => roleId === role.id) ? [] : [{ editionId: edition.id, roleId: role.id, ...coloured(narrator, index) }])
  // Whoever has given them voices meanwhile was first.
  await CastingRow.bulkCreate(missing, { ignoreDuplicates: true, ...(transaction === undefined ? {} : { transaction }) })
}

/** The narrator's casting for the role at a place in the cast, the narrator being at 0: the others get colourings of the voice in turn. */
function coloured(narrator: Casting, place: number): Casting {
  const { colourings } = engineKind(narrator.engine).capabilities
  const colouring = place === 0 ? undefined : colourings[(place - 1) % colourings.length]
  return colouring === undefined ? narrator : { ...narrator, voice: `${narrator.voice.split('+')[0]!}+${colouring}` }
}

/** Makes the roles among these names that are not there yet. Gives the id of each. */
export async function ensureRoles(edition: EditionRow, names: readonly string[], transaction: Transaction): Promise<ReadonlyMap<string, string>> {
  if (names.length === 0) return new Map()
  // Editions of one production may make the same role at once.
  await ProductionRow.findByPk(edition.productionId, { attributes: ['id'], transaction, lock: transaction.LOCK.UPDATE })
  const ids = new Map((await RoleRow.findAll({ where: { productionId: edition.productionId }, transaction })).map(role => [role.name, role.id]))
  for (const name of new Set(names)) if (!ids.has(name)) ids.set(name, (await RoleRow.create({ id: uuidv7(), productionId: edition.productionId, name }, { transaction })).id)
  await rolesOf(edition, transaction)
  return ids
}

/** Makes a role under an id of its own. Throws a problem when there is another of that name. */
export async function makeRole(edition: EditionRow, id: string, name: string, transaction: Transaction): Promise<void> {
  await ProductionRow.findByPk(edition.productionId, { attributes: ['id'], transaction, lock: transaction.LOCK.UPDATE })
  const known = await RoleRow.findOne({ where: { productionId: edition.productionId, name }, transaction })
  if (known !== null && known.id !== id) fail('role-exists', `There is a role “${name}” already. Choose it, or another name.`)
  if (known === null) await RoleRow.create({ id, productionId: edition.productionId, name }, { transaction })
  await rolesOf(edition, transaction)
}

/** The row of an edition, which nobody else changes until the transaction ends. Throws a problem when there is none. */
export async function lockEdition(editionId: string, transaction: Transaction): Promise<EditionRow> {
  const edition = await EditionRow.findByPk(editionId, { transaction, lock: transaction.LOCK.UPDATE })
  return edition ?? noEdition()
}

export function noEdition(): never {
  return fail('not-found', 'There is no such production. It may have been removed: then it can be put back on the shelf for 30 days.')
}

/** Notes a change of an edition, or of what all editions of its production share, and tells its watchers. What is kept of a score holds as long as the revision is the same. */
export async function touch(database: Database, edition: EditionRow, transaction: Transaction): Promise<void> {
  await EditionRow.increment('revision', { where: { productionId: edition.productionId }, transaction })
  await ProductionRow.update({ changedAt: new Date() }, { where: { id: edition.productionId }, transaction })
  await postEvent(database, edition.id, { kind: 'script' }, transaction)
}

/** Marks other editions as changed that share a house style, or the wordbook of all, with the one that an edit has changed. */
export async function touchSharing(database: Database, edition: EditionRow, changes: readonly ScriptChange[], transaction: Transaction): Promise<void> {
  const styles = changes.filter(change => change.of === 'style').map(change => change.id)
  const wordbooks = changes.flatMap(change => change.of === 'word' ? [change.before?.wordbookId, change.after?.wordbookId] : [])
  const isForAll = wordbooks.length > 0 && await WordbookRow.count({ where: { id: [...new Set(wordbooks)].filter(id => id !== undefined), productionId: null }, transaction }) > 0
  if (styles.length === 0 && !isForAll) return
  for (const other of await EditionRow.findAll({ where: { ...(isForAll ? {} : { houseStyleId: styles }), id: { [Op.ne]: edition.id } }, transaction })) await touch(database, other, transaction)
}

/** Changes of an edition that are no edits of its script. */
export interface EditionChange {
  readonly title?: string
  readonly author?: string | null
  readonly language?: string
  /** Null for that of its profile. */
  readonly namePattern?: string | null
  /** Those that change; null for those of its profile. */
  readonly nameRules?: Partial<NameRules> | null
  /** The name of one that comes with the program, or the id of one that was made here. */
  readonly profile?: string
  /** Those that change. */
  readonly details?: Partial<WorkDetails>
  /** Null for none. */
  readonly cover?: WorkCover | null
  /** Null for those of its profile. */
  readonly announcements?: Announcements | null
  readonly casting?: Casting
  /** Whose casting it is; the narrator's without. */
  readonly roleId?: string
}

/** What is said of a profile that is not there. */
export const noProfile = (): never => fail('not-found', 'There is no such profile. It may have been removed.')

/** Throws a problem when there is no such profile. */
async function useProfile(edition: EditionRow, nameOrId: string, transaction: Transaction): Promise<void> {
  const name = profileNames.find(each => each === nameOrId)
  // What is removed meanwhile is waited for.
  if (name === undefined && await DeliveryProfileRow.findByPk(nameOrId, { transaction, lock: transaction.LOCK.SHARE }) === null) noProfile()
  await edition.update(name === undefined ? { profileId: nameOrId } : { profile: name, profileId: null }, { transaction })
}

export async function changeEdition(database: Database, editionId: string, change: EditionChange): Promise<void> {
  const { roles } = await loadEdition(editionId)
  await database.sequelize.transaction(async transaction => {
    const edition = await lockEdition(editionId, transaction)
    const { title, author, language, namePattern, nameRules, profile, details, cover, announcements, casting, roleId } = change
    if (title !== undefined || author !== undefined) {
      await ProductionRow.update({ ...(title === undefined ? {} : { title }), ...(author === undefined ? {} : { author }) }, { where: { id: edition.productionId }, transaction })
    }
    if (language !== undefined) await edition.update({ language }, { transaction })
    if (namePattern !== undefined) await edition.update({ namePattern }, { transaction })
    if (nameRules !== undefined) await edition.update({ nameRules: nameRules === null ? null : { ...edition.nameRules, ...nameRules } }, { transaction })
    if (profile !== undefined) await useProfile(edition, profile, transaction)
    if (details !== undefined) await edition.update({ details: { ...noDetails, ...edition.details, ...details } }, { transaction })
    if (cover !== undefined) await edition.update({ cover }, { transaction })
    if (announcements !== undefined) await edition.update({ announcements }, { transaction })
    if (casting !== undefined) await CastingRow.update(casting, { where: { editionId, roleId: roleId ?? roles[0]!.id }, transaction })
    await touch(database, edition, transaction)
  })
}

/** A production by its own id, or by that of one of its editions. Throws a problem when there is none. */
export async function productionOf(id: string): Promise<ProductionView> {
  const edition = await EditionRow.findByPk(id, { attributes: ['productionId'] })
  const production = await ProductionRow.findByPk(edition?.productionId ?? id) ?? noEdition()
  const editions = await EditionRow.findAll({ where: { productionId: production.id }, attributes: ['id', 'language'], order: [['id', 'ASC']] })
  if (editions.length === 0) noEdition()
  return { id: production.id, title: production.title, editions: editions.map(edition => ({ id: edition.id, language: edition.language })) }
}

/** The id of a house style that an edition shares with no other: a copy, or the one it has. */
export async function ownHouseStyle({ houseStyleId }: EditionRow, transaction: Transaction): Promise<string> {
  if (await EditionRow.count({ where: { houseStyleId }, transaction }) === 1) return houseStyleId
  const { rules } = await HouseStyleRow.findByPk(houseStyleId, { transaction, rejectOnEmpty: true })
  const name = `${rules.name.slice(0, 190)}, copy`
  return (await HouseStyleRow.create({ id: uuidv7(), name, rules: { ...rules, name } }, { transaction })).id
}

/** House styles that are listed. */
const mostHouseStyles = 500

/** Every house style with the number of productions that have it, by name. */
export function houseStyles(database: Database): Promise<HouseStyleSummary[]> {
  return database.rows<HouseStyleSummary>(
    'SELECT s.id, s.name, count(e.id)::int AS productions FROM house_styles s LEFT JOIN editions e ON e.house_style_id = s.id AND e.removed_at IS NULL GROUP BY s.id ORDER BY s.name, s.id LIMIT $1', [mostHouseStyles])
}
