import { compilePattern, replaceMatches } from '../../codegen/regex/engine.ts'
import { typeTogether } from '../../table/column.ts'
import { ownValue } from '../../table/own.ts'
import type { Field, Schema } from '../../table/table.ts'
import { freeName, positionFor, selected, type ColumnPlacement, type Selector } from '../shared/columns.ts'

/** Columns that become one. */
export type ColumnGroup = { readonly columns: Selector; readonly value: string }
/** How names of columns become labels. */
export type LabelRules = {
  readonly remove?: string | { readonly pattern: string } | undefined
  readonly renames?: Readonly<Record<string, string>> | undefined
}
/** The params of an unpivot. */
export type Unpivot = ColumnPlacement & {
  readonly name: string
  readonly groups: readonly ColumnGroup[]
  readonly labels?: LabelRules | undefined
  readonly empty?: 'keep' | 'drop' | undefined
}

/** A column's name as the label that stands in the rows: cleaned first, then called otherwise. */
export const labelOf = (labels: LabelRules | undefined): ((column: string) => string) => {
  const { remove, renames = {} } = labels ?? {}
  const pattern = typeof remove === 'object' ? compilePattern(remove.pattern, false) : undefined
  return (column) => {
    const chooseCleaned = () => {
      if (pattern) return replaceMatches(column, pattern, '')
      if (typeof remove === 'string' && remove !== '') return column.replaceAll(remove, () => '')
      return column
    }
    const cleaned = chooseCleaned()
    return ownValue(renames, cleaned) ?? cleaned
  }
}

/** What an unpivot lays where. */
export type UnpivotLayout = {
  /** For each label, in column order, the column of each group that has it. */
  readonly turns: readonly { readonly label: string; readonly columns: readonly (string | undefined)[] }[]
  readonly kept: readonly Field[]
  readonly gathered: number
  readonly label: string
  readonly values: readonly Field[]
  readonly at: number
  readonly schema: Schema
  readonly twice: readonly string[]
}

/** One group: a turn for each of its columns. Several: columns of one label are one turn, a label that a group lacks gives empty. */
export const layout = (params: Unpivot, input: Schema): UnpivotLayout => {
  const label = labelOf(params.labels)
  const fields = params.groups.map(({ columns }) => [...new Set(selected(columns, input))])
  const all = new Set(fields.flat())
  const kept = input.filter((field) => !all.has(field))
  const twice: string[] = []
  const turns: { label: string; columns: (string | undefined)[] }[] = []
  if (fields.length === 1)
    for (const field of fields[0] ?? []) turns.push({ label: label(field.name), columns: [field.name] })
  else {
    const byLabel = new Map<string, { label: string; columns: (string | undefined)[] }>()
    for (const field of input.filter((one) => all.has(one)))
      fields.forEach((group, g) => {
        if (!group.includes(field)) return
        const key = label(field.name)
        const turn = byLabel.get(key) ?? { label: key, columns: fields.map(() => undefined) }
        if (!byLabel.has(key)) {
          byLabel.set(key, turn)
          turns.push(turn)
        }
        if (turn.columns[g] !== undefined) twice.push(key)
        turn.columns[g] = field.name
      })
  }
  const taken = kept.map((field) => field.name)
  const at = positionFor(params, taken)
  const labelName = freeName(params.name, taken)
  taken.push(labelName)
  const values = params.groups.map(({ value }, g): Field => {
    const free = freeName(value, taken)
    taken.push(free)
    return { name: free, type: typeTogether((fields[g] ?? []).map((field) => field.type)) }
  })
  return {
    turns,
    kept,
    gathered: all.size,
    label: labelName,
    values,
    at,
    schema: [...kept.slice(0, at), { name: labelName, type: 'text' }, ...values, ...kept.slice(at)],
    twice,
  }
}
