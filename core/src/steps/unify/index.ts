import { z } from 'zod'
import { joined, py, sql, pyHelper } from '../../codegen/tag.ts'
import { matchToGroups, similarityMeasures, type SimilarityMeasure } from '../shared/similar-values.ts'
import { asDictionary, cellAt, lengthOf } from '../../table/column.ts'
import { mapText } from '../../table/gather.ts'
import { counted, listed, quoted } from '../../messages/words.ts'
import { typeIn, checkColumn, selectColumns } from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type ValueGroup = { readonly into: string; readonly from: readonly string[] }
type Unify = {
  readonly column: string
  readonly groups: readonly ValueGroup[]
  readonly judged?: SimilarityMeasure | 'hand' | undefined
}

const groupWords = ({ into, from }: ValueGroup): string => {
  const others = from.filter((value) => value !== into)
  const spellings = () => {
    if (others.length > 2) return counted(others.length, 'spelling')
    if (others.length === 0) return 'itself'
    return listed(others.map(quoted))
  }
  return `${quoted(into)} for ${spellings()}`
}

/** Value to its group's name; where two groups claim one the first has it. */
const mapOf = (groups: readonly ValueGroup[]): Map<string, string> => {
  const map = new Map<string, string>()
  for (const { into, from } of groups) for (const value of from) if (!map.has(value)) map.set(value, into)
  return map
}

/** Gives spellings of one thing one value. */
export const unify = defineStep<Unify>({
  workbench: 'values',
  kind: 'unify',
  verb: 'Give one spelling…',
  words: [
    'unify',
    'spelling',
    'cluster',
    'group values',
    'standardise',
    'fuzzy',
    'variants',
    'typos',
    'same thing',
    'harmonise',
    'merge values',
  ],
  params: z.strictObject({
    column: name,
    groups: z.array(z.strictObject({ into: z.string().min(1), from: z.array(z.string().min(1)).min(1) })),
    judged: z.enum([...similarityMeasures, 'hand']).optional(),
  }),
  drafts: {
    columns: ({ columns: [column = '', ...more], schema }) =>
      more.length === 0 && typeIn(schema, column) === 'text'
        ? [{ rank: 120, params: { column, groups: [], judged: 'characters' } }]
        : [],
    values: ({ column, values, schema }) =>
      typeIn(schema, column) === 'text'
        ? [
            {
              rank: 10,
              verb: 'Call all of these…',
              params: { column, groups: [{ into: values[0] ?? '', from: values }], judged: 'hand' },
            },
          ]
        : [],
  },
  sentence: ({ column, groups }) => {
    const chooseShown = () => {
      if (groups.length > 2) return `${groups.slice(0, 2).map(groupWords).join(', ')} and ${groups.length - 2} more`
      if (groups.length === 0) return 'nothing yet'
      return listed(groups.map(groupWords))
    }
    const shown = chooseShown()
    return ['In ', slot(column, 'oneColumn', ['column']), ' write ', slot(shown, 'groups', []), '.']
  },
  output: ({ column }, input, context) => {
    const field = checkColumn(column, input, context, 'column')
    if (field && field.type !== 'text')
      context.report({ code: 'wrong-type', column: field.name, type: field.type, needs: 'text' }, 'column')
    return input
  },
  decides: ({ column, groups }) => [
    {
      column,
      unnamed: 'own-spelling',
      named: groups.flatMap(({ into, from }) => [into, ...from]),
      groups,
      naming: (values, into) => ({
        groups: groups.map((group) => (group.into === into ? { ...group, from: [...group.from, ...values] } : group)),
      }),
    },
  ],
  run: ({ column, groups, judged }, table) => {
    const at = table.positionOf(column)
    const before = table.column(at)
    if (before.type !== 'text') throw new Error(`unify of ${before.type}`)
    const map = mapOf(groups)
    const after = mapText(before, (text) => map.get(text) ?? text)
    let cellsChanged = 0
    for (let i = 0, n = lengthOf(before); i < n; i++) if (cellAt(before, i) !== cellAt(after, i)) cellsChanged++
    const newLookalikes =
      judged === undefined || judged === 'hand' ? 0 : newcomers(asDictionary(before).dictionary, groups, judged).length
    return {
      table: table.with(at, column, after, true),
      lineage: { kind: 'same' },
      cellsChanged,
      notes: newLookalikes > 0 ? { groups: groups.length, newLookalikes } : { groups: groups.length },
    }
  },
  scripts: {
    sql: ({ column, groups }, context) => {
      const cell = context.column(column)
      const whens = [...mapOf(groups)]
        .filter(([value, into]) => value !== into)
        .map(([value, into]) => sql`when ${value} then ${into}`)
      return selectColumns(
        context,
        whens.length > 0 ? { [column]: sql`case ${cell} ${joined(whens, ' ')} else ${cell} end` } : {},
      )
    },
    python: ({ column, groups }, { frame }) =>
      py`${frame}[${column}] = ${pyHelper('replace_values')}(${frame}[${column}], [${joined(
        [...mapOf(groups)].map(([value, into]) => py`(${value}, ${into})`),
        ', ',
      )}])`,
  },
  absorbs: ({ column }, other) => column === other,
})

/** Values in no group that the judge would have put into one. */
const newcomers = (
  words: readonly string[],
  groups: readonly ValueGroup[],
  judge: SimilarityMeasure,
): { value: string; into: string }[] => {
  const known = new Set(groups.flatMap(({ into, from }) => [into, ...from]))
  const fresh = words.filter((word) => word !== '' && !known.has(word))
  return fresh.length === 0 ? [] : matchToGroups(fresh, groups, judge)
}
