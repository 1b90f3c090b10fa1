import { typeTogether } from '../../table/column.ts'
import type { Field, Schema } from '../../table/table.ts'
import { freeName, selected, type Selector } from '../shared/columns.ts'
import type { JoinHow } from './words.ts'

/** A column here and one there whose values must be the same. */
export type KeyPair = { readonly left: string; readonly right: string }
/** The params of a join. */
export type Join = {
  readonly with: string
  readonly how: JoinHow
  readonly on?: readonly KeyPair[] | undefined
  readonly ignoreCase?: boolean | undefined
  readonly trim?: boolean | undefined
  readonly bring?: Selector | undefined
  readonly prefix?: string | undefined
  readonly matches?: 'all' | 'first' | 'one' | undefined
}

/** The pairs of key columns; none where every row meets every row. */
export const onOf = ({ how, on = [] }: Join): readonly KeyPair[] => (how === 'cross' ? [] : on)
/** Whether the result has the columns of the left table. */
export const keepsLeft = (how: JoinHow): boolean => how !== 'right-only'
const bringsRight = (how: JoinHow): boolean => how !== 'left-only'
/** Rows that only the other table has stand in the result. */
export const keepsRight = (how: JoinHow): boolean => how === 'right' || how === 'full' || how === 'right-only'

type JoinLayout = {
  readonly left: readonly Field[]
  readonly brought: readonly { readonly from: string; readonly field: Field }[]
  readonly schema: Schema
}

/** Left columns, then what is brought; keys of right and full joins hold the value of whichever side has one. */
export const layout = (params: Join, input: Schema, other: Schema): JoinLayout => {
  const { how } = params
  const on = onOf(params)
  const left = keepsLeft(how)
    ? input.map((field) => ({
        name: field.name,
        type: keepsRight(how)
          ? typeTogether([
              field.type,
              ...on
                .filter((one) => one.left === field.name)
                .map((one) => other.find(({ name: right }) => right === one.right)?.type ?? field.type),
            ])
          : field.type,
      }))
    : []
  const keys = new Set(on.map(({ right }) => right))
  const chooseWanted = () => {
    if (!bringsRight(how)) return []
    if (params.bring) return selected(params.bring, other)
    if (how === 'right-only') return [...other]
    return other.filter((field) => !keys.has(field.name))
  }
  const wanted = chooseWanted()
  const taken = left.map((field) => field.name)
  const brought = wanted.map((field) => {
    const free = freeName(`${params.prefix ?? ''}${field.name}`, taken)
    taken.push(free)
    return { from: field.name, field: { name: free, type: field.type } }
  })
  return { left, brought, schema: [...left, ...brought.map(({ field }) => field)] }
}
