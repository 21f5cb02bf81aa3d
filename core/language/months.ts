import { madeOnce } from '../made-once'

/** The names of the months beside a day, long and short, without full stops, as a language (BCP 47) has them. */
export const monthNames = madeOnce((language): readonly (readonly string[])[] => {
  const formats = (['long', 'short'] as const).map(month => new Intl.DateTimeFormat(language, { timeZone: 'UTC', month, day: 'numeric' }))
  return Array.from({ length: 12 }, (_, month) => formats.map(format =>
    format.formatToParts(Date.UTC(2000, month, 1)).find(part => part.type === 'month')!.value.replace(/\.$/u, '')))
})
