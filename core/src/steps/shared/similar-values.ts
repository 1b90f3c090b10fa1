import { ownValue } from '../../table/own.ts'
import { distance } from 'fastest-levenshtein'
import { lower, trim } from '../../table/text.ts'

/** Three ways to judge that two texts mean the same thing. */
export const similarityMeasures = ['sound', 'characters', 'spelling'] as const
/** One of the measures of similarity. */
export type SimilarityMeasure = (typeof similarityMeasures)[number]

/** Letters of other alphabets that look like Latin ones. Source: Unicode UTS 39, confusables. */
const alike: Readonly<Record<string, string>> = {
  а: 'a',
  е: 'e',
  о: 'o',
  р: 'p',
  с: 'c',
  х: 'x',
  у: 'y',
  і: 'i',
  к: 'k',
  в: 'b',
  н: 'h',
  м: 'm',
  т: 't',
  ο: 'o',
  α: 'a',
  ν: 'v',
  ρ: 'p',
  ι: 'i',
  κ: 'k',
  τ: 't',
  ı: 'i',
  ß: 'ss',
  æ: 'ae',
  ø: 'o',
  ł: 'l',
}
const plainLetters = (text: string): string =>
  Array.from(lower(trim(text)).normalize('NFKD').replace(/\p{M}/gu, ''), (sign) => ownValue(alike, sign) ?? sign).join(
    '',
  )

/** Digits that differ make two things of what else is alike: ward 1 and ward 2. */
const digits = (text: string): string => (text.match(/\d+/g) ?? []).join(' ')

/** Letters in alphabetical order, then runs of digits as they stand: case, marks, spaces, signs and the order of words do not count. */
const characterKey = (text: string): string => {
  const form = plainLetters(text)
  return `${Array.from(form.replace(/[^\p{L}]+/gu, ''))
    .sort()
    .join('')}${digits(form)}`
}

const soundOf: Readonly<Record<string, string>> = {
  b: '1',
  f: '1',
  p: '1',
  v: '1',
  c: '2',
  g: '2',
  j: '2',
  k: '2',
  q: '2',
  s: '2',
  x: '2',
  z: '2',
  d: '3',
  t: '3',
  l: '4',
  m: '5',
  n: '5',
  r: '6',
}
/** Ways of writing one sound, made one before the letters are coded. */
const spellings: readonly (readonly [RegExp, string])[] = [
  [/ph/g, 'f'],
  [/ck|q|c(?=[^eiyh]|$)/g, 'k'],
  [/ght?/g, 't'],
  [/^kn|^gn/g, 'n'],
  [/^wr/g, 'r'],
  [/c(?=[eiy])/g, 's'],
  [/[hw]/g, ''],
]

/** Letters coded by where in the mouth they are made, vowels left out, every word by itself; after R. C. Russell's index, US patent 1,261,167 (1918), without its cut at four. */
const soundKey = (text: string): string =>
  plainLetters(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
    .map((word) => {
      const spoken = spellings.reduce((now, [from, to]) => now.replace(from, to), word)
      const first = /^[aeiouy]/.test(spoken) ? 'a' : (ownValue(soundOf, spoken[0] ?? '') ?? spoken[0] ?? '')
      return (
        first +
        Array.from(spoken.slice(1), (sign) => (/[aeiouy]/.test(sign) ? '.' : (ownValue(soundOf, sign) ?? sign)))
          .join('')
          .replace(/(\d)\1+/g, '$1')
          .replaceAll('.', '')
      )
    })
    .join('-')

const keyOf: Readonly<Record<'sound' | 'characters', (text: string) => string>> = {
  sound: soundKey,
  characters: characterKey,
}

/** How many edits two texts of this length may be apart: one in four letters, at most three; none below four letters. */
const reach = (a: string, b: string): number => {
  const least = Math.min(a.length, b.length)
  return least < 4 ? 0 : Math.min(3, Math.max(1, Math.floor(least / 4)))
}
/** What edits are counted on (V. I. Levenshtein, Soviet Physics Doklady 10, 1966): case, marks and runs of space aside. */
const spellingForm = (text: string): string => plainLetters(text).replace(/\s+/g, ' ')

/** A value with how many rows hold it. */
export type ValueCount = { readonly text: string; readonly count: number }
/** Values that may be one, with the name they would have and why. */
export type SuggestedGroup = { readonly into: string; readonly members: readonly ValueCount[]; readonly reason: string }

const byCount = (a: ValueCount, b: ValueCount): number => b.count - a.count || (a.text < b.text ? -1 : 1)

const reasons: Readonly<Record<SimilarityMeasure, (members: readonly ValueCount[]) => string>> = {
  sound: () => 'They sound alike.',
  characters: (members) =>
    new Set(members.map(({ text }) => lower(trim(text)))).size === 1
      ? 'They differ only by case or spaces at the ends.'
      : 'They have the same letters, but for case, order, marks and signs between.',
  spelling: (members) => {
    const [first, ...others] = members.map(({ text }) => spellingForm(text))
    const most = Math.max(...others.map((other) => distance(first ?? '', other)))
    return most === 0
      ? 'They differ only by case, marks or spaces.'
      : `They are at most ${most === 1 ? 'one letter' : `${most} letters`} apart.`
  },
}

/** The commonest value gathers those in reach of it; each value is in one group at most. */
const bySpelling = (values: readonly ValueCount[]): ValueCount[][] => {
  const sorted = [...values]
    .sort(byCount)
    .map((value) => ({ value, form: spellingForm(value.text), digits: digits(value.text) }))
  const groups: { form: string; digits: string; members: ValueCount[] }[] = []
  const byLength = new Map<number, typeof groups>()
  for (const one of sorted) {
    let home: (typeof groups)[number] | undefined
    for (let length = one.form.length - 3; length <= one.form.length + 3 && !home; length++)
      home = byLength
        .get(length)
        ?.find((group) => group.digits === one.digits && distance(group.form, one.form) <= reach(group.form, one.form))
    if (home) {
      home.members.push(one.value)
      continue
    }
    const group = { form: one.form, digits: one.digits, members: [one.value] }
    groups.push(group)
    byLength.set(one.form.length, [...(byLength.get(one.form.length) ?? []), group])
  }
  return groups.map(({ members }) => members)
}

const byKey = (values: readonly ValueCount[], key: (text: string) => string): ValueCount[][] => {
  const groups = new Map<string, ValueCount[]>()
  for (const value of [...values].sort(byCount)) {
    const at = key(value.text)
    if (at === '') continue
    const group = groups.get(at)
    if (group) group.push(value)
    else groups.set(at, [value])
  }
  return [...groups.values()]
}

/** Groups of values that may be one, the commonest member first and as the name; groups of many rows first. */
export const suggestGroups = (values: readonly ValueCount[], measure: SimilarityMeasure): SuggestedGroup[] =>
  (measure === 'spelling' ? bySpelling(values) : byKey(values, keyOf[measure]))
    .filter((members) => members.length > 1)
    .map((members) => ({ into: tidiest(members), members, reason: reasons[measure](members) }))
    .sort((a, b) => rowsOf(b.members) - rowsOf(a.members))
const rowsOf = (members: readonly ValueCount[]): number => members.reduce((sum, { count }) => sum + count, 0)

/** The commonest that has no spaces at its ends or in runs; else the commonest. */
const tidiest = (members: readonly ValueCount[]): string =>
  trim((members.find(({ text }) => trim(text) === text && !/\s{2,}/.test(text)) ?? (members[0] as ValueCount)).text)

/** For each new value the group that a judge would put it into. */
export const matchToGroups = (
  fresh: readonly string[],
  groups: readonly { readonly into: string; readonly from: readonly string[] }[],
  measure: SimilarityMeasure,
): { value: string; into: string }[] => {
  if (measure === 'spelling') {
    const forms = groups.flatMap(({ into, from }) =>
      [into, ...from].map((text) => ({ into, form: spellingForm(text), digits: digits(text) })),
    )
    return fresh.flatMap((value) => {
      const form = spellingForm(value)
      const home = forms.find(
        (one) =>
          one.digits === digits(value) &&
          Math.abs(one.form.length - form.length) <= 3 &&
          distance(one.form, form) <= reach(one.form, form),
      )
      return home ? [{ value, into: home.into }] : []
    })
  }
  const key = keyOf[measure]
  const known = new Map(groups.flatMap(({ into, from }) => [into, ...from].map((text) => [key(text), into] as const)))
  return fresh.flatMap((value) => {
    const into = known.get(key(value))
    return into === undefined || key(value) === '' ? [] : [{ value, into }]
  })
}
