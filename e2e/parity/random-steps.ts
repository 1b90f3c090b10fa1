import {
  aggregates,
  cleanings,
  conditionOps,
  joinHows,
  windowHows,
  type ColumnType,
  type Condition,
  type NewStep,
  type Schema,
} from '@fabula/core'
import { formula, literal, type Dice } from './random-values.ts'

const numbers: readonly ColumnType[] = ['integer', 'decimal']
const inOrder: readonly ColumnType[] = [...numbers, 'date', 'datetime', 'time', 'text']
const named = (schema: Schema, ...types: readonly ColumnType[]): string[] =>
  schema.filter(({ type }) => types.length === 0 || types.includes(type)).map(({ name }) => name)
const typeOf = (schema: Schema, column: string): ColumnType =>
  schema.find(({ name }) => name === column)?.type ?? 'text'
/** An option that is given in half of the cases. */
const maybe = (dice: Dice, option: object): object => (dice.maybe() ? option : {})

/** Columns by each way to choose them, one at least. */
const chosen = (dice: Dice, schema: Schema): unknown => {
  const all = named(schema)
  const one = dice.of(all)
  const [first = one, last = one] = [one, dice.of(all)].toSorted((a, b) => all.indexOf(a) - all.indexOf(b))
  return dice.of<unknown>([
    dice.some(all),
    dice.some(all),
    { all: true },
    ...(all.length > 1 ? [{ except: [one] }] : []),
    { like: `${one.slice(0, 1).replace(/[*?]/g, '') || one}*`.toUpperCase() },
    { type: numbers.includes(typeOf(schema, one)) ? 'number' : typeOf(schema, one) },
    { from: first, to: last },
    { any: [[one], { type: typeOf(schema, last) }] },
  ])
}
/** Columns of one type, which one value or figure fits. */
const alike = (dice: Dice, schema: Schema, type: ColumnType): unknown =>
  dice.of<unknown>([dice.some(named(schema, type)), { type }])
/** Where a new column stands. */
const place = (dice: Dice, schema: Schema): object =>
  dice.of([{}, {}, { before: dice.of(named(schema)) }, { after: dice.of(named(schema)) }])

const ignoring = (dice: Dice, type: ColumnType): object =>
  type === 'text' ? { ...maybe(dice, { ignoreCase: true }), ...maybe(dice, { trim: true }) } : {}
/** A value, another column of the type, or a parameter. */
const value = (dice: Dice, schema: Schema, type: ColumnType): unknown =>
  dice.of<unknown>([
    literal(dice, type),
    literal(dice, type),
    { column: dice.of(named(schema, type)) },
    ...(type === 'decimal' ? [{ parameter: 'Rate %' }] : []),
    ...(type === 'date' ? [{ parameter: 'As of' }] : []),
  ])
const textOps = ['contains', 'contains-not', 'starts-with', 'starts-not-with', 'ends-with', 'matches']
const orderOps = ['greater', 'at-least', 'less', 'at-most', 'between']
const test = (dice: Dice, schema: Schema): Condition => {
  const { name: column, type } = dice.of(schema)
  const op = dice.of(
    conditionOps.filter((one) => {
      if (one === 'is-empty' || one === 'is-filled') return true
      if (type === 'list') return false
      return textOps.includes(one) ? type === 'text' : !orderOps.includes(one) || inOrder.includes(type)
    }),
  )
  const options = ignoring(dice, type)
  if (op === 'is-empty' || op === 'is-filled') return { column, op }
  if (op === 'is-one-of' || op === 'is-none-of')
    return { column, op, values: [literal(dice, type), literal(dice, type)], ...options } as Condition
  if (op === 'between')
    return { column, op, from: value(dice, schema, type), to: value(dice, schema, type), ...options } as Condition
  if (op === 'matches')
    return { column, op, value: dice.of(['^[a-z]', 'x-\\d', '[0-9]+$', 'o\\b', '(?i)TARN']), ...options } as Condition
  return {
    column,
    op,
    value: textOps.includes(op) ? literal(dice, type) : value(dice, schema, type),
    ...options,
  } as Condition
}
const condition = (dice: Dice, schema: Schema): Condition =>
  dice.of<() => Condition>([
    () => test(dice, schema),
    () => test(dice, schema),
    () => ({ all: [test(dice, schema), test(dice, schema)] }),
    () => ({ any: [test(dice, schema), { not: test(dice, schema) }] }),
    () => ({ not: { all: [test(dice, schema), test(dice, schema)] } }),
    () => ({ formula: formula(dice, schema, 'boolean', 2) }),
  ])()

/** A figure that columns of the table have; its column is of a type that it goes with. */
const measure = <H extends string>(dice: Dice, schema: Schema, of: readonly H[], as: string) => {
  const sums = ['sum', 'mean', 'median', 'deviation', 'share', 'running-sum']
  const columnsFor = (how: string): string[] => {
    if (sums.includes(how)) return named(schema, ...numbers)
    if (how === 'any' || how === 'every') return named(schema, 'boolean')
    if (how === 'min' || how === 'max') return named(schema, ...inOrder)
    return named(schema, ...inOrder, 'boolean')
  }
  const bare = ['count', 'rank', 'dense-rank', 'row-number']
  const how = dice.of(of.filter((one) => bare.includes(one) || columnsFor(one).length > 0))
  return {
    how,
    ...(bare.includes(how) ? {} : { column: dice.of(columnsFor(how)) }),
    as,
    ...(how === 'join' ? maybe(dice, { separator: ' / ' }) : {}),
  }
}
const sortKeys = (dice: Dice, schema: Schema) =>
  dice
    .some(named(schema))
    .slice(0, 2)
    .map((column) => ({
      column,
      ...maybe(dice, { descending: true }),
      ...(typeOf(schema, column) === 'text' ? maybe(dice, { natural: true }) : {}),
    }))
const keys = (dice: Dice, schema: Schema): unknown =>
  dice.of<unknown>([dice.some(named(schema)).slice(0, 2), chosen(dice, schema)])

const castsTo: Readonly<Partial<Record<ColumnType, readonly ColumnType[]>>> = {
  text: ['text', 'integer', 'decimal', 'boolean', 'date', 'datetime', 'time'],
  integer: ['text', 'decimal', 'boolean'],
  decimal: ['text', 'integer', 'boolean'],
  boolean: ['text', 'integer', 'decimal'],
  date: ['text', 'datetime'],
  datetime: ['text', 'date', 'time'],
  time: ['text'],
}

/** A step of its kind with any of its options, which holds on a table of this schema; undefined where none does. */
type Maker = (dice: Dice, schema: Schema) => object | undefined
const ofText =
  (make: (dice: Dice, schema: Schema, column: string) => object): Maker =>
  (dice, schema) => {
    const texts = named(schema, 'text')
    return texts.length === 0 ? undefined : make(dice, schema, dice.of(texts))
  }

/** The table beside. */
export const aside: Schema = [
  { name: 'Text', type: 'text' },
  { name: 'Whole', type: 'integer' },
  { name: 'Extra', type: 'text' },
]

const makers: Readonly<Record<string, Maker>> = {
  select: (dice, schema) => ({ columns: chosen(dice, schema), ...maybe(dice, { rest: dice.of(['after', 'drop']) }) }),
  drop: (dice, schema) => {
    const [first = '', ...others] = named(schema)
    if (others.length === 0) return undefined
    return { columns: dice.of<unknown>([dice.some(others), { from: first, to: first }, { except: [first] }]) }
  },
  rename: (dice, schema) => ({
    ...(dice.maybe()
      ? { names: { [dice.of(named(schema))]: dice.of(['New', 'Text', "it's", '2031']) } }
      : {
          change: {
            trim: dice.maybe(),
            find: 'e',
            replace: dice.of(['E', '']),
            ...maybe(dice, { prefix: 'x ' }),
            ...maybe(dice, { suffix: ' y' }),
            case: dice.of(['lower', 'upper', 'title']),
          },
          ...maybe(dice, { columns: chosen(dice, schema) }),
        }),
  }),
  move: (dice, schema) => ({
    columns: [dice.of(named(schema))],
    to: dice.of<unknown>(['first', 'last', { before: dice.of(named(schema)) }, { after: dice.of(named(schema)) }]),
  }),
  duplicate: (dice, schema) => ({ column: dice.of(named(schema)), as: 'Copy', ...place(dice, schema) }),
  cast: (dice, schema) => {
    const { name, type: from } = dice.of(schema)
    const type = dice.of(castsTo[from] ?? [])
    if (type === undefined) return undefined
    const options: Readonly<Partial<Record<ColumnType, object>>> = {
      date: { formats: ['yyyy-MM-dd', 'd MMM'], year: 2031, language: 'en' },
      decimal: { locale: { decimal: ',', group: '.' } },
    }
    return { columns: [name], type, ...(from === 'text' ? maybe(dice, options[type] ?? {}) : {}) }
  },
  filter: (dice, schema) => ({ where: condition(dice, schema), ...maybe(dice, { keep: dice.maybe() }) }),
  slice: (dice) => ({ [dice.of(['first', 'last', 'skip', 'every'])]: 1 + dice.upTo(4) }),
  sort: (dice, schema) => ({ by: sortKeys(dice, schema) }),
  distinct: (dice, schema) => ({
    ...maybe(dice, { columns: chosen(dice, schema) }),
    ...maybe(dice, { keep: dice.of(['first', 'last']) }),
  }),
  number: (dice, schema) => ({
    as: 'No',
    ...maybe(dice, { start: dice.of([0, 5, -2]) }),
    ...maybe(dice, { within: chosen(dice, schema) }),
    ...place(dice, schema),
  }),
  fill: (dice, schema) => ({
    columns: chosen(dice, schema),
    direction: dice.of(['down', 'up']),
    ...maybe(dice, { within: chosen(dice, schema) }),
  }),
  replace: (dice, schema) => {
    const fitting = schema.filter((field) => field.type !== 'list')
    if (fitting.length === 0) return undefined
    const { type } = dice.of(fitting)
    const pair = (): object => ({ find: literal(dice, type), with: dice.maybe() ? null : literal(dice, type) })
    if (type !== 'text' || dice.maybe())
      return {
        columns: alike(dice, schema, type),
        ...(dice.maybe() ? pair() : { pairs: [pair(), pair()] }),
        ...(type === 'text' ? { ...maybe(dice, { match: 'whole' }), ...maybe(dice, { ignoreCase: true }) } : {}),
      }
    return {
      columns: alike(dice, schema, 'text'),
      ...dice.of<object>([
        { find: 'x', with: '$', match: 'part' },
        { find: '([a-z])-([0-9])', with: '$2_$1', match: 'pattern' },
        { find: 'o|ox', with: null, match: 'pattern', ignoreCase: true },
        {
          match: 'part',
          ignoreCase: true,
          pairs: [
            { find: 'O', with: '0' },
            { find: ' ', with: '' },
          ],
        },
      ]),
    }
  },
  'fill-empty': (dice, schema) => {
    const { type } = dice.of(schema.filter((field) => field.type !== 'list'))
    return { columns: alike(dice, schema, type), with: value(dice, schema, type) }
  },
  blank: (dice, schema) => {
    const { type } = dice.of(schema.filter((field) => field.type !== 'list'))
    return { columns: alike(dice, schema, type), values: [literal(dice, type), literal(dice, type)] }
  },
  'clean-text': ofText((dice, schema) => ({ columns: alike(dice, schema, 'text'), do: dice.some(cleanings) })),
  unify: ofText((dice, _schema, column) => ({
    column,
    groups: [
      { into: 'Oxbow', from: ['Oxbow', 'oxbow '] },
      { into: 'Tarn End', from: ['Tarn  End', '12'] },
    ],
    ...maybe(dice, { judged: dice.of(['sound', 'characters', 'spelling', 'hand']) }),
  })),
  derive: (dice, schema) => ({
    as: dice.maybe() ? 'New' : dice.of(named(schema)),
    formula: formula(dice, schema, dice.of(['number', 'text', 'boolean', 'moment', 'any', 'list']), 3),
  }),
  cases: (dice, schema) => {
    const type = dice.of(['text', 'integer', 'date'] as const)
    return {
      as: 'Kind',
      cases: [
        { when: condition(dice, schema), then: literal(dice, type) },
        { when: condition(dice, schema), then: null },
      ],
      otherwise: dice.maybe() ? literal(dice, type) : null,
      ...place(dice, schema),
    }
  },
  split: ofText((dice, _schema, column) => {
    const by = dice.of<object>([{ delimiter: ';' }, { pattern: '[-; ]' }, { pattern: ';|;;' }, { widths: [1, 2] }])
    return {
      column,
      by,
      ...('widths' in by ? {} : maybe(dice, { at: dice.of(['every', 'first', 'last']) })),
      into: dice.of<unknown>(['rows', { columns: ['P1', 'P2'] }, { columns: 'found' }]),
      ...maybe(dice, { keep: dice.maybe() }),
    }
  }),
  extract: ofText((dice, schema, column) => ({
    column,
    as: 'Part',
    take: dice.of<object>([
      { before: '-' },
      { after: ';' },
      { between: ['x', 'y'] },
      { first: 2 },
      { last: 2 },
      { from: 2, length: 3 },
      { pattern: '([a-z]+)-', group: 1 },
      { pattern: 'a|ab|\\d+?' },
    ]),
    ...maybe(dice, { occurrence: dice.of(['first', 'last']) }),
    ...place(dice, schema),
  })),
  combine: (dice, schema) => ({
    columns: chosen(dice, schema),
    as: 'All',
    with: dice.of(['-', ', ', '']),
    ...maybe(dice, { keep: dice.maybe() }),
  }),
  unpivot: (dice, schema) => {
    const all = named(schema)
    const gathered = dice.some(all).slice(0, 4)
    const half = Math.ceil(gathered.length / 2)
    return {
      name: 'Name',
      groups:
        gathered.length > 1 && dice.maybe()
          ? [
              { columns: gathered.slice(0, half), value: 'Value' },
              { columns: gathered.slice(half), value: 'Other value' },
            ]
          : [{ columns: chosen(dice, schema), value: 'Value' }],
      ...maybe(dice, {
        labels: {
          ...maybe(dice, { remove: dice.of<unknown>(['e', { pattern: '[A-M]|a?' }]) }),
          ...maybe(dice, { renames: { Whole: 'One', Txt: 'Two' } }),
        },
      }),
      ...maybe(dice, { empty: dice.of(['drop', 'keep']) }),
    }
  },
  pivot: (dice, schema) => {
    const label = dice.of(named(schema, 'text', 'integer', 'boolean', 'date'))
    const others = schema.filter(({ name, type }) => name !== label && type !== 'list')
    if (label === undefined || others.length === 0) return undefined
    const figures = aggregates.filter((how) => how !== 'share')
    const values = (dice.maybe() ? [1] : [1, 2]).map((i) => {
      const { how, column } = measure(dice, others, figures, '') as { how: string; column?: string }
      return { how, column: column ?? dice.of(named(others)), ...(i === 2 || dice.maybe() ? { as: `v${i}` } : {}) }
    })
    const used = new Set([label, ...values.map(({ column }) => column)])
    const by = named(schema).filter((name) => !used.has(name))
    return {
      labels: label,
      values,
      ...(by.length > 0 ? { by: dice.some(by).slice(0, 2) } : { by: [] }),
      ...maybe(dice, {
        found: typeOf(schema, label) === 'text' ? ['Oxbow', '2', 'true'] : [literal(dice, typeOf(schema, label))],
      }),
      ...(values.every(({ how }) => how === 'count' || how === 'filled' || how === 'distinct')
        ? maybe(dice, { gaps: 0 })
        : {}),
    }
  },
  summarise: (dice, schema) => ({
    by: dice.maybe() ? keys(dice, schema) : [],
    measures: ['M0', 'M1'].map((as) => ({
      ...measure(dice, schema, aggregates, as),
      ...maybe(dice, { order: sortKeys(dice, schema) }),
    })),
  }),
  window: (dice, schema) => ({
    ...maybe(dice, { by: keys(dice, schema) }),
    ...maybe(dice, { order: sortKeys(dice, schema) }),
    measures: ['M0', 'M1'].slice(dice.upTo(2)).map((as) => {
      const made = measure(dice, schema, windowHows, as)
      return { ...made, ...(['previous', 'next'].includes(made.how) ? maybe(dice, { offset: 2 }) : {}) }
    }),
    ...place(dice, schema),
  }),
  transpose: (dice, schema) => maybe(dice, { names: dice.of(named(schema)) }),
  unroll: (dice, schema) =>
    named(schema, 'list').length === 0 ? undefined : { column: dice.of(named(schema, 'list')) },
  header: (dice) => ({ row: dice.of([1, 'none', 2]) }),
  join: (dice, schema) => {
    const how = dice.of(joinHows)
    const options = {
      with: 'aside',
      how,
      ...maybe(dice, { bring: dice.of<unknown>([['Extra'], { except: ['Text'] }, { type: 'text' }]) }),
      ...maybe(dice, { prefix: 'B ' }),
    }
    if (how === 'cross') return options
    const pairs = aside.flatMap((pair) => {
      const left = named(schema, ...(pair.type === 'text' ? (['text'] as const) : numbers))
      return left.length === 0 ? [] : [{ left: dice.of(left), right: pair.name }]
    })
    if (pairs.length === 0) return undefined
    const on = dice.some(pairs).filter(({ left }, i, all) => all.findIndex((one) => one.left === left) === i)
    return { ...options, on, ...ignoring(dice, 'text'), ...maybe(dice, { matches: dice.of(['all', 'first', 'one']) }) }
  },
  union: (dice, schema) => {
    const ways: readonly object[] = [
      {},
      {
        pairs: [
          {
            into: 'Text',
            from: [
              { table: 'result', column: dice.of(named(schema)) },
              { table: 'aside', column: 'Extra' },
            ],
          },
        ],
      },
      { apart: [{ column: 'Text', table: 'aside', as: 'Their text' }] },
    ]
    const shared = schema.some(({ name }) => name === 'Whole' || name === 'Extra')
    return {
      with: dice.maybe() ? ['aside'] : ['aside', 'aside'],
      ...maybe(dice, { columns: shared ? dice.of(['shared', 'all']) : 'all' }),
      ...maybe(dice, { origin: 'Table' }),
      ...dice.of(ways),
    }
  },
  check: (dice, schema) => ({
    ...dice.of<() => object>([
      () => ({ every: condition(dice, schema) }),
      () => ({ unique: chosen(dice, schema) }),
      () => ({ rows: { 'at-least': dice.upTo(3), 'at-most': 5 } }),
      () => ({ share: { where: condition(dice, schema), 'at-least': 0.5 } }),
      () => {
        const [column] = named(schema, ...numbers)
        if (column === undefined) return { unique: chosen(dice, schema) }
        const equals = dice.of<unknown>([12, { table: 'aside', column: 'Whole' }])
        return { total: { column, equals, ...maybe(dice, { within: 1 }) } }
      },
    ])(),
    else: 'warn',
    say: 'holds',
  }),
}
/** The kinds that random stories are made of. */
export const randomKinds = Object.keys(makers)

/** A step of any kind with any of its options; undefined where the table has no column for it. */
export const randomStep = (dice: Dice, schema: Schema): NewStep | undefined => {
  const kind = dice.of(randomKinds)
  const params = makers[kind]?.(dice, schema)
  return params && ({ kind, ...params } as unknown as NewStep)
}
