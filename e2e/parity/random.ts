import {
  cleanings,
  conditionOps,
  aggregates,
  joinHows,
  planRecipe,
  readRecipe,
  windowHows,
  writeColumn,
  type ColumnType,
  type Recipe,
  type Schema,
  type Step,
  type NewStep,
  type Condition,
} from '@fabula/core'
import { signatures } from '@fabula/core/testing'

/** Choices read off a list of numbers, so that a failing case shrinks to small numbers and few steps; 0 once they are used up. */
export class Dice {
  private at = 0
  private readonly numbers: readonly number[]
  constructor(numbers: readonly number[]) {
    this.numbers = numbers
  }
  upTo(n: number): number {
    return (this.numbers[this.at++] ?? 0) % Math.max(1, n)
  }
  of<T>(list: readonly T[]): T {
    return list[this.upTo(list.length)] as T
  }
  some<T>(list: readonly T[]): T[] {
    const picked = list.filter(() => this.upTo(2) === 1)
    return picked.length > 0 || list.length === 0 ? picked : [this.of(list)]
  }
  maybe(): boolean {
    return this.upTo(2) === 1
  }
}

const texts = [
  'Oxbow',
  'oxbow ',
  '',
  'Tarn  End',
  'a;b;c',
  'a;;b',
  '12',
  '-3.5',
  '£ 1,200.50',
  '2031-05-02',
  'Größe',
  '😀 x',
  'two\nlines',
  '"q"',
  '=1',
  'NaN',
  'true',
  '007',
  "it's",
  ' ',
  'x-1',
  'x-2-y',
]
const pools: Readonly<Record<string, readonly string[]>> = {
  Text: texts,
  Other: texts.slice(0, 9),
  Whole: ['0', '1', '2', '-7', '', '1000000', '3'],
  Real: ['0.5', '-1.25', '', '100', '0.1', '0.2', '1e6'],
  Yes: ['true', 'false', ''],
  Day: ['2031-05-01', '2031-05-31', '', '2032-02-29', '1999-12-31'],
  Moment: ['2031-05-01T08:30:00', '', '2031-12-31T23:59:59'],
}
const columns: Schema = [
  { name: 'Text', type: 'text' },
  { name: 'Other', type: 'text' },
  { name: 'Whole', type: 'integer' },
  { name: 'Real', type: 'decimal' },
  { name: 'Yes', type: 'boolean' },
  { name: 'Day', type: 'date' },
  { name: 'Moment', type: 'datetime' },
]
const aside: Schema = [
  { name: 'Text', type: 'text' },
  { name: 'Whole', type: 'integer' },
  { name: 'Extra', type: 'text' },
]
const quotedCell = (text: string): string => (/[",\n]|^ | $/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

/** Rows of the main table and of the one beside it. */
export const randomFiles = (dice: Dice): { readonly rows: string; readonly aside: string } => {
  const file = (schema: Schema, count: number): string =>
    `${[schema.map(({ name }) => name), ...Array.from({ length: count }, () => schema.map(({ name }) => quotedCell(dice.of(pools[name] ?? texts))))].map((row) => row.join(',')).join('\n')}\n`
  return { rows: file(columns, dice.upTo(14)), aside: file(aside, dice.upTo(6)) }
}

const literal = (dice: Dice, type: ColumnType): string | number | boolean =>
  type === 'integer'
    ? dice.of([0, 1, 2, -7, 3])
    : type === 'decimal'
      ? dice.of([0, 0.5, -1.25, 100])
      : type === 'boolean'
        ? dice.maybe()
        : type === 'date'
          ? dice.of(['2031-05-01', '2032-02-29'])
          : type === 'datetime'
            ? '2031-05-01T08:30:00'
            : type === 'time'
              ? '08:30:00'
              : dice.of(texts.filter((text) => text !== ''))
const needs: Readonly<Record<string, readonly ColumnType[]>> = {
  number: ['integer', 'decimal'],
  text: ['text'],
  boolean: ['boolean'],
  moment: ['date', 'datetime'],
  clock: ['datetime', 'time'],
  list: ['list'],
  written: ['integer', 'decimal', 'date', 'datetime'],
  any: ['text', 'integer', 'decimal', 'boolean', 'date'],
}
const constants = [
  '"day"',
  '"month"',
  '"year"',
  '"y"',
  '"d"',
  '"0.00"',
  '"yyyy-MM-dd"',
  '"[a-z]+"',
  '"a"',
  '";"',
  '1',
  '2',
  '0',
  '" "',
  'TRUE',
]
const functions = signatures.filter(({ name, group }) => group !== 'operator' && !['TODAY', 'NOW'].includes(name))

const formulaText = (value: unknown): string =>
  typeof value === 'string'
    ? `"${value.replaceAll('"', '""')}"`
    : typeof value === 'boolean'
      ? value
        ? 'TRUE'
        : 'FALSE'
      : String(value)
/** A formula that gives something of this need, more or less; the plan decides whether it holds. */
const formula = (dice: Dice, schema: Schema, need: string, depth: number): string => {
  const fitting = schema.filter(({ type }) => (needs[need] ?? []).includes(type))
  const way = dice.upTo(depth > 0 ? 5 : 2)
  if (way === 0 && fitting.length > 0) return writeColumn(dice.of(fitting).name)
  if (way <= 1)
    return need === 'moment'
      ? 'DATE(2031; 5; 1)'
      : need === 'list'
        ? 'LIST(1; 2)'
        : formulaText(literal(dice, dice.of(needs[need] ?? ['text'])))
  if (way === 2 && (need === 'number' || need === 'written'))
    return `(${formula(dice, schema, 'number', depth - 1)} ${dice.of(['+', '-', '*', '/'])} ${formula(dice, schema, 'number', depth - 1)})`
  if (way === 2 && need === 'text')
    return `(${formula(dice, schema, 'any', depth - 1)} & ${formula(dice, schema, 'text', depth - 1)})`
  if (way === 2 && need === 'boolean') {
    const side = dice.of(['number', 'text', 'moment'])
    return `(${formula(dice, schema, side, depth - 1)} ${dice.of(['=', '<>', '<', '>='])} ${formula(dice, schema, side, depth - 1)})`
  }
  const { name, args } = dice.of(functions)
  const given = args.flatMap((arg) => {
    if (arg.optional && dice.maybe()) return []
    const one = (): string => (arg.constant ? dice.of(constants) : formula(dice, schema, arg.need, depth - 1))
    return arg.rest ? [one(), ...(dice.maybe() ? [one()] : [])] : [one()]
  })
  return `${name}(${given.join('; ')})`
}

const condition = (dice: Dice, schema: Schema): Condition => {
  const test = (): Condition => {
    const { name, type } = dice.of(schema)
    const op = dice.of(conditionOps)
    if (op === 'is-empty' || op === 'is-filled') return { column: name, op }
    if (op === 'is-one-of' || op === 'is-none-of')
      return { column: name, op, values: [literal(dice, type), literal(dice, type)] }
    if (op === 'between') return { column: name, op, from: literal(dice, type), to: literal(dice, type) }
    if (op === 'matches') return { column: name, op, value: dice.of(['^[a-z]', 'x-\\d', '[0-9]+$']) }
    return {
      column: name,
      op,
      value: literal(dice, type),
      ...(type === 'text' && dice.maybe() ? { ignoreCase: true } : {}),
      ...(type === 'text' && dice.maybe() ? { trim: true } : {}),
    }
  }
  const way = dice.upTo(4)
  return way === 0 ? { all: [test(), test()] } : way === 1 ? { any: [test(), test()] } : test()
}

type Maker = (dice: Dice, schema: Schema) => NewStep | undefined
const named = (schema: Schema, ...types: ColumnType[]): string[] =>
  schema.filter(({ type }) => types.length === 0 || types.includes(type)).map(({ name }) => name)
const measure = <H extends string>(dice: Dice, schema: Schema, of: readonly H[], i: number) => {
  const how = dice.of(of)
  const numeric = ['sum', 'mean', 'median', 'deviation', 'share', 'running-sum'].includes(how)
  const from = named(
    schema,
    ...(numeric ? (['integer', 'decimal'] as const) : how === 'any' || how === 'every' ? (['boolean'] as const) : []),
  )
  const column = from.length > 0 ? dice.of(from) : undefined
  const bare = ['count', 'rank', 'dense-rank', 'row-number'].includes(how)
  return { how, ...(bare || column === undefined ? {} : { column }), as: `M${i}` }
}
const sortKeys = (dice: Dice, schema: Schema) =>
  dice
    .some(named(schema))
    .slice(0, 2)
    .map((column) => ({
      column,
      ...(dice.maybe() ? { descending: true } : {}),
      ...(schema.find(({ name }) => name === column)?.type === 'text' && dice.upTo(3) === 0 ? { natural: true } : {}),
    }))

const makers: Readonly<Record<string, Maker>> = {
  select: (dice, schema) => ({
    kind: 'select',
    columns: dice.some(named(schema)),
    ...(dice.maybe() ? { rest: 'after' } : {}),
  }),
  drop: (dice, schema) => ({ kind: 'drop', columns: dice.some(named(schema)).slice(0, schema.length - 1) }),
  rename: (dice, schema) =>
    dice.maybe()
      ? { kind: 'rename', names: { [dice.of(named(schema))]: dice.of(['New', 'Text', "it's", '2031']) } }
      : {
          kind: 'rename',
          change: { [dice.of(['prefix', 'suffix'])]: ' x', case: dice.of(['lower', 'upper', 'title']) },
        },
  move: (dice, schema) => ({
    kind: 'move',
    columns: dice.some(named(schema)).slice(0, 2),
    to: dice.of(['first', 'last', { before: dice.of(named(schema)) }]),
  }),
  duplicate: (dice, schema) => ({ kind: 'duplicate', column: dice.of(named(schema)), as: 'Copy' }),
  cast: (dice, schema) => ({
    kind: 'cast',
    columns: [dice.of(named(schema))],
    type: dice.of(['text', 'integer', 'decimal', 'boolean', 'date', 'datetime', 'time']),
  }),
  filter: (dice, schema) => ({
    kind: 'filter',
    where: condition(dice, schema),
    ...(dice.maybe() ? { keep: false } : {}),
  }),
  slice: (dice) =>
    ({ kind: 'slice', [dice.of(['first', 'last', 'skip', 'every'])]: 1 + dice.upTo(4) }) as unknown as NewStep,
  sort: (dice, schema) => ({ kind: 'sort', by: sortKeys(dice, schema) }),
  distinct: (dice, schema) => ({
    kind: 'distinct',
    ...(dice.maybe() ? { columns: dice.some(named(schema)) } : {}),
    ...(dice.maybe() ? { keep: 'last' } : {}),
  }),
  number: (dice, schema) => ({
    kind: 'number',
    as: 'No',
    ...(dice.maybe() ? { within: dice.some(named(schema)).slice(0, 2) } : {}),
  }),
  fill: (dice, schema) => ({
    kind: 'fill',
    columns: dice.some(named(schema)),
    direction: dice.of(['down', 'up']),
    ...(dice.maybe() ? { within: [dice.of(named(schema))] } : {}),
  }),
  replace: (dice, schema) => {
    const text = named(schema, 'text')
    const column = dice.of(named(schema))
    const type = schema.find(({ name }) => name === column)?.type ?? 'text'
    return dice.maybe() || text.length === 0
      ? {
          kind: 'replace',
          columns: [column],
          find: literal(dice, type),
          with: dice.maybe() ? null : literal(dice, type),
        }
      : {
          kind: 'replace',
          columns: [dice.of(text)],
          ...dice.of([
            { find: 'x', with: '$', match: 'part' },
            { find: '([a-z])-([0-9])', with: '$2_$1', match: 'pattern' },
            { find: ' ', with: '', match: 'part' },
            { find: 'O', with: '0', match: 'part', ignoreCase: true },
          ]),
        }
  },
  'fill-empty': (dice, schema) => {
    const { name, type } = dice.of(schema)
    return { kind: 'fill-empty', columns: [name], with: literal(dice, type) }
  },
  blank: (dice, schema) => {
    const { name, type } = dice.of(schema)
    return { kind: 'blank', columns: [name], values: [literal(dice, type), literal(dice, type)] }
  },
  'clean-text': (dice, schema) => ({
    kind: 'clean-text',
    columns: named(schema, 'text').slice(0, 2),
    do: dice.some(cleanings),
  }),
  unify: (dice, schema) => ({
    kind: 'unify',
    column: dice.of(named(schema, 'text')),
    groups: [
      { into: 'Oxbow', from: ['Oxbow', 'oxbow '] },
      { into: 'Tarn End', from: ['Tarn  End', '12'] },
    ],
  }),
  derive: (dice, schema) => ({
    kind: 'derive',
    as: dice.maybe() ? 'New' : dice.of(named(schema)),
    formula: formula(dice, schema, dice.of(['number', 'text', 'boolean', 'moment', 'any']), 3),
  }),
  cases: (dice, schema) => ({
    kind: 'cases',
    as: 'Kind',
    cases: [
      { when: condition(dice, schema), then: literal(dice, 'text') },
      { when: condition(dice, schema), then: null },
    ],
    otherwise: dice.maybe() ? 'rest' : null,
  }),
  split: (dice, schema) => ({
    kind: 'split',
    column: dice.of(named(schema, 'text')),
    by: dice.of([{ delimiter: ';' }, { pattern: '[-; ]' }, { widths: [1, 2] }]),
    into: dice.of(['rows', { columns: ['P1', 'P2'] }]),
    ...(dice.maybe() ? { keep: true } : {}),
  }),
  extract: (dice, schema) => ({
    kind: 'extract',
    column: dice.of(named(schema, 'text')),
    as: 'Part',
    take: dice.of([
      { before: '-' },
      { after: ';' },
      { between: ['x', 'y'] },
      { first: 2 },
      { last: 2 },
      { from: 2, length: 3 },
      { pattern: '([a-z]+)-', group: 1 },
    ]),
    ...(dice.maybe() ? { occurrence: 'last' } : {}),
  }),
  combine: (dice, schema) => ({
    kind: 'combine',
    columns: dice.some(named(schema)).slice(0, 3),
    as: 'All',
    with: dice.of(['-', ', ', '']),
    ...(dice.maybe() ? { keep: true } : {}),
  }),
  unpivot: (dice, schema) => ({
    kind: 'unpivot',
    name: 'Name',
    groups: [{ columns: dice.some(named(schema)).slice(0, schema.length - 1), value: 'Value' }],
    ...(dice.maybe() ? { empty: 'drop' } : {}),
  }),
  pivot: (dice, schema) => {
    const label = dice.of(named(schema))
    const value = dice.of(named(schema).filter((name) => name !== label))
    return value === undefined
      ? undefined
      : {
          kind: 'pivot',
          labels: label,
          values: [{ column: value, how: dice.of(['first', 'last', 'count', 'min', 'max', 'filled']) }],
          by: dice.some(named(schema).filter((name) => name !== label && name !== value)).slice(0, 2),
          ...(dice.maybe() ? { found: ['Oxbow', '2', 'true'] } : {}),
        }
  },
  summarise: (dice, schema) => ({
    kind: 'summarise',
    by: dice.maybe() ? dice.some(named(schema)).slice(0, 2) : [],
    measures: [0, 1].map((i) => measure(dice, schema, aggregates, i)),
  }),
  window: (dice, schema) => ({
    kind: 'window',
    ...(dice.maybe() ? { by: dice.some(named(schema)).slice(0, 2) } : {}),
    order: sortKeys(dice, schema),
    measures: [measure(dice, schema, windowHows, 0)],
  }),
  transpose: (dice, schema) => ({ kind: 'transpose', ...(dice.maybe() ? { names: dice.of(named(schema)) } : {}) }),
  unroll: (dice, schema) =>
    named(schema, 'list').length === 0 ? undefined : { kind: 'unroll', column: dice.of(named(schema, 'list')) },
  header: (dice) => ({ kind: 'header', row: dice.of([1, 'none', 2]) }),
  join: (dice, schema) => {
    const pair = dice.of(aside)
    const left = named(schema, pair.type)
    return left.length === 0
      ? undefined
      : {
          kind: 'join',
          with: 'aside',
          how: dice.of(joinHows.filter((how) => how !== 'cross')),
          on: [{ left: dice.of(left), right: pair.name }],
          ...(dice.maybe() ? { matches: 'first' } : {}),
          ...(pair.type === 'text' && dice.maybe() ? { ignoreCase: true, trim: true } : {}),
          ...(dice.maybe() ? { prefix: 'B ' } : {}),
        }
  },
  union: (dice) => ({
    kind: 'union',
    with: ['aside'],
    ...(dice.maybe() ? { columns: 'shared' } : {}),
    ...(dice.maybe() ? { origin: 'Table' } : {}),
    ...(dice.maybe()
      ? {
          pairs: [
            {
              into: 'Text',
              from: [
                { table: 'result', column: 'Text' },
                { table: 'aside', column: 'Extra' },
              ],
            },
          ],
        }
      : {}),
  }),
  check: (dice, schema) => ({ kind: 'check', every: condition(dice, schema), else: 'warn', say: 'holds' }),
}
/** The kinds that random stories are made of. */
export const randomKinds = Object.keys(makers)

const opened = (input: string, schema: Schema): NewStep => ({
  kind: 'open',
  input,
  read: { delimiter: ',', types: Object.fromEntries(schema.map(({ name, type }) => [name, { type }])) },
})
/** A story over both files, of as many of these steps as hold one after the other. */
export const randomRecipe = (rolls: readonly (readonly number[])[]): Recipe => {
  const base = (steps: readonly Step[]): Recipe => ({
    fabula: 1,
    name: 'Random',
    inputs: [
      { id: 'rows', name: 'Rows', columns: [...columns] },
      { id: 'aside', name: 'Aside', columns: [...aside] },
    ],
    tables: [
      { id: 'aside', name: 'Aside', steps: [{ id: 'a1', ...opened('aside', aside) } as Step] },
      { id: 'result', name: 'Result', steps },
    ],
    outputs: [{ table: 'result', format: 'csv', file: 'result.csv' }],
  })
  let steps: Step[] = [{ id: 's1', ...opened('rows', columns) } as Step]
  for (const numbers of rolls) {
    const dice = new Dice(numbers)
    const schema = planRecipe(base(steps)).tables[1]?.output ?? []
    const params = schema.length === 0 ? undefined : makers[dice.of(randomKinds)]?.(dice, schema)
    if (!params) continue
    const next = [...steps, { ...params, id: `s${steps.length + 1}` } as Step]
    const read = readRecipe(base(next))
    const planned = 'recipe' in read ? planRecipe(read.recipe).tables[1] : undefined
    if (
      planned?.output &&
      planned.output.length > 0 &&
      planned.steps.every(({ state, problems }) => state === 'fine' && problems.length === 0)
    )
      steps = next
  }
  return base(steps)
}
