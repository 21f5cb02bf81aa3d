const isMac = typeof navigator !== 'undefined' && /Mac|iPhone|iPad/u.test(navigator.platform)

const names: Readonly<Record<string, string>> = {
  $mod: isMac ? '⌘' : 'Ctrl', Control: 'Ctrl', Meta: isMac ? '⌘' : 'Meta', Alt: isMac ? '⌥' : 'Alt', Escape: 'Esc', ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓', PageUp: 'Page up', PageDown: 'Page down',
}

/** What is written on the caps of a key and those that are held with it. */
export function capsOf(key: string): string[] {
  return key.split(/\+(?!$)/u).map(part => names[part] ?? (part.length === 1 ? part.toUpperCase() : part))
}

/** A key as the tables have it, of a press; null while only Shift and the like are held. */
export function keyOf(event: KeyboardEvent): string | null {
  if (['Control', 'Shift', 'Alt', 'Meta', 'AltGraph', 'CapsLock', 'Dead', 'Process', 'Unidentified'].includes(event.key)) return null
  // Whether Shift is held for a sign is a matter of the keyboard.
  const isSign = /^[^\p{L}\p{N}\s]$/u.test(event.key)
  const key = event.code === 'Space' ? 'Space' : event.key.length === 1 ? event.key.toLowerCase() : event.key
  return [
    ...event.ctrlKey && !isMac || event.metaKey && isMac ? ['$mod'] : [], ...event.ctrlKey && isMac ? ['Control'] : [], ...event.altKey ? ['Alt'] : [], ...event.shiftKey && !isSign ? ['Shift'] : [], key,
  ].join('+')
}
