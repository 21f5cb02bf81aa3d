import { createHash, randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, rename, rm } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { v7 as uuidv7 } from 'uuid'
import { fail } from '#core/problem'
import { maximumFileBytes } from '#intake/reader'
import { takeIn } from '#intake/take-in'
import { uploadQuerySchema, type UploadQuery } from '#shared/schemas'
import { ManuscriptRow } from '#store/models'
import { proposalFor } from '../../utils/proposal'
import { queryOf, route } from '../../utils/route'

const query = queryOf<UploadQuery>(uploadQuerySchema)

/** Takes a file in: its bytes are the body, streamed to disk. Answers the proposal for its parts. */
export default route(async (event, { folders, readerProgram }) => {
  const { name, encoding } = query(event)
  const fileName = basename(name.replace(/\\/gu, '/'))
  await mkdir(folders.manuscripts, { recursive: true })
  const arriving = join(folders.manuscripts, `${randomUUID()}.part`)
  try {
    const sha256 = await store(event.node.req, arriving, fileName)
    const manuscript = await takeIn(readerProgram, arriving, fileName, encoding === undefined ? {} : { encoding })
    await rename(arriving, join(folders.manuscripts, sha256))
    const row = await ManuscriptRow.create({ id: uuidv7(), fileName, sha256, content: manuscript })
    return proposalFor(row)
  } finally {
    await rm(arriving, { force: true })
  }
})

async function store(body: NodeJS.ReadableStream, path: string, fileName: string): Promise<string> {
  const digest = createHash('sha256')
  let size = 0
  const measure = new Transform({
    transform(chunk: Buffer, _, done) {
      size += chunk.length
      digest.update(chunk)
      done(size > maximumFileBytes ? new Error('too large') : null, chunk)
    },
  })
  try {
    await pipeline(body, measure, createWriteStream(path, { flush: true }))
  } catch (error) {
    if (size > maximumFileBytes) fail('file-too-large', `${fileName} has more than ${maximumFileBytes / 1024 / 1024} MB. Divide it.`)
    throw error
  }
  return digest.digest('hex')
}
