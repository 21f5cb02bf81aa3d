import type { EngineCapabilities, Support } from '#core/score/cast'

// What engines have in common of what they say about themselves.

export const native: Support = { how: 'native' }
export const emulated = (note: string): Support => ({ how: 'emulated', note })
export const unavailable = (note: string): Support => ({ how: 'unavailable', note })

export const noContour = unavailable('This voice follows no contour of pitch. Use a pitch for each stretch instead.')
export const noDuration = unavailable('This voice cannot be given a length. Use a pace instead.')

/** Pace of narration, *common practice* 150…160; the level leaves room for encoding. */
export const narration: EngineCapabilities['defaults'] = { wordsPerMinute: 155, pitchSemitones: 0, gainDb: -3 }
