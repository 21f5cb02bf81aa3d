import { emphasisLevels, maximumDirectedRestMs, restStrengths, type Direction, type DirectionKind } from './directions'
import { isLanguage, pitchOf, rangeFactor, rateFactor, timeMs, volumeDb } from './ssml/values'

// What a direction says, as a short text in which it can be found and changed.

/** The words for kinds of directions, on screen and where they are looked for. */
export const directionNames: Readonly<Record<DirectionKind, string>> = {
  rest: 'Rest', emphasis: 'Emphasis', sayAs: 'Say as', substitute: 'Substitute', phoneme: 'Pronunciation', prosody: 'Pace & pitch', language: 'Language',
  role: 'Role', sound: 'Sound', leftOut: 'Left out', voice: 'Voice', kept: 'Kept', keptPoint: 'Kept',
}

const prosodyNames = ['rate', 'pitch', 'range', 'volume', 'contour', 'duration'] as const

/** The value of a direction, without its kind: `400 ms`, `strong`, `rate 80% pitch +2st`. */
export function valueText(direction: Direction): string {
  switch (direction.kind) {
    case 'leftOut': return ''
    case 'emphasis': return direction.level
    case 'sayAs': return [direction.interpretAs, direction.format].filter(part => part !== undefined && part !== '').join(' ')
    case 'substitute': return direction.alias
    case 'phoneme': return direction.ph
    case 'prosody': return prosodyNames.flatMap(name => direction[name] === undefined ? [] : [`${name} ${direction[name]}`]).join(' ')
    case 'language': return direction.language
    case 'role': return direction.role
    case 'voice': return Object.entries(direction.attributes).map(([name, value]) => `${name} ${value}`).join(' ')
    case 'kept': return direction.element
    case 'rest': return 'ms' in direction ? `${direction.ms} ms` : direction.strength
    case 'sound': return direction.sound
    case 'keptPoint': return direction.xml
  }
}

/** The same direction with another value; null when the text is no value of its kind, or its kind has none that can be written. */
export function withValueText(direction: Direction, text: string): Direction | null {
  const value = text.trim()
  switch (direction.kind) {
    case 'emphasis': {
      const level = emphasisLevels.find(each => each === value)
      return level === undefined ? null : { ...direction, level }
    }
    case 'sayAs': {
      const [interpretAs, format] = value.split(/\s+/u)
      const { format: _, ...rest } = direction
      return interpretAs === undefined || interpretAs === '' ? null : { ...rest, interpretAs, ...(format === undefined ? {} : { format }) }
    }
    case 'substitute': return value === '' ? null : { ...direction, alias: value }
    case 'phoneme': return value === '' ? null : { ...direction, ph: value }
    case 'language': return isLanguage(value) ? { ...direction, language: value } : null
    case 'role': return value === '' || value.length > 100 ? null : { ...direction, role: value }
    case 'rest': {
      const strength = restStrengths.find(each => each === value)
      if (strength !== undefined) return { id: direction.id, kind: 'rest', strength }
      const ms = timeMs(value.replace(/\s+/gu, '')) ?? (/^\d+$/u.test(value) ? Number(value) : null)
      return ms === null || ms > maximumDirectedRestMs ? null : { id: direction.id, kind: 'rest', ms: Math.round(ms) }
    }
    case 'prosody': {
      const found: Partial<Record<(typeof prosodyNames)[number], string>> = {}
      let name: (typeof prosodyNames)[number] | undefined
      for (const word of value.trim().split(/\s+/u)) {
        const next = prosodyNames.find(each => each === word)
        if (next !== undefined) name = next
        else if (name !== undefined) found[name] = found[name] === undefined ? word : `${found[name]} ${word}`
      }
      return isProsody(found) ? { id: direction.id, kind: 'prosody', ...found } : null
    }
    case 'sound': return value === '' ? null : { ...direction, sound: value }
    default: return null
  }
}

function isProsody({ rate, pitch, range, volume, contour, duration }: Partial<Record<(typeof prosodyNames)[number], string>>): boolean {
  const given = [rate, pitch, range, volume, contour, duration].filter(each => each !== undefined)
  return given.length > 0 && (rate === undefined || rateFactor(rate) !== null) && (pitch === undefined || pitchOf(pitch) !== null)
    && (range === undefined || rangeFactor(range) !== null || pitchOf(range) !== null) && (volume === undefined || volumeDb(volume) !== null)
    && (duration === undefined || timeMs(duration) !== null)
}
