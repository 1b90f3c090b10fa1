import { formatDecimal } from './number.ts'
import { compareText } from './text-ranks.ts'

/** An item of a list as JSON has it; moments are texts of ISO form. */
export type ListItem = string | number | boolean | null

const known = new Map<string, readonly ListItem[]>()
/** Whole numbers are written with all their digits, in lists as in columns. */
const numberText = (item: number): string => (Number.isSafeInteger(item) ? String(item + 0) : formatDecimal(item))

/** [0,null,2] -> 0, empty, 2. Lists read last are remembered, as equal ones often stand together. */
export const itemsOf = (text: string): readonly ListItem[] => {
  let items = known.get(text)
  if (!items) {
    if (known.size > 5000) known.clear()
    known.set(text, (items = JSON.parse(text) as ListItem[]))
  }
  return items
}

/** 0, empty, 2 -> [0,null,2]: compact JSON, numbers as they are written elsewhere. */
export const listText = (items: readonly ListItem[]): string =>
  `[${items.map((item) => (typeof item === 'number' ? numberText(item) : JSON.stringify(item))).join(',')}]`

/** An item as text, the way it would stand in a cell of its own. */
export const itemText = (item: Exclude<ListItem, null>): string =>
  typeof item === 'number' ? numberText(item) : String(item)

const textOrder = compareText(false)
const rank = (item: ListItem): number => {
  if (item === null) return 3
  if (typeof item === 'number') return 0
  if (typeof item === 'boolean') return 1
  return 2
}
/** Numbers, then false and true, then text; empty last. A list of one type goes by the order of that type. */
export const compareItems = (a: ListItem, b: ListItem): number =>
  rank(a) - rank(b) || (typeof a === 'string' ? textOrder(a, b as string) : Number(a) - Number(b))
