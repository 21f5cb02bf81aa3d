import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'

/** SHA-256 (hex) over the JSON of a value. The order of keys does not count: a database may change it. */
export function hash(value: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(JSON.stringify(value, sortKeys))))
}

function sortKeys(_: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => a < b ? -1 : 1))
}
