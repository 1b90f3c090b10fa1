import { capital, freeName, type Recipe } from '@fabula/core'

/** Digits, dots and dashes at the end of a name: what changes from month to month. */
const changing = /[-_ .]*\d[\d\-_ .]*$/
const withoutEnding = (file: string): string => file.replace(/(?!^)\.[^.]*$/, '')

/** visits-2031-05.csv -> visits-*.csv; 2031-05.csv -> ????-??.csv, which takes no file with words */
export const patternOf = (file: string): string => {
  const stem = withoutEnding(file)
  if (stem.replace(changing, '') === '') return `${stem.replace(/\d/g, '?')}${file.slice(stem.length)}`
  return `${stem.replace(changing, (run) => `${/^[-_ ]/.test(run) ? run[0] : ''}*`)}${file.slice(stem.length)}`
}

/** An id that is not taken, from what a file or table is called: small letters, digits and hyphens. */
export const idOf = (name: string, taken: readonly string[]): string => {
  const plain = withoutEnding(name).replace(changing, '').normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase()
  const stem = plain.replace(/[^a-z0-9]+/g, '-').replace(/^[^a-z]+|-+$/g, '') || 'table'
  let id = stem
  for (let n = 2; taken.includes(id); n++) id = `${stem}-${n}`
  return id
}
export const titleOf = (id: string): string => capital(id.replaceAll('-', ' '))

/** What a table from this file is called: the file's own words, in whatever letters. */
export const titleOfFile = (file: string): string =>
  capital(
    withoutEnding(file)
      .replace(changing, '')
      .replace(/[-_.\s]+/g, ' ')
      .trim(),
  ) || 'Table'

/** A name no table has yet: a number after it where needed. */
export const freeTableName = ({ tables }: Recipe, wanted: string): string =>
  freeName(
    wanted,
    tables.map(({ name }) => name),
  )
