// Bundles the programs that run outside the web server: worker, command line and the guarded children.
import { build } from 'esbuild'
import { existsSync, mkdirSync, readdirSync, rmSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))
const folders = ['core', 'intake', 'voices', 'takes', 'reading', 'press', 'store', 'services', 'shared']

/** Each engine has the program of its children in its folder. */
const engineChildren = () => readdirSync(`${root}voices`)
  .filter(name => existsSync(`${root}voices/${name}/child.ts`))
  .map(name => [`${name}-child`, `voices/${name}/child.ts`])

export async function bundle() {
  rmSync(`${root}dist`, { recursive: true, force: true })
  mkdirSync(`${root}dist`, { recursive: true })
  await build({
    absWorkingDir: root,
    entryPoints: {
      'worker': 'worker/main.ts',
      'quill': 'cli/main.ts',
      'prepare': 'store/prepare.ts',
      'demo': 'demo/load.ts',
      'speech-service': 'demo/speech-service/main.ts',
      'reader-child': 'intake/reader-child.ts',
      'task-child': 'services/task-child.ts',
      ...Object.fromEntries(engineChildren()),
      'bench': 'bench/main.ts',
    },
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20.19',
    // Everything is bundled, because resolving hundreds of files costs more than running them; the
    // packages with native or optional parts stay outside.
    external: ['koffi', 'pg-native', 'pdfjs-dist', '@playwright/test'],
    splitting: true,
    chunkNames: 'chunks/[name]-[hash]',
    minifySyntax: true,
    banner: { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" },
    alias: Object.fromEntries(folders.map(name => [`#${name}`, `${root}${name}`])),
    tsconfigRaw: '{}',
    logLevel: 'warning',
  })
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await bundle()
