import { addedKinds, type AddedKind } from '~/utils/directions'
import { directionNames } from '~/utils/words'

// What can be done in each view, and with which keys as long as nobody changes them. A key is written as the library tinykeys reads it.

/** Where a key acts: in the text that is edited, beside every field, in both of these, in fields of forms too, or where its own component says. */
export type KeyPlace = 'text' | 'beside' | 'both' | 'everywhere' | 'own'

export interface Command {
  readonly title: string
  readonly keys: readonly string[]
  readonly where: KeyPlace
}

/** The letter of each direction while the menu is open. */
const directionLetters: Readonly<Record<AddedKind, string>> = {
  rest: 'r', emphasis: 'e', sayAs: 'a', substitute: 'b', phoneme: 'p', prosody: 'd', language: 'l', role: 'c', sound: 's', leftOut: 'x',
}

const numbers = ['1', '2', '3', '4', '5', '6', '7', '8', '9'] as const
const command = (title: string, where: KeyPlace, ...keys: readonly string[]): Command => ({ title, where, keys })

export const keyTables = {
  everywhere: {
    commands: command('Find a command', 'everywhere', '$mod+k'),
    help: command('Help', 'beside', '?', 'F1'),
    goShelf: command('Go to the shelf', 'beside'),
    theme: command('Change between light and dark', 'beside'),
  },
  stages: {
    goIntake: command('Go to Intake', 'beside'),
    goScript: command('Go to Script', 'beside'),
    goWords: command('Go to Words', 'beside'),
    goCast: command('Go to Cast', 'beside'),
    goReading: command('Go to Reading', 'beside'),
    goDelivery: command('Go to Delivery', 'beside'),
  },
  edits: {
    undo: command('Undo', 'both', '$mod+z'),
    redo: command('Redo', 'both', '$mod+y', '$mod+Shift+z'),
  },
  script: {
    hear: command('Hear this sentence', 'both', '$mod+Enter'),
    hearOn: command('Hear from here', 'both', '$mod+Shift+Enter'),
    play: command('Play or stop', 'beside', 'Space'),
    previousSentence: command('Sentence before', 'beside', 'ArrowLeft'),
    nextSentence: command('Next sentence', 'beside', 'ArrowRight'),
    previousPart: command('Part before', 'beside', 'PageUp'),
    nextPart: command('Next part', 'beside', 'PageDown'),
    enterText: command('Go into the text', 'beside', 'Enter'),
    leaveText: command('Leave the text', 'text', 'Escape'),
    directions: command('Directions', 'both', '$mod+.'),
    find: command('Find and replace', 'everywhere', '$mod+Shift+f'),
    nextArea: command('Next area of the page', 'everywhere', 'F6'),
    previousArea: command('Area before', 'everywhere', 'Shift+F6'),
    ssml: command('SSML view', 'both'),
    written: command('Show the text as written', 'both'),
    bothForms: command('Show both forms', 'both'),
    spoken: command('Show the text as spoken', 'both'),
    beginPart: command('Begin a new part here', 'both'),
    divide: command('Divide the script anew', 'both'),
    exportSsml: command('Export the script as SSML', 'both'),
    exportText: command('Export the script as plain text', 'both'),
    exportMarkdown: command('Export the script as Markdown', 'both'),
    exportWord: command('Export the script as a Word document', 'both'),
    read: command('Read what is missing', 'both'),
  },
  directions: Object.fromEntries(addedKinds.map(kind => [kind, command(directionNames[kind], 'own', directionLetters[kind])])) as Readonly<Record<AddedKind, Command>>,
  spine: {
    renamePart: command('Rename the part', 'own', 'F2'),
    findPart: command('Find a part', 'beside'),
    includePart: command('Leave the part out, or take it in again', 'beside'),
    mergePart: command('Merge the part with the next', 'beside'),
    partUp: command('Move the part up', 'beside'),
    partDown: command('Move the part down', 'beside'),
    chooseSeveral: command('Choose several parts', 'beside'),
  },
  census: {
    previousEntry: command('Entry before', 'beside', 'ArrowUp'),
    nextEntry: command('Next entry', 'beside', 'ArrowDown'),
    hearWord: command('Hear it as it is now', 'beside', 'h'),
    hearItsSentence: command('Hear its sentence', 'beside', 's'),
    setWord: command('Say how it is said', 'beside', 'Enter'),
    leaveWord: command('Leave it as it is', 'beside', 'l'),
  },
  shelf: {
    bringIn: command('Bring in a document', 'beside', 'n'),
  },
  words: {
    census: command('Show the census', 'beside'),
    wordbook: command('Show the wordbook', 'beside'),
    style: command('Show the house style', 'beside'),
    narrator: command('Show the narrator check', 'beside'),
  },
  cast: {
    hearVoice: command('Hear the voice of this role', 'beside', 'h'),
    previousRole: command('Role before', 'beside', 'PageUp'),
    nextRole: command('Next role', 'beside', 'PageDown'),
    pickLanguage: command('Choose the language of the voices', 'beside', 'l'),
  },
  reading: {
    readParts: command('Read the chosen parts, or all that is missing', 'beside', '$mod+Enter'),
    stopReading: command('Stop the reading', 'beside'),
    retryFaults: command('Try again what could not be read', 'beside'),
  },
  delivery: {
    makeFiles: command('Make the files', 'beside', '$mod+Enter'),
    stopFiles: command('Stop making files', 'beside'),
    downloadFiles: command('Download the last delivery as ZIP', 'beside'),
    openReport: command('Open the report of the last delivery', 'beside'),
    downloadSheet: command('Download the run sheet as CSV', 'beside'),
  },
  rules: {
    ruleUp: command('Move the rule up', 'own', 'Alt+ArrowUp'),
    ruleDown: command('Move the rule down', 'own', 'Alt+ArrowDown'),
  },
  pronunciation: Object.fromEntries(numbers.map(number => [`proposal${number}`, command(`Hear proposal ${number}`, 'own', number, `Alt+${number}`)])) as Readonly<Record<`proposal${typeof numbers[number]}`, Command>>,
} as const satisfies Record<string, Readonly<Record<string, Command>>>

export type KeyView = keyof typeof keyTables
type CommandsOf<View extends KeyView> = keyof typeof keyTables[View] & string
export type CommandId = { [View in KeyView]: CommandsOf<View> }[KeyView]

/** What runs the commands of a view; one that gives false has done nothing. */
export type Handlers<View extends KeyView = KeyView> = Readonly<Partial<Record<CommandsOf<View>, (event?: KeyboardEvent) => unknown>>>

export const keyViews = Object.keys(keyTables) as KeyView[]

/** What the views are called. */
export const viewNames: Readonly<Record<KeyView, string>> = {
  everywhere: 'Everywhere', stages: 'Stages', edits: 'Undo', script: 'Script', directions: 'Menu of directions', spine: 'List of parts', census: 'Census', shelf: 'Shelf', words: 'Words', cast: 'Cast', reading: 'Reading', delivery: 'Delivery', rules: 'Rules of the house style', pronunciation: 'Form of a pronunciation',
}

/** Views that are there at once: one key does one thing in them. */
export const viewsTogether: readonly (readonly KeyView[])[] = [
  ['everywhere', 'stages', 'edits', 'script', 'spine', 'pronunciation'], ['everywhere', 'stages', 'edits', 'words', 'census', 'pronunciation'], ['everywhere', 'stages', 'edits', 'words', 'rules'],
  ['everywhere', 'shelf'], ['everywhere', 'stages', 'cast'], ['everywhere', 'stages', 'reading'], ['everywhere', 'stages', 'delivery'], ['directions'],
]

export const commandsIn = (view: KeyView): readonly (readonly [CommandId, Command])[] => Object.entries(keyTables[view]) as unknown as readonly (readonly [CommandId, Command])[]

export const allCommands: ReadonlyMap<CommandId, Command & { readonly view: KeyView }> = new Map(keyViews.flatMap(view => commandsIn(view).map(([id, each]) => [id, { ...each, view }] as const)))

/** The other commands that a key would do at the same time as one. */
export function doublesOf(id: CommandId, key: string, keysOf: (id: CommandId) => readonly string[]): CommandId[] {
  const { view } = allCommands.get(id)!
  const together = new Set(viewsTogether.filter(views => views.includes(view)).flat())
  return [...allCommands].filter(([other, each]) => other !== id && together.has(each.view) && keysOf(other).some(known => known.toLowerCase() === key.toLowerCase())).map(([other]) => other)
}

/** Whether a key is one that types a sign. */
export function isSingle(key: string): boolean {
  return [...key].length === 1
}
