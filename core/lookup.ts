/** The entry of a table under a key that came from outside; undefined where there is none. What every object has (`constructor`) is no entry. */
export function lookup<T>(table: Readonly<Record<string, T>>, key: string): T | undefined {
  return Object.hasOwn(table, key) ? table[key] : undefined
}
