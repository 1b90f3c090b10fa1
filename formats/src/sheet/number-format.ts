/** What a number format shows: parts of a date, of a time of day, both, or neither. Elapsed time, such as [h]:mm, is a plain number. */
export type ShownAs = 'number' | 'date' | 'time' | 'datetime'

/** The date formats that have a number only. ECMA-376 part 1, 18.8.30 numFmt. */
const builtIn: Readonly<Record<number, ShownAs>> = {
  14: 'date',
  15: 'date',
  16: 'date',
  17: 'date',
  18: 'time',
  19: 'time',
  20: 'time',
  21: 'time',
  22: 'datetime',
  45: 'time',
  47: 'time',
}

/** Told by the letters of the code's first section; the Python script does the same. */
export const shownBy = (code: string): ShownAs => {
  const [first = ''] = code.replace(/"[^"]*"|\\.|_.|\*./g, '').split(';')
  if (/\[[hms]+\]/i.test(first)) return 'number'
  const letters = first.replace(/\[[^\]]*\]/g, '').toLowerCase()
  const clock = /[hs]/.test(letters)
  const day = /[yd]/.test(letters) || (!clock && letters.includes('m'))
  if (day) {
    if (clock) return 'datetime'
    return 'date'
  }
  if (clock) return 'time'
  return 'number'
}

/** What a built-in number format shows. */
export const shownById = (id: number, codes: ReadonlyMap<number, string>): ShownAs => {
  const code = codes.get(id)
  return code === undefined ? (builtIn[id] ?? 'number') : shownBy(code)
}
