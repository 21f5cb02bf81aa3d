import type { Direction } from '#core/script/directions'
import { valueText } from '#core/script/direction-text'
import { namesOf } from '#core/script/roles'
import { directionNames } from '~/utils/words'

let nameOf = namesOf([])

/** Says what roles are called where directions are drawn and said. */
export function nameRoles(roles: readonly { readonly id: string, readonly name: string }[]): void {
  nameOf = namesOf(roles)
}

export const roleName = (id: string): string => nameOf(id)

/** A direction as it is said: a role by its name. */
function named(direction: Direction): Direction {
  return direction.kind === 'role' ? { ...direction, role: nameOf(direction.role) } : direction
}

/** How a direction is drawn on the page. */
export interface Sign {
  readonly className: string
  /** What it says, in words. */
  readonly title: string
  /** Written small behind its text. */
  readonly tag?: string
  /** Spoken in place of its text. */
  readonly spoken?: string
  /** In the bracket of a point. */
  readonly label?: string
}

/** In words: *Rest 400 ms*, *Emphasis strong*. */
export function directionWords(direction: Direction): string {
  return `${directionNames[direction.kind]} ${valueText(named(direction))}`.trim()
}

export function signOf(direction: Direction): Sign {
  const title = directionWords(direction)
  const className = `direction direction-${direction.kind}`
  switch (direction.kind) {
    case 'emphasis': return { className: `${className} emphasis-${direction.level}`, title }
    case 'substitute': return { className, title, spoken: direction.alias }
    case 'phoneme': return { className, title, spoken: `/${direction.ph}/` }
    case 'language':
    case 'role': return { className, title, tag: valueText(named(direction)) }
    case 'voice': return { className, title, tag: direction.attributes['name'] ?? direction.attributes['gender'] ?? 'voice' }
    case 'prosody': return { className, title, tag: [direction.rate, direction.pitch, direction.volume].filter(each => each !== undefined).join(' ') }
    case 'kept': return { className, title, tag: `<${direction.element}>` }
    case 'rest': return { className, title, label: 'ms' in direction ? String(direction.ms) : direction.strength }
    case 'sound': return { className, title, label: direction.sound.replace(/^.*\//u, '') || 'sound' }
    case 'keptPoint': return { className, title: `Kept: ${direction.xml}`, label: /^<([\w:-]+)/u.exec(direction.xml)?.[1] ?? 'note' }
    default: return { className, title }
  }
}
