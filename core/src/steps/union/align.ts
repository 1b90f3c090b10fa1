import { typeTogether } from '../../table/column.ts'
import type { Field, Schema } from '../../table/table.ts'
import { freeName, settle } from '../shared/columns.ts'

type UnionSource = { readonly table: string; readonly column: string }
/** The params of a union. */
export type UnionParams = {
  readonly with: readonly string[]
  readonly columns?: 'all' | 'shared' | undefined
  readonly pairs?: readonly { readonly into: string; readonly from: readonly UnionSource[] }[] | undefined
  readonly apart?: readonly { readonly column: string; readonly table: string; readonly as: string }[] | undefined
  readonly origin?: string | undefined
}

/** One of the tables that are laid under one another: its columns under the names they get. */
export type UnionPart = { readonly table: string; readonly schema: Schema; readonly names: readonly string[] }

const partOf = (params: UnionParams, table: string, schema: Schema): UnionPart => {
  const before = schema.map((field) => field.name)
  const wanted = before.map(
    (column) =>
      params.pairs?.find(({ from }) => from.some((one) => one.table === table && one.column === column))?.into ??
      params.apart?.find((one) => one.table === table && one.column === column)?.as ??
      column,
  )
  return { table, schema, names: settle(wanted, before) }
}

/** The columns of a union, and each of its tables under the names they get. */
export type UnionLayout = {
  readonly parts: readonly UnionPart[]
  readonly fields: readonly Field[]
  readonly origin: string | undefined
}

/** By name, in order of first appearance; types that differ widen, all else that differs is text. `own` is this table's id. */
export const alignUnion = (
  params: UnionParams,
  own: string,
  input: Schema,
  tables: (table: string) => Schema,
): UnionLayout => {
  const parts = [partOf(params, own, input), ...params.with.map((table) => partOf(params, table, tables(table)))]
  const names = [...new Set(parts.flatMap((part) => part.names))].filter(
    (one) => params.columns !== 'shared' || parts.every((part) => part.names.includes(one)),
  )
  const fields = names.map((one): Field => ({
    name: one,
    type: typeTogether(
      parts.flatMap((part) => part.schema.flatMap((field, i) => (part.names[i] === one ? [field.type] : []))),
    ),
  }))
  return { parts, fields, origin: params.origin === undefined ? undefined : freeName(params.origin, names) }
}
