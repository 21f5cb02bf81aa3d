import { parseKeybinding } from 'tinykeys'
import { capsOf } from '../../../app/keys/caps'
import { allCommands, commandsIn, doublesOf, isSingle, keyTables, keyViews, viewsTogether, type CommandId } from '../../../app/keys/tables'

// The tables of keys: what they say can be pressed, and one key does one thing.

const usual = (id: CommandId): readonly string[] => allCommands.get(id)!.keys

test('no key does two things in views that are there at once', () => {
  const doubles = [...allCommands.keys()].flatMap(id => usual(id).flatMap(key => doublesOf(id, key, usual).map(other => `${key}: ${id}, ${other}`)))
  expect(doubles).toEqual([])
})

test('a double is found', () => {
  const changed = (id: CommandId): readonly string[] => id === 'nextSentence' ? ['F6'] : usual(id)
  expect(doublesOf('nextSentence', 'F6', changed)).toEqual(['nextArea'])
  // Upper and lower case are one key; views that are not there at once have their own.
  expect([doublesOf('undo', '$mod+K', usual), doublesOf('leaveWord', 'F6', usual), doublesOf('rest', 'h', usual)]).toEqual([['commands'], [], []])
})

test('every command has an id and a title of its own, and keys that can be read', () => {
  expect(allCommands.size).toBe(keyViews.reduce((sum, view) => sum + commandsIn(view).length, 0))
  for (const views of viewsTogether) {
    const titles = views.flatMap(view => commandsIn(view).map(([, { title }]) => title))
    expect(new Set(titles).size).toBe(titles.length)
  }
  for (const id of allCommands.keys()) for (const key of usual(id)) expect(parseKeybinding(key)).toHaveLength(1)
})

test('every view is among those that are there at once', () => {
  expect(Object.keys(keyTables).filter(view => !viewsTogether.flat().some(each => each === view))).toEqual([])
})

test.each([['h', true], ['?', true], ['1', true], ['$mod+h', false], ['F6', false], ['Space', false], ['ArrowUp', false], ['Alt+1', false]])('%s types a sign: %s', (key, expected) => {
  expect(isSingle(key)).toBe(expected)
})

test.each([['$mod+Shift+f', ['Ctrl', 'Shift', 'F']], ['?', ['?']], ['ArrowLeft', ['←']], ['$mod+.', ['Ctrl', '.']], ['$mod++', ['Ctrl', '+']]])('%s is shown as %s', (key, caps) => {
  expect(capsOf(key)).toEqual(caps)
})
