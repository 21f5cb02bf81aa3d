import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { freePort } from '../../scripts/postgres.mjs'

/** A service that keeps buckets, and what a process is told of it. */
export interface BucketService {
  readonly environment: Readonly<Record<'QUILL_STORAGE' | 'AWS_ACCESS_KEY_ID' | 'AWS_SECRET_ACCESS_KEY', string>>
  readonly stop: () => Promise<void>
}

const bucket = 'narration'
const firstPort = 4680
const longestStartMs = 20_000
const lookMs = 50

/** Starts an S3-compatible service on loopback with one empty bucket, and names a folder in it. */
export async function startBucket(): Promise<BucketService> {
  const directory = await mkdtemp(join(tmpdir(), 'quill-bucket-'))
  const port = await freePort(firstPort)
  // It marks where a long list goes on by a cipher that is no longer among the usual ones.
  const service = spawn(process.execPath, [
    '--openssl-legacy-provider', join(process.cwd(), 'node_modules/s3rver/bin/s3rver.js'), '--silent', '--address', '127.0.0.1', '--port', String(port), '--directory', directory, '--configure-bucket', bucket,
  ], { stdio: 'ignore' })
  const ended = once(service, 'exit')
  const endpoint = `http://127.0.0.1:${port}`
  for (let waited = 0; !await fetch(endpoint).then(() => true, () => false); waited += lookMs) {
    if (service.exitCode !== null || waited > longestStartMs) throw new Error('The service of buckets does not start.')
    await sleep(lookMs)
  }
  return {
    environment: { QUILL_STORAGE: `s3://${bucket}/orator%20quill?endpoint=${endpoint}`, AWS_ACCESS_KEY_ID: 'S3RVER', AWS_SECRET_ACCESS_KEY: 'S3RVER' },
    stop: async () => {
      service.kill('SIGTERM')
      await ended
      await rm(directory, { recursive: true, force: true })
    },
  }
}
