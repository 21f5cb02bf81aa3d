/** Prints a value as JSON on standard output. */
export function printJson(value: unknown): void {
  process.stdout.write(`${JSON.stringify(value, null, 2)}\n`)
}

/** Prints rows in columns, numbers to the right. */
export function printTable(head: readonly string[], rows: readonly (readonly (string | number)[])[]): void {
  const cells = [head, ...rows].map(row => row.map(String))
  const widths = head.map((_, column) => Math.max(...cells.map(row => [...row[column]!].length)))
  for (const row of cells) {
    const line = row.map((cell, column) => {
      const gap = ' '.repeat(widths[column]! - [...cell].length)
      return typeof rows[0]?.[column] === 'number' || /^~?\d+:\d\d/u.test(String(rows[0]?.[column])) ? gap + cell : cell + gap
    })
    process.stdout.write(`${line.join('  ').trimEnd()}\n`)
  }
}

/** 1 file, 2 files. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`
}

/** Between two lines of progress where they cannot be written over, as in a log. */
const progressEveryMs = 2000
let lastProgress = Date.now()

/** Progress on standard error: one line that is written over on a terminal, a line now and then elsewhere. */
export function progress(text: string): void {
  if (process.stderr.isTTY) {
    process.stderr.write(`\r\u001b[K${text}`)
  } else if (Date.now() - lastProgress >= progressEveryMs) {
    lastProgress = Date.now()
    process.stderr.write(`${text}\n`)
  }
}

/** Takes the line of progress away. */
export function endProgress(): void {
  if (process.stderr.isTTY) process.stderr.write('\r\u001b[K')
}

export function note(text: string): void {
  endProgress()
  process.stderr.write(`${text}\n`)
}

const noted = new Set<string>()

/** The same for what is about a document and not about one of the profiles that its files are made for: it is said once. */
export function noteOnce(text: string): void {
  if (noted.has(text)) return
  noted.add(text)
  note(text)
}
