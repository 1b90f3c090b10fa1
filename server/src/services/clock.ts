/** The wall clock of this machine, in milliseconds, to the second. */
export const wallClock = (): number => {
  const now = new Date()
  return Math.floor((now.getTime() - now.getTimezoneOffset() * 60_000) / 1000) * 1000
}
