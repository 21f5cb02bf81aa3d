import { readFile } from 'node:fs/promises'
import { basename } from 'node:path'
import { detailRemedy, type WorkDetails } from '#core/delivery/details'
import { fail } from '#core/problem'
import type { DeliveredWork } from '#core/runsheet/run-sheet'
import type { Script } from '#core/script/script'
import { examineCover } from '#press/cover'
import type { CoverPicture } from '#press/formats/format'

/** What tags say besides what the document says, and the picture on the cover. */
export interface WorkFlags extends Partial<WorkDetails> {
  /** Path of a picture. */
  readonly cover?: string
}

/** A work as its files are labelled, with the picture on its cover. Rejects with a problem when the picture is missing or is none. */
export async function openWork({ title, author, language }: Script, { cover, narrator = '', year = '', genre = '', disc = '', comment = '', copyright = '' }: WorkFlags): Promise<DeliveredWork & { readonly picture: CoverPicture | null }> {
  const [yearRemedy, discRemedy] = [detailRemedy('year', year), detailRemedy('disc', disc)]
  if (yearRemedy !== null) fail('year-wrong', `“${year}” is no year. ${yearRemedy}`)
  if (discRemedy !== null) fail('disc-wrong', `“${disc}” is no place in a set. ${discRemedy}`)
  const picture = cover === undefined ? null : await openCover(cover)
  return { title, author, language, details: { narrator, year, genre, disc, comment, copyright }, cover: picture === null ? null : { ...picture, bytes: picture.bytes.length }, picture }
}

async function openCover(path: string): Promise<CoverPicture & { readonly sha256: string }> {
  const bytes = await readFile(path).catch(() => fail('cover-missing', `There is no picture ${path}. Check the name.`))
  return { ...await examineCover(path, basename(path)), bytes }
}
