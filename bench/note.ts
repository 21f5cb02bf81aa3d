/** Notes a figure, with the most that is allowed where there is a bound. */
export type Note = (what: string, value: number, unit: string, bound?: number) => void
