import { readFile } from 'node:fs/promises'
import { basename, extname } from 'node:path'
import { Ajv } from 'ajv'
import { profileProblem, type DeliveryProfile } from '#core/delivery/profile'
import { namePatternProblem, type NameRules } from '#core/delivery/naming'
import { fileOfProfile, profileFileSchema, profileOfFile, type ProfileFile } from '#core/delivery/profile-file'
import { defaultProfile, profileNames, profiles, type ProfileName } from '#core/delivery/profiles'
import { fail } from '#core/problem'
import { announcementsProblem, noAnnouncements, type Announcements } from '#core/script/announcements'
import type { FileSplit } from '#core/delivery/file-split'
import { printJson } from './print'

/** Prints a profile to start from, or the schema of its file. */
export function printProfile(name: ProfileName, { schema }: { readonly schema?: boolean }): void {
  printJson(schema === true ? profileFileSchema : fileOfProfile(profiles[name]))
}

/** What decides which files there are, and what they are like. */
export interface ProfileFlags {
  readonly profile?: string
  readonly split?: Partial<FileSplit>
  readonly name?: string
  readonly letters?: NameRules['letters']
  readonly numbers?: NameRules['counts']
  readonly announceOpening?: string
  readonly announcePart?: string
  readonly announceClosing?: string
  readonly announceFiles?: Announcements['ownFiles']
  readonly announceRepeats?: Announcements['repeats']
  readonly intro?: string
  readonly outro?: string
  readonly soundsAround?: Announcements['soundsOf']
  readonly roomTone?: string
}

/** One of the profiles that files are made for, and the folder of its files where there are several. */
export interface ChosenProfile {
  readonly profile: DeliveryProfile
  readonly folder: string | null
}

/** The same flags where several profiles can be asked for. */
export type SeveralProfiles = Omit<ProfileFlags, 'profile'> & { readonly profile?: readonly string[] }

/** Each of the profiles that are asked for. Throws a problem when one cannot be used, or two would have one folder. */
export async function eachProfile(flags: SeveralProfiles): Promise<ChosenProfile[]> {
  const [first, ...others] = flags.profile ?? []
  const chosen: ChosenProfile[] = []
  for (const name of [first, ...others]) chosen.push({ profile: await openProfile({ ...flags, profile: name }), folder: others.length === 0 ? null : basename(name!, extname(name!)) })
  const twice = chosen.find(({ folder }, index) => folder !== null && chosen.findIndex(other => other.folder === folder) < index)
  if (twice !== undefined) fail('profile-twice', `Two profiles would have the folder ${twice.folder}. Ask for each profile once, and give files of profiles different names.`)
  return chosen
}

/** The profile that files are made with: by its name, or of a file; divided as is asked for. */
export async function openProfile(flags: ProfileFlags): Promise<DeliveryProfile> {
  const { split, name, letters, numbers: counts } = flags
  const profile = await profileBy(flags.profile)
  const problem = name === undefined ? null : namePatternProblem(name)
  if (problem !== null) fail('name-pattern', problem)
  return { ...profile, announcements: announcementsOf(flags, profile.announcements), namePattern: name ?? profile.namePattern, nameRules: { ...profile.nameRules, ...(letters === undefined ? {} : { letters }), ...(counts === undefined ? {} : { counts }) }, split: { ...profile.split, ...split } }
}

/** What is announced: what the profile says, and what is asked for instead of it. */
function announcementsOf({ announceOpening: opening, announcePart: part, announceClosing: closing, announceFiles: ownFiles, announceRepeats: repeats, intro, outro, soundsAround: soundsOf, roomTone }: ProfileFlags, known: Announcements | null): Announcements | null {
  const asked = Object.fromEntries(Object.entries({ opening, part, closing, ownFiles, repeats, intro, outro, soundsOf, roomTone }).filter(([, value]) => value !== undefined)) as Partial<Announcements>
  if (Object.keys(asked).length === 0) return known
  const announcements = { ...noAnnouncements, ...known, ...asked }
  const problem = announcementsProblem(announcements)
  return problem === null ? announcements : fail('announcement-wrong', problem)
}

async function profileBy(nameOrPath: string | undefined): Promise<DeliveryProfile> {
  if (nameOrPath === undefined) return defaultProfile
  const known = profileNames.find(name => name === nameOrPath)
  if (known !== undefined) return profiles[known]
  const text = await readFile(nameOrPath, 'utf8').catch(() => fail('profile-missing', `There is no profile ${nameOrPath}: it is neither a file nor one of ${profileNames.join(', ')}.`))
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch (error) {
    fail('profile-broken', `The profile is not valid JSON: ${(error as Error).message}.`, nameOrPath)
  }
  const validate = new Ajv({ allErrors: true }).compile<ProfileFile>(profileFileSchema)
  if (!validate(value)) {
    const [error] = validate.errors ?? []
    const place = error?.instancePath === '' ? 'The profile' : error?.instancePath.slice(1).replace(/\//gu, '.')
    const detail = error?.keyword === 'additionalProperties' ? `: “${(error.params as { additionalProperty: string }).additionalProperty}”` : error?.keyword === 'enum' ? `: ${(error.params as { allowedValues: unknown[] }).allowedValues.join(', ')}` : ''
    fail('profile-wrong', `${place} ${error?.message}${detail}. See docs/formats.md.`, nameOrPath)
  }
  const profile = profileOfFile(value)
  const problem = profileProblem(profile)
  if (problem !== null) fail('profile-wrong', problem, nameOrPath)
  return profile
}
