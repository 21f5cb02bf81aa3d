import { fileURLToPath } from 'node:url'

/** The project's folder, with a trailing slash. */
export const root = fileURLToPath(new URL('..', import.meta.url))
/** All that is stored. */
export const variable = process.env.QUILL_VAR ?? `${root}var`
export const programs = `${root}dist`
