import type { FileLevels } from '#core/delivery/conformance'
import { primaryLanguage } from '#core/language/abbreviations'
import { secondsOf } from '#core/delivery/verdict'

/** A length in words: 14 s, 31 min, 2 h 05 min. */
export function spokenLength(ms: number): string {
  const seconds = Math.round(ms / 1000)
  if (seconds < 60) return `${seconds} s`
  const minutes = Math.round(seconds / 60)
  if (minutes < 60) return `${minutes} min`
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`
}

/** A short length: 1.2 s. */
export function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`
}

/** 1 file, 2 files; thousands with commas. */
export function count(value: number, one: string, many = `${one}s`): string {
  return `${value.toLocaleString('en')} ${value === 1 ? one : many}`
}

/** Megabytes for files; kilobytes below one, gigabytes from a thousand on. */
export function size(bytes: number): string {
  if (bytes >= 1_000_000_000) return `${(bytes / 1_000_000_000).toFixed(1)} GB`
  return bytes < 1_000_000 ? `${Math.round(bytes / 1000)} KB` : `${(bytes / 1_000_000).toFixed(1)} MB`
}

/** English name of a language tag, with the tag where it has none. */
export function languageName(tag: string): string {
  try {
    return new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag
  } catch {
    return tag
  }
}

/** What a voice speaks, with its country: “British English”. */
export function speechName(tag: string): string {
  const [language, region] = [primaryLanguage(tag), /-[a-z]{2}(?=-|$)/iu.exec(tag)?.[0].toUpperCase() ?? '']
  return languageName(`${language}${region}`)
}

/** An amount in millionths of a currency (ISO 4217), as exact as it is. */
export function money(micros: number, currency: string): string {
  return (micros / 1_000_000).toLocaleString('en-GB', { style: 'currency', currency, minimumFractionDigits: 2, maximumFractionDigits: 6 })
}

/** Day and time, short. */
export function dayAndTime(iso: string): string {
  return new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })
}

/** Head and tail of a file, in s; nothing where they are not known, or nothing is heard. */
export function margins(levels: Pick<FileLevels, 'headMs' | 'tailMs'> | null): string {
  return levels === null || levels.headMs === null || levels.tailMs === null ? '' : `${secondsOf(levels.headMs)} / ${secondsOf(levels.tailMs)}`
}
