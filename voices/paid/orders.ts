import { fail } from '#core/problem'
import type { EngineRequest } from '#core/score/request'
import { textOf, type PaidPiece, type PaidSegment } from './pieces'

// Few orders for many utterances, each within what a service takes at once.

/** What is said within one sentence of an order: a piece of an utterance, or a part of one that is too long. */
export interface OrderPart {
  /** Of the take. */
  readonly key: string
  /** Which of its pieces it belongs to, and where its text begins among the places of the utterance. */
  readonly piece: number
  readonly begins: number
  readonly segments: readonly PaidSegment[]
}

/** One request to a service: JSON, kept as it is until it is settled. */
export interface Order extends Pick<EngineRequest, 'voice' | 'voiceRevision' | 'wordsPerMinute' | 'pitchSemitones'> {
  readonly parts: readonly OrderPart[]
}

/** What a service takes at once. */
export interface OrderLimit {
  readonly characters: number
  /** Characters of an order of these parts, as its service counts them. */
  readonly count: (parts: readonly Pick<OrderPart, 'segments'>[]) => number
  /** Whether parts can be told apart in what it answers. Otherwise each is asked for by itself. */
  readonly isDivisible: boolean
}

/** Segments of the text from one place up to another. One that stands for a pronunciation is not cut. */
export function sliced(segments: readonly PaidSegment[], from: number, to: number): PaidSegment[] {
  let at = 0
  return segments.flatMap(segment => {
    const start = at
    at += segment.text.length
    if (segment.ph !== undefined) return start >= from && start < to ? [segment] : []
    const text = segment.text.slice(Math.max(0, from - start), Math.max(0, to - start))
    return text === '' ? [] : [{ ...segment, text }]
  })
}

const clauseEnd = /[,;:.!?…—–、，；：]["”’»)]*\s/gu
/** A cut at a clause is taken from this share of what fits on. */
const leastOfClause = 0.4

/** Last place of a text up to which it can be cut off: behind a clause, else behind a word, else between two characters as readers see them. */
function cutIn(text: string, longest: number): number {
  const behindClause = [...text.matchAll(clauseEnd)].map(({ 0: { length }, index }) => index + length).findLast(place => place <= longest)
  if (behindClause !== undefined && behindClause >= longest * leastOfClause) return behindClause
  const behindWord = text.lastIndexOf(' ', longest - 1) + 1
  if (behindWord > 0) return behindWord
  return [...new Intl.Segmenter().segment(text.slice(0, longest + 1))].map(({ index }) => index).findLast(index => index > 0 && index <= longest) ?? longest
}

/** Parts of a piece, each within the limit. Throws a problem where one pronunciation alone is beyond it. */
export function partsOf(key: string, piece: PaidPiece, number: number, begins: number, limit: OrderLimit): OrderPart[] {
  const parts: OrderPart[] = []
  const text = textOf(piece)
  const fits = (from: number, to: number): boolean => limit.count([{ segments: sliced(piece.segments, from, to) }]) <= limit.characters
  let from = 0
  while (from < text.length) {
    let to = text.length
    if (!fits(from, to)) {
      let [most, tooMany] = [0, to - from]
      while (tooMany - most > 1) {
        const middle = Math.floor((most + tooMany) / 2)
        if (fits(from, from + middle)) most = middle
        else tooMany = middle
      }
      to = from + cutIn(text.slice(from), most)
      // Not within a pronunciation.
      let start = 0
      for (const { text: { length }, ph } of piece.segments) {
        if (ph !== undefined && start < to && start + length > to) to = start > from && fits(from, start) ? start : start + length
        start += length
      }
      if (to <= from || !fits(from, to)) fail('request-too-long', `The speech service takes ${limit.characters} characters at once, and “${text.slice(from, from + 40)}” alone has more. Shorten its pronunciation, or choose another voice.`)
    }
    parts.push({ key, piece: number, begins: begins + from, segments: sliced(piece.segments, from, to) })
    from = to
  }
  return parts
}

export interface Utterance {
  readonly key: string
  readonly request: EngineRequest
  readonly parts: readonly OrderPart[]
}

type OrderHead = Omit<Order, 'parts'>
const headOf = ({ voice, voiceRevision, wordsPerMinute, pitchSemitones }: OrderHead): OrderHead => ({ voice, voiceRevision, wordsPerMinute, pitchSemitones })

/** Orders for some utterances, which keep their order: all of each in one, unless it is too long for one. */
export function ordersFor(utterances: readonly Utterance[], limit: OrderLimit): Order[] {
  const orders: { readonly mark: string, readonly head: OrderHead, readonly parts: OrderPart[], isOpen: boolean }[] = []
  for (const { request, parts } of utterances) {
    const head = headOf(request)
    const mark = JSON.stringify(head)
    const add = (own: readonly OrderPart[], isOpen: boolean): void => { orders.push({ mark, head, parts: [...own], isOpen }) }
    const last = orders.findLast(order => order.isOpen && order.mark === mark)
    if (!limit.isDivisible) {
      for (const part of parts) add([part], false)
    } else if (last !== undefined && limit.count([...last.parts, ...parts]) <= limit.characters) {
      last.parts.push(...parts)
    } else {
      // What comes later is not asked for before it.
      if (last !== undefined) last.isOpen = false
      const own: OrderPart[] = []
      for (const part of parts) {
        if (own.length > 0 && limit.count([...own, part]) > limit.characters) add(own.splice(0), false)
        own.push(part)
      }
      add(own, limit.count(parts) <= limit.characters)
    }
  }
  return orders.map(({ head, parts }) => ({ ...head, parts }))
}
