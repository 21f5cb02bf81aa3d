import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { engineKinds } from '../../../voices/registry'
import { root } from '../../support/paths'

/** Folders of the product; an engine is called by its name in its own folder and the registry alone. */
const folders = ['core', 'shared', 'intake', 'voices', 'takes', 'reading', 'press', 'store', 'services', 'server', 'worker', 'cli', 'app', 'demo', 'scripts']

const sources = folders.flatMap(folder => readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
  .filter(name => /\.(?:ts|vue|mjs)$/u.test(name))
  .map(name => join(folder, name)))

test.each(engineKinds().map(({ capabilities }) => capabilities.id))('nothing outside its folder and the registry knows the engine “%s” by name', id => {
  const isItsOwn = (place: string): boolean => place === join('voices', 'registry.ts') || place.startsWith(join('voices', id))
  // What is in a database already was put there when things were as they were then.
  const others = sources.filter(place => !isItsOwn(place) && !place.startsWith(join('store', 'migrations')))
  expect(others.length).toBeGreaterThan(300)
  expect(others.filter(place => readFileSync(join(root, place), 'utf8').toLowerCase().includes(id))).toEqual([])
})
