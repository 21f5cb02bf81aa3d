import type { H3Event } from 'h3'
import { profileProblem, type DeliveryProfile } from '#core/delivery/profile'
import { profileFileSchema, profileOfFile, type ProfileFile } from '#core/delivery/profile-file'
import { fail } from '#core/problem'
import { bodyOf } from './route'

const body = bodyOf<ProfileFile>(profileFileSchema)

/** The profile of a request, which has it as its file. Throws a problem where something in it does not go together. */
export async function profileBody(event: H3Event): Promise<DeliveryProfile> {
  const profile = profileOfFile(await body(event))
  const problem = profileProblem(profile)
  return problem === null ? profile : fail('profile-wrong', problem)
}
