import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { matchKeyBindingPress, parseKeybinding } from 'tinykeys'
import { computed, shallowReactive } from 'vue'
import { capsOf } from '~/keys/caps'
import { allCommands, commandsIn, doublesOf, isSingle, keyViews, type CommandId, type Handlers, type KeyPlace, type KeyView } from '~/keys/tables'

/** A command that can be done now. */
export interface ReadyCommand {
  readonly id: CommandId
  readonly title: string
  readonly keys: readonly string[]
  readonly run: () => unknown
}

type AnyHandlers = Readonly<Partial<Record<CommandId, (event?: KeyboardEvent) => unknown>>>

/** What belongs to no view comes last. */
const isGeneral = (view: KeyView): boolean => view === 'everywhere' || view === 'stages'

const signAlone = /^[^\p{L}\p{N}\s]$/u

/** The keys as they are in this browser, and what they do in what is shown just now. */
export const useKeys = defineStore('keys', () => {
  /** Those that somebody has changed. */
  const changed = useLocalStorage<Partial<Record<CommandId, readonly string[]>>>('keys', {})
  /** Whether signs that are typed alone do something. */
  const singles = useLocalStorage('single-keys', true)
  const shown = shallowReactive(new Map<KeyView, Handlers>())

  const keysOf = (id: CommandId): readonly string[] => changed.value[id] ?? allCommands.get(id)!.keys

  /** Makes the commands of a view do something, until the function that it gives is called. */
  function open<View extends KeyView>(view: View, handlers: Handlers<View>): () => void {
    shown.set(view, handlers as Handlers)
    return () => { if (shown.get(view) === handlers) shown.delete(view) }
  }

  /** Whether a press is one of a key. A sign is what it is on any keyboard, with Shift or without. */
  const isPressed = (key: string, event: KeyboardEvent): boolean => signAlone.test(key)
    ? event.key === key && !event.ctrlKey && !event.altKey && !event.metaKey
    : parseKeybinding(key).length === 1 && matchKeyBindingPress(event, parseKeybinding(key)[0]!)
  /** Whether a press is one of a command. */
  const matches = (id: CommandId, event: KeyboardEvent): boolean => keysOf(id).some(key => (singles.value || !isSingle(key) || allCommands.get(id)!.view === 'directions') && isPressed(key, event))
  /** The command of a view that a press is of. */
  const match = (view: KeyView, event: KeyboardEvent): CommandId | null => commandsIn(view).find(([id]) => matches(id, event))?.[0] ?? null

  /** Does what a press asks for, before anybody else hears of it. */
  function press(event: KeyboardEvent): void {
    if (event.isComposing || !(event.target instanceof Element)) return
    const place = placeOf(event.target)
    for (const [view, handlers] of shown) {
      const id = match(view, event)
      const { where } = id === null ? { where: null } : allCommands.get(id)!
      const run = id === null ? undefined : (handlers as AnyHandlers)[id]
      if (where === null || run === undefined || !acts(where, place, event, event.target)) continue
      // The browser reports a moved caret later than the key that moved it.
      if (place === 'text') document.dispatchEvent(new Event('selectionchange'))
      if (run(event) === false) continue
      event.preventDefault()
      event.stopPropagation()
      return
    }
  }

  /** All that can be done now, as a list to choose from. */
  const ready = computed((): ReadyCommand[] => [...shown].sort(([a], [b]) => Number(isGeneral(a)) - Number(isGeneral(b)) || keyViews.indexOf(a) - keyViews.indexOf(b)).flatMap(([view, handlers]) => commandsIn(view).flatMap(([id, { title }]) => {
    const run = (handlers as AnyHandlers)[id]
    return run === undefined ? [] : [{ id, title: view === 'directions' ? `Direction: ${title}` : title, keys: keysOf(id), run }]
  })))

  /** Gives a command other keys, or its own again (null). Gives the commands that have one of them, which keeps it from being done. */
  function change(id: CommandId, keys: readonly string[] | null): CommandId[] {
    const doubles = (keys ?? allCommands.get(id)!.keys).flatMap(key => doublesOf(id, key, keysOf))
    if (doubles.length > 0) return doubles
    const { [id]: _, ...others } = changed.value
    changed.value = keys === null ? others : { ...others, [id]: keys }
    return []
  }

  /** A name with the first key of a command behind it, for a tooltip. */
  const withKey = (name: string, id: CommandId): string => [name, ...keysOf(id).slice(0, 1).map(key => `(${capsOf(key).join(' ')})`)].join(' ')

  /** Does a command that can be done now. */
  function run(id: CommandId): void {
    ready.value.find(command => command.id === id)?.run()
  }

  return { changed, singles, run, withKey, keysOf, open, match, matches, press, ready, change, reset: () => { changed.value = {} } }
})

type Target = 'text' | 'field' | 'menu' | 'control' | 'beside'

function placeOf(target: Element): Target {
  if (target.closest('.ProseMirror') !== null) return 'text'
  if (target.closest('dialog, [role="menu"], [role="listbox"], [role="combobox"], [role="dialog"], [role="alertdialog"]') !== null) return 'menu'
  if (target.closest('input:not([type="checkbox"]), textarea, select, [contenteditable="true"]') !== null) return 'field'
  return target.closest('button, a, summary, input') !== null ? 'control' : 'beside'
}

/** Whether a command of a place acts upon a press somewhere: a button does by Space and Enter what it does itself, but for those of a list that says otherwise. */
function acts(where: KeyPlace, target: Target, event: KeyboardEvent, element: Element): boolean {
  const isButtons = /^(?:Space|Enter|NumpadEnter)$/u.test(event.code) && !event.ctrlKey && !event.metaKey && element.closest('[data-keys="list"]') === null
  switch (where) {
    case 'everywhere': return true
    case 'text': return target === 'text'
    case 'both': return target === 'text' || target === 'beside' || target === 'control' && !isButtons
    case 'beside': return target === 'beside' || target === 'control' && !isButtons
    case 'own': return false
  }
}
