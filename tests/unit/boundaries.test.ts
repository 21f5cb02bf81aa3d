import { execFileSync } from 'node:child_process'
import { root } from '../support/paths'

interface Sample {
  readonly place: string
  readonly text: string
}

/** The rules that the project's own lint finds broken in each text, were it at its place. */
function lint(samples: readonly Sample[]): string[][] {
  const script = `
    import { ESLint } from 'eslint'
    const eslint = new ESLint()
    const results = []
    for (const { place, text } of JSON.parse(process.env.SAMPLES)) {
      const [result] = await eslint.lintText(text, { filePath: place })
      results.push(result.messages.map(message => message.ruleId))
    }
    console.log(JSON.stringify(results))`
  const output = execFileSync(process.execPath, ['--input-type=module', '-e', script], { cwd: root, encoding: 'utf8', env: { ...process.env, NODE_OPTIONS: '', SAMPLES: JSON.stringify(samples) } })
  return JSON.parse(output) as string[][]
}

const importing = (what: string): string => `import { a } from '${what}'\n\nexport const b = a\n`

describe('the arrows between folders', () => {
  const against: Sample[] = [
    { place: 'core/script/x.ts', text: importing('#store/database') },
    { place: 'core/script/x.ts', text: importing('../../intake/reader') },
    { place: 'core/script/x.ts', text: importing('node:fs') },
    { place: 'takes/x.ts', text: importing('#reading/make-takes') },
    { place: 'press/x.ts', text: importing('#store/database') },
    { place: 'cli/x.ts', text: importing('../store/database') },
    { place: 'app/utils/x.ts', text: importing('#press/deliver') },
    {
      place: 'app/components/X.vue',
      text: `<script setup lang="ts">\n${importing('#voices/port').replace('export ', '')}</script>\n\n<template>\n  <p>{{ b }}</p>\n</template>\n`,
    },
  ]
  const along: Sample[] = [
    { place: 'reading/x.ts', text: importing('#takes/library') },
    { place: 'app/utils/x.ts', text: importing('#core/problem') },
    { place: 'worker/x.ts', text: importing('#store/database') },
    { place: 'intake/docx/x.ts', text: importing('../reader') },
  ]
  const results = lint([...against, ...along])

  test.each(against.map((sample, index) => [sample.place, sample.text.match(/'(.*)'/u)![1], index] as const))('%s may not import %s', (_, __, index) => {
    expect(results[index]).toContain('no-restricted-imports')
  })

  test.each(along.map((sample, index) => [sample.place, sample.text.match(/'(.*)'/u)![1], index] as const))('%s may import %s', (_, __, index) => {
    expect(results[against.length + index]).toEqual([])
  })
})
