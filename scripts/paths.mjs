import { fileURLToPath } from 'node:url'

/** The project's folder, with a trailing slash. */
export const root = fileURLToPath(new URL('..', import.meta.url))
export const variable = `${root}var`
export const programs = `${root}dist`
