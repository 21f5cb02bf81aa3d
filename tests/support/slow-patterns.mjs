// Tries every regular expression that stands in the sources with 100,000 characters of each sort that makes patterns slow, and prints those that
// take longer than a linear one can. Run as a process of its own, which can be ended from outside.
import ts from 'typescript'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

const [root, ...folders] = process.argv.slice(2)
const characters = 100_000
const screening = 4_000
/** Time of a pattern for so many characters; one that grows with their square takes many times as long. */
const mostMs = { screening: 10, whole: 800 }

const units = [
  ' ', '\t', '\n', 'a', 'A', 'é', '0', 'I', '.', ',', ':', ';', '-', '—', '/', '<', '>', '[', ']', '(', ')', '{', '"', '“', '”', '„', '«', '\'', '’', '#', '*', '_', '=', '+', '@', '&', '%', '|', '…', 'ˈ', '🐝',
  '1 ', 'a ', 'A ', 'a.', 'A-', '.@', 'a@', '1.', '1,', '1/', '1+', '<!--', '<a ', '$1 ', '.\n', 'a\n', '-\n', 'http://', 'a="',
]

function literalsIn(folder) {
  return readdirSync(join(root, folder), { recursive: true }).filter(name => name.endsWith('.ts')).flatMap(name => {
    const file = join(folder, name)
    const source = ts.createSourceFile(file, readFileSync(join(root, file), 'utf8'), ts.ScriptTarget.Latest, true)
    const found = []
    const visit = node => {
      if (node.kind === ts.SyntaxKind.RegularExpressionLiteral) found.push({ place: `${file}:${source.getLineAndCharacterOfPosition(node.getStart()).line + 1}`, text: node.getText() })
      ts.forEachChild(node, visit)
    }
    visit(source)
    return found
  })
}

function timeOf(pattern, flags, text) {
  const expression = new RegExp(pattern, flags)
  const began = performance.now()
  if (flags.includes('g')) for (const _ of text.matchAll(expression)) continue
  else expression.exec(text)
  return performance.now() - began
}

/** Looks at a pattern that seems slow, and the pause between two of them, ms: a machine that is busy with something else is slow for some hundred ms, a pattern is slow every time. */
const looks = 5
const pauseMs = 200

/** The least time of so many looks, or that of the first that takes no longer than it may. */
function leastTimeOf(pattern, flags, text, most) {
  let least = timeOf(pattern, flags, text)
  for (let look = 1; look < looks && least > most; look += 1) {
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, pauseMs)
    least = Math.min(least, timeOf(pattern, flags, text))
  }
  return least
}

const literals = folders.flatMap(literalsIn)
const slow = literals.flatMap(({ place, text }) => {
  const end = text.lastIndexOf('/')
  const [pattern, flags] = [text.slice(1, end), text.slice(end + 1)]
  // What follows in the end keeps a pattern from matching to the last character.
  const taken = length => units.map(unit => ({ unit, text: `${unit.repeat(Math.ceil(length / unit.length))}x\u0001` }))
  for (const [length, most] of [[screening, mostMs.screening], [characters, mostMs.whole]]) {
    for (const each of taken(length)) {
      const ms = leastTimeOf(pattern, flags, each.text, most)
      if (ms > most) return [`${place} ${text.slice(0, 100)} on ${JSON.stringify(each.unit)}: ${Math.round(ms)} ms for ${length} characters`]
    }
  }
  return []
})
process.stdout.write(JSON.stringify({ patterns: literals.length, slow }))
