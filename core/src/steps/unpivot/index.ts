import { plainFigure, figureIf } from '../shared/statistics.ts'
import { z } from 'zod'
import { checkSize } from '../../table/limits.ts'
import { sqlTypeName } from '../../formula/to-code.ts'
import { patternProblem } from '../../codegen/regex/engine.ts'
import { patternPython } from '../../codegen/regex/scripts.ts'
import { code, joined, lines, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import {
  asDictionary,
  cellAt,
  columnOf,
  emptyColumn,
  isTextColumn,
  isNullAt,
  isNumber,
  lengthOf,
  type Column,
  type ColumnType,
  type TextColumn,
} from '../../table/column.ts'
import { interleave } from '../../table/gather.ts'
import { repeatEach } from '../../table/rows-in-order.ts'
import { bitmap, int32s, isSet, set, uint32s, type Bitmap } from '../../kernels/memory.ts'
import { convert } from '../../reading/convert.ts'
import { columnBuffers } from '../../table/held-buffers.ts'
import { LazyColumn } from '../../table/lazy-column.ts'
import { Table, type Schema } from '../../table/table.ts'
import { counted, listed, quoted, figure } from '../../messages/words.ts'
import {
  checkPlace,
  checkSelector,
  columnsSlot,
  placePython,
  placeSchema,
  selected,
  selectedNames,
  selectorPython,
  selectorSchema,
} from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot, type Sentence } from '../shared/step-kind.ts'
import type { StepDraft } from '../shared/draft.ts'
import { numbersOf } from '../shared/draft-values.ts'
import { crosstabSteps, unpivotFor } from './crosstab.ts'
import { layout, type LabelRules, type Unpivot } from './layout.ts'
import { unpivotTrace } from './trace.ts'

/** a b, 2 -> a b a b: the labels over and over, as codes into a dictionary of them. */
const interleavedLabels = (labels: readonly string[], times: number): Column => {
  const { indices: turns, dictionary } = asDictionary(
    columnOf(
      'text',
      labels.map((label) => label || null),
    ) as TextColumn,
  )
  const codes = uint32s(labels.length * times)
  codes.set(turns.subarray(0, Math.min(turns.length, codes.length)))
  for (let done = turns.length; done > 0 && done < codes.length; done *= 2)
    codes.copyWithin(done, 0, Math.min(done, codes.length - done))
  return { type: 'text', form: 'dictionary', indices: codes, dictionary: dictionary }
}

/** A bit for each row that is empty in all columns; undefined where none is. */
const emptyRows = (columns: readonly Column[]): Bitmap | undefined => {
  const maps = columns.map(emptyCells)
  const [first] = maps
  if (!first || maps.some((map) => map === undefined)) return undefined
  const all = first.slice()
  for (const map of maps) for (let i = 0; i < all.length; i++) all[i] = all[i]! & map![i]!
  return all
}
const emptyCells = (column: Column): Bitmap | undefined => {
  if (!isTextColumn(column)) return column.nulls
  const empty = bitmap(lengthOf(column))
  let any = false
  for (let i = 0, n = lengthOf(column); i < n; i++)
    if (isNullAt(column, i)) {
      set(empty, i)
      any = true
    }
  return any ? empty : undefined
}
const countBits = (map: Bitmap): number => {
  const n = map.length
  let count = 0
  for (let i = 0; i < n; i++) for (let bits = map[i]!; bits !== 0; bits &= bits - 1) count++
  return count
}
/** Of rows by turns those that are not empty, as places `row * turns + turn`. `empty` has a bit for each row of each turn. */
const filledPlaces = (empty: readonly (Bitmap | undefined)[], rowCount: number): Int32Array => {
  const places = int32s(rowCount * empty.length)
  let count = 0
  for (let row = 0, place = 0; row < rowCount; row++)
    for (let turn = 0; turn < empty.length; turn++, place++) if (!isSet(empty[turn], row)) places[count++] = place
  return places.subarray(0, count)
}

/** The cells of some columns in turns, row by row. */
const inTurns = (type: ColumnType, columns: readonly Column[]): Column | LazyColumn => {
  const count = columns.length
  if (count === 0) return emptyColumn(type, 0)
  return new LazyColumn({
    type,
    length: count * (columns[0] ? lengthOf(columns[0]) : 0),
    holds: () => columns.flatMap(columnBuffers),
    turns: columns,
    cell: (place) => cellAt(columns[place % count] as Column, Math.floor(place / count)),
    make: () => interleave(type, columns),
  })
}
const labelsInTurns = (labels: readonly string[], rowCount: number): LazyColumn =>
  new LazyColumn({
    type: 'text',
    length: rowCount * labels.length,
    holds: () => [],
    again: true,
    cell: (place) => labels[place % labels.length] || null,
    make: () => interleavedLabels(labels, rowCount),
  })

const widenSql = (part: Code, from: ColumnType, to: ColumnType): Code => {
  if (from === to) return part
  if (to === 'text') return sql`${sqlHelper('shown')}(${part})`
  return sql`${part}::${code(to === 'decimal' ? 'float8' : 'timestamp')}`
}

/** What a pattern made of plain words takes off is said by the words. */
/** The rows before the step, one for each label. */
const turnsInRows = (params: Unpivot, from: Code, input: Schema, column: (name: string) => Code): Code => {
  const { turns, values } = layout(params, input)
  const typeOf = (one: string): ColumnType => input.find((field) => field.name === one)?.type ?? 'text'
  const rows = turns.map(
    (turn, i) =>
      sql`(${i + 1}, nullif(${turn.label}::text, ''), ${joined(
        values.map(({ type }, g) =>
          turn.columns[g] === undefined
            ? sql`null::${sqlTypeName(type)}`
            : widenSql(sql`t.${column(turn.columns[g])}`, typeOf(turn.columns[g]), type),
        ),
        ', ',
      )})`,
  )
  const parts = values.map((_, g) => code(`v${g + 1}`))
  const filled =
    params.empty === 'drop'
      ? sql`\nwhere ${joined(
          parts.map((part) => sql`u.${part} is not null`),
          ' or ',
        )}`
      : code('')
  return sql`${from} t cross join lateral (values ${joined(rows, ', ')}) u(turn, label, ${joined(parts, ', ')})${filled}`
}

const patternWords = (pattern: string): string => {
  const words = /^\^\(\?:(.+?)\)\[\\s_\.\/:-\]\+\|/.exec(pattern)?.[1]
  return words === undefined
    ? `without what matches ${pattern}`
    : `without ${listed(
        words.split('|').map((word) => quoted(word.replace(/\\(.)/g, '$1'))),
        'or',
      )}`
}
const labelWords = ({ remove, renames }: LabelRules = {}): string => {
  const parts = [
    ...(remove === undefined || remove === ''
      ? []
      : [typeof remove === 'string' ? `without ${quoted(remove)}` : patternWords(remove.pattern)]),
    ...(renames && Object.keys(renames).length > 0
      ? [`${counted(Object.keys(renames).length, 'of them', 'of them')} called otherwise`]
      : []),
  ]
  return parts.length === 0 ? 'name' : `name ${listed(parts)}`
}
const groupWords = (params: Unpivot): Sentence => {
  const [first] = params.groups
  const label: Sentence = [
    'the ',
    slot(labelWords(params.labels), 'labels', ['labels']),
    ' as ',
    slot(params.name, 'name', ['name']),
  ]
  if (params.groups.length === 1 && first)
    return [
      'Turn ',
      columnsSlot(first.columns, 'groups', 0, 'columns'),
      ' into rows: ',
      ...label,
      ', the value as ',
      slot(first.value, 'name', ['groups', 0, 'value']),
    ]
  const groups = params.groups.flatMap(({ columns, value }, g): Sentence => {
    const separator = () => {
      if (g === 0) return ''
      if (g === params.groups.length - 1) return ' and '
      return ', '
    }
    return [
      separator(),
      columnsSlot(columns, 'groups', g, 'columns'),
      ' as ',
      slot(value, 'name', ['groups', g, 'value']),
    ]
  })
  return ['Turn ', ...groups, ' into rows side by side: ', ...label]
}

const unpivotDrafts = (columns: readonly string[], schema: Schema, rank: number): StepDraft<Unpivot>[] => {
  if (columns.length === 0) return []
  const { kind: _kind, ...params } = unpivotFor(columns, schema)
  const crosstab = crosstabSteps(columns, schema)
  return [
    { rank, params },
    ...(crosstab
      ? [
          {
            rank,
            verb: 'Tidy a crosstab with two lines of names',
            words: ['crosstab', 'two headers', 'unpivot', 'year above measure', 'tidy', 'multi level header'],
            params: crosstab.unpivot,
            then: crosstab.then,
          },
        ]
      : []),
  ]
}

/** One group of all columns but some, texts and numbers, labelled by their names, with names that no column has. */
const isPlain = ({ groups, name, labels, before, after }: Unpivot, input: Schema): boolean => {
  const [group] = groups
  if (!group || groups.length > 1 || labels || before !== undefined || after !== undefined) return false
  if (Array.isArray(group.columns) || !('except' in group.columns)) return false
  if (name === group.value || input.some((field) => field.name === name || field.name === group.value)) return false
  const gathered = selected(group.columns, input)
  return gathered.length > 0 && gathered.every(({ type }) => type === 'text' || isNumber(type))
}
const plainPython = ({ groups, name, empty }: Unpivot, frame: Code): Code => {
  const { columns, value } = groups[0] as Unpivot['groups'][number]
  return lines(
    py`${frame} = ${pyHelper('to_rows')}(${frame}, ${selectorPython(columns, frame)}, ${name}, ${value})`,
    empty === 'drop' ? py`${frame} = ${frame}.dropna(subset=[${value}]).reset_index(drop=True)` : undefined,
  )
}

/** Makes rows of columns. */
export const unpivot = defineStep<Unpivot>({
  reshapes: true,
  shownAfter: true,
  consumes: true,
  figures: ({ rowsIn, rowsOut, notes }) => [
    plainFigure(`${counted(notes.gatheredColumns ?? 0, 'column')} became rows`),
    plainFigure(`${figure(rowsIn)} → ${counted(rowsOut, 'row')}`),
    ...figureIf(notes.emptyCells, (n) => ({ text: `${figure(n)} empty`, tone: 'changed', only: 'all' })),
  ],
  kind: 'unpivot',
  verb: 'Turn columns into rows',
  words: ['unpivot', 'melt', 'columns to rows', 'gather', 'longer', 'stack', 'transpose', 'crosstab', 'tidy', 'long'],
  params: z.strictObject({
    name,
    groups: z.array(z.strictObject({ columns: selectorSchema, value: name })).min(1),
    labels: z
      .strictObject({
        remove: z.union([z.string(), z.strictObject({ pattern: z.string().min(1) })]).optional(),
        renames: z.record(z.string(), z.string()).optional(),
      })
      .optional(),
    empty: z.enum(['keep', 'drop']).optional(),
    ...placeSchema,
  }),
  drafts: {
    table: ({ schema }) => {
      const all = schema.map(({ name }) => name)
      const numbers = numbersOf(all, schema)
      return unpivotDrafts(numbers.length > 1 ? numbers : all.slice(1), schema, 100)
    },
    columns: ({ columns, schema }) => (columns.length > 1 ? unpivotDrafts(columns, schema, 270) : []),
  },
  sentence: (params) => {
    const { empty = 'keep' } = params
    return [
      ...groupWords(params),
      ', and ',
      slot(
        empty === 'keep' ? 'keep the empty ones' : 'leave out the empty ones',
        'choice',
        ['empty'],
        [
          ['keep', 'keep the empty ones'],
          ['drop', 'leave out the empty ones'],
        ],
      ),
      '.',
    ]
  },
  output: (params, input, context) => {
    params.groups.forEach(({ columns }, g) => {
      const fields = checkSelector(columns, input, context, 'groups', g, 'columns')
      if (fields.length === 0 && !Array.isArray(columns))
        context.report({ code: 'no-columns-chosen', selector: 'that rule' }, 'groups', g, 'columns')
    })
    checkPlace(params, input, context)
    const remove = params.labels?.remove
    const why = typeof remove === 'object' ? patternProblem(remove.pattern) : undefined
    if (why && typeof remove === 'object') {
      context.report({ code: 'bad-pattern', pattern: remove.pattern, why }, 'labels', 'remove', 'pattern')
      return input
    }
    const { schema, twice } = layout(params, input)
    for (const label of new Set(twice)) context.report({ code: 'twice-labelled', label }, 'labels')
    return schema
  },
  run: (params, table) => {
    const { turns, kept, gathered, label, values, at } = layout(params, table.schema)
    checkSize('Turning these columns into rows', table.rowCount * turns.length, kept.length + 1 + values.length)
    const columns = values.map(({ type }, g) =>
      turns.map(({ columns: all }) =>
        all[g] === undefined ? emptyColumn(type, table.rowCount) : convert(table.named(all[g]), { type }).column,
      ),
    )
    const empty = turns.map((_, turn) => emptyRows(columns.map((all) => all[turn] as Column)))
    const each = repeatEach(table.rowCount, turns.length)
    const dropped = params.empty === 'drop' && empty.some((one) => one !== undefined)
    const places = dropped ? filledPlaces(empty, table.rowCount) : undefined
    const index = places ? places.map((place) => each[place]!) : each
    const all = Table.of(
      [label, ...values.map((field) => field.name)],
      [
        labelsInTurns(
          turns.map((turn) => turn.label),
          table.rowCount,
        ),
        ...values.map(({ type }, g) => inTurns(type, columns[g] ?? [])),
      ],
      each.length,
    )
    const first = table.select(kept.map((field) => table.positionOf(field.name))).rows(index)
    return {
      table: first.around(at, places ? all.rows(places) : all),
      lineage: {
        kind: 'index',
        index,
        ...(places ? {} : { kept: turns.length > 0 ? table.rowCount : 0 }),
        ...(places ? { turn: places.map((place) => place % turns.length) } : {}),
      },
      notes: {
        gatheredColumns: gathered,
        emptyCells: empty.reduce((sum, one) => sum + (one ? countBits(one) : 0), 0),
      },
    }
  },
  trace: unpivotTrace,
  columnLineage: (params, input) =>
    Object.fromEntries(layout(params, input).kept.map((field) => [field.name, field.name])),
  scripts: {
    sql: (params, { from, input, output, column }) => {
      const { label, values } = layout(params, input)
      const names = output.map((field) => {
        const g = values.findIndex((one) => one.name === field.name)
        if (field.name === label) return sql`u.label as ${column(label)}`
        if (g >= 0) return sql`u.${code(`v${g + 1}`)} as ${column(field.name)}`
        return sql`t.${column(field.name)}`
      })
      return sql`select row_number() over (order by t."¶", u.turn) as "¶", ${names}\nfrom ${turnsInRows(params, from, input, column)}`
    },
    sqlRows: (params, { from, input, column }) => [
      {
        rows: sql`select row_number() over (order by t."¶", u.turn) as "¶", t."¶" as was from ${turnsInRows(params, from, input, column)}`,
      },
    ],
    spark: 'repeats',
    python: (params, { frame, input, plain }) => {
      if (plain && isPlain(params, input)) return plainPython(params, frame)
      const { remove, renames } = params.labels ?? {}
      const labels = [
        ...(remove === undefined || remove === ''
          ? []
          : [
              typeof remove === 'string'
                ? py`, remove=${remove}`
                : py`, remove_pattern=${patternPython(remove.pattern)}`,
            ]),
        ...(renames
          ? [
              py`, renames={${joined(
                Object.entries(renames).map(([from, to]) => py`${from}: ${to}`),
                ', ',
              )}}`,
            ]
          : []),
      ]
      const groups = params.groups.map(({ columns, value }) => py`(${selectorPython(columns, frame)}, ${value})`)
      return py`${frame} = ${pyHelper('unpivot')}(${frame}, [${joined(groups, ', ')}], name=${params.name}, drop_empty=${params.empty === 'drop'}${joined(labels, '')}${placePython(params)})`
    },
  },
  absorbs: (params, column, input) =>
    params.groups.some(({ columns }) => selectedNames(columns, input).includes(column)),
})
