/** A moment of the server's clock in the reader's own time: 5 Jun, 14:02, or the day alone. */
export const moment = (iso: string, part: 'day' | 'all' = 'all'): string =>
  new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    ...(part === 'day' ? { year: 'numeric' } : { hour: '2-digit', minute: '2-digit' }),
  })
/** The day of a moment here, as a date field holds it. */
export const dayOf = (iso: string): string => {
  const date = new Date(iso)
  return `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`
}
