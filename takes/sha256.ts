import { createHash } from 'node:crypto'
import { open } from 'node:fs/promises'

/** Bytes that are read at once: so few that whoever waits beside it is not kept waiting. */
const chunkBytes = 256 * 1024

/** SHA-256 (hex) of a file of this machine. While one chunk counts, the next is read; both stay where they are, because memory that is had anew for each costs as much as the sum. */
export async function sha256OfFile(path: string): Promise<string> {
  const file = await open(path)
  try {
    const digest = createHash('sha256')
    const [chunk, other] = [Buffer.allocUnsafeSlow(chunkBytes), Buffer.allocUnsafeSlow(chunkBytes)]
    let next = file.read(chunk)
    for (let isOther = true; ; isOther = !isOther) {
      const { bytesRead, buffer } = await next
      if (bytesRead === 0) return digest.digest('hex')
      next = file.read(isOther ? other : chunk)
      digest.update(buffer.subarray(0, bytesRead))
    }
  } finally {
    await file.close()
  }
}
