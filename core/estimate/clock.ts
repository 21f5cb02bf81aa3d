/** Minutes and seconds, hours where there are any: 6:12, 1:03:20. */
export function clock(ms: number): string {
  const seconds = Math.round(ms / 1000)
  const pad = (value: number): string => String(value).padStart(2, '0')
  const hours = Math.floor(seconds / 3600)
  const minutes = Math.floor(seconds / 60) % 60
  return hours > 0 ? `${hours}:${pad(minutes)}:${pad(seconds % 60)}` : `${minutes}:${pad(seconds % 60)}`
}
