import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { unzipSync, zipSync } from 'fflate'
import {
  brokenSteps,
  checkFormula,
  everyFunction,
  planRecipe,
  pythonScript,
  readRecipe,
  runRecipe,
  ScriptError,
  sqlScript,
  TooLarge,
  writeCsv,
  writeRecipe,
  type Recipe,
} from '@fabula/core'
import { fileFromBytes, FileProblem, lookAtFile, openInput } from '@fabula/formats'
import { mutate, mutations, type Mutation } from './mutations.ts'

/** Something that takes input from outside: what it does with `input` may be refused with a sentence, and nothing else. */
export type Target = {
  readonly arbitrary: fc.Arbitrary<unknown>
  readonly run: (input: never) => Promise<void>
  /** The input as a file, for a report. */ readonly bytes: (input: never) => Buffer
}
const target = <T>(
  arbitrary: fc.Arbitrary<T>,
  run: (input: T) => Promise<void>,
  bytes: (input: T) => Buffer,
): Target => ({ arbitrary, run, bytes })

const corpus = join(import.meta.dirname, 'corpus')
const seeds = (folder: string): { name: string; bytes: Buffer }[] =>
  readdirSync(join(corpus, folder)).map((name) => ({ name, bytes: readFileSync(join(corpus, folder, name)) }))

/** Opens and looks at a file; a sentence that refuses it is as good as a table. */
export const openFuzzed = async (name: string, bytes: Buffer): Promise<void> => {
  const refused = (error: unknown): void => {
    if (!(error instanceof FileProblem || error instanceof TooLarge)) throw error
  }
  try {
    lookAtFile(fileFromBytes(name, bytes), {})
  } catch (error) {
    refused(error)
  }
  try {
    const { table } = await openInput([fileFromBytes(name, bytes)], {})
    if (table.rowCount * table.names.length < 200_000) writeCsv(table)
  } catch (error) {
    refused(error)
  }
}

const fileTarget = (format: string, tokens: readonly string[]): Target => {
  const files = seeds(format)
  const bytesOf = ({ seed, list }: { seed: number; list: readonly Mutation[] }): Buffer =>
    mutate(files[seed % files.length]?.bytes ?? Buffer.alloc(0), list)
  return target(
    fc.record({ seed: fc.nat(1000), list: mutations(tokens) }),
    (input) => openFuzzed(`a.${format}`, bytesOf(input)),
    bytesOf,
  )
}

/** Workbooks are changed inside: a part of the zip is mutated, and the zip made anew. */
const zippedTarget = (format: string, tokens: readonly string[]): Target => {
  const files = seeds(format).flatMap(({ bytes }) => {
    try {
      return [unzipSync(bytes) as Record<string, Uint8Array>]
    } catch {
      return []
    }
  })
  type Input = {
    readonly seed: number
    readonly part: number
    readonly list: readonly Mutation[]
    readonly outside: readonly Mutation[]
  }
  const bytesOf = ({ seed, part, list, outside }: Input): Buffer => {
    const parts: Record<string, Uint8Array> = { ...files[seed % files.length] }
    const names = Object.keys(parts).filter((name) =>
      /content\.xml|sheet\d+\.xml|sharedStrings|styles|workbook/.test(name),
    )
    const name = names[part % Math.max(1, names.length)]
    if (name !== undefined) parts[name] = mutate(Buffer.from(parts[name] ?? []), list)
    return mutate(Buffer.from(zipSync(parts, { level: 1 })), outside)
  }
  return target(
    fc.record({
      seed: fc.nat(1000),
      part: fc.nat(100),
      list: mutations(tokens),
      outside: fc.oneof({ weight: 4, arbitrary: fc.constant([]) }, { weight: 1, arbitrary: mutations(tokens) }),
    }),
    (input) => openFuzzed(`a.${format}`, bytesOf(input)),
    bytesOf,
  )
}

const functionNames = everyFunction.map(({ name }) => name)
const formulaPiece = fc.oneof(
  fc.constantFrom(
    '+',
    '-',
    '*',
    '/',
    '^',
    '&',
    '=',
    '<>',
    '<',
    '>=',
    '(',
    ')',
    ';',
    '%',
    "'Fee'",
    'Fee',
    'Day',
    'Name',
    'Tags',
    '$Rate',
    '"text"',
    '""',
    '1',
    '0.5',
    '1e308',
    '999999999999999999999',
    'TRUE',
    'EMPTY',
    "'",
    '"',
    '$',
    '\\',
    '\n',
    '￿',
    '—',
  ),
  fc.constantFrom(...functionNames.map((name) => `${name}(`)),
  fc.string({ maxLength: 6 }),
)
const formulaText = fc.oneof(
  fc.array(formulaPiece, { maxLength: 60 }).map((pieces) => pieces.join(' ')),
  fc
    .tuple(fc.constantFrom('(', '-', 'NOT(', 'IF(TRUE;', '1+', 'Name&', '1^'), fc.nat(60_000))
    .map(([piece, times]) => piece.repeat(times) + '1'),
  fc
    .tuple(
      fc.constantFrom(...functionNames),
      fc.array(
        fc.constantFrom('Fee', 'Name', 'Day', 'Tags', '1', '"x"', 'EMPTY', '-1e300', '1000000', 'REPT("ab"; 400000)'),
        { maxLength: 5 },
      ),
    )
    .map(([name, args]) => `${name}(${args.join('; ')})`),
)
const visits = 'Fee,Name,Day,Tags\n1.5,Oxbow,2031-05-02,"[1,2]"\n,,,\n-3,Tarn Lane,2031-12-31,[]\n'
const base = (steps: readonly unknown[]): unknown => ({
  fabula: 1,
  name: 'Fuzzed',
  parameters: [{ name: 'Rate', type: 'decimal', value: 2 }],
  inputs: [
    {
      id: 'visits',
      name: 'Visits',
      columns: [
        { name: 'Fee', type: 'decimal' },
        { name: 'Name', type: 'text' },
        { name: 'Day', type: 'date' },
        { name: 'Tags', type: 'text' },
      ],
    },
  ],
  tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open', input: 'visits' }, ...steps] }],
})

const opened = openInput([fileFromBytes('visits.csv', Buffer.from(visits))], {})

/** Checks, plans and runs a recipe on a small input and writes its scripts. */
export const runFuzzed = async (data: unknown): Promise<void> => {
  const read = readRecipe(data)
  if ('faults' in read) return
  const { recipe } = read
  writeRecipe(recipe)
  brokenSteps(planRecipe(recipe))
  const source = { ...(await opened), key: 'visits' }
  const { plan, tables } = runRecipe(recipe, { sources: () => source, parameters: { Rate: 2 }, now: 0 })
  for (const { table } of tables) if (table && table.rowCount * table.names.length < 200_000) writeCsv(table)
  for (const script of [pythonScript, sqlScript] as const)
    try {
      script(recipe, plan)
    } catch (error) {
      if (!(error instanceof ScriptError)) throw error
    }
}

const formulas = target(
  formulaText,
  (text) => {
    checkFormula(text, [{ name: 'Fee', type: 'decimal' }], {})
    return runFuzzed(base([{ id: 's2', kind: 'derive', as: 'New', formula: text }]))
  },
  (text) => Buffer.from(text),
)

/** A recipe whose JSON is changed in places: values swapped for others of the document, keys dropped, lists repeated. */
type Edit = {
  readonly at: number
  readonly kind: 'drop' | 'value' | 'copy' | 'repeat' | 'wrap'
  readonly value: unknown
  readonly from: number
  readonly times: number
}
const edit = fc.record({
  at: fc.nat(10_000),
  from: fc.nat(10_000),
  kind: fc.constantFrom('drop', 'value', 'copy', 'repeat', 'wrap'),
  times: fc.constantFrom(2, 20, 300),
  value: fc.oneof(
    fc.constantFrom<unknown>(
      null,
      '',
      0,
      -1,
      1e308,
      true,
      [],
      {},
      '__proto__',
      'constructor',
      'toString',
      '(a+)+$',
      '*'.repeat(200),
      { all: true },
      { like: '*' },
      { column: '__proto__' },
      { parameter: 'Rate' },
      'visits',
      'Fee',
    ),
    fc.jsonValue({ maxDepth: 2 }),
  ),
})
type Spot = { readonly holder: Record<string, unknown> | unknown[]; readonly key: string | number }
const spotsOf = (value: unknown, into: Spot[] = []): Spot[] => {
  if (typeof value === 'object' && value !== null)
    for (const [key, inner] of Object.entries(value)) {
      into.push({ holder: value as Record<string, unknown>, key: Array.isArray(value) ? Number(key) : key })
      spotsOf(inner, into)
    }
  return into
}
const edited = (recipe: unknown, edits: readonly Edit[]): unknown => {
  const copy = structuredClone(recipe)
  for (const { at, kind, value, from, times } of edits) {
    const spots = spotsOf(copy)
    const spot = spots[at % Math.max(1, spots.length)]
    if (!spot) continue
    const holder = spot.holder as Record<string | number, unknown>
    const other = spots[from % spots.length]
    if (kind === 'drop') delete holder[spot.key]
    else if (kind === 'value') holder[spot.key] = structuredClone(value)
    else if (kind === 'copy' && other)
      holder[spot.key] = structuredClone((other.holder as Record<string | number, unknown>)[other.key])
    else if (kind === 'repeat' && Array.isArray(spot.holder))
      spot.holder.push(...Array.from({ length: times }, () => structuredClone(holder[spot.key])))
    else if (kind === 'wrap') for (let i = 0; i < times; i++) holder[spot.key] = { not: holder[spot.key] }
  }
  // as it comes from outside: a list has no holes
  return JSON.parse(JSON.stringify(copy))
}
const recipeSeeds = seeds('recipe').map(({ bytes }) => JSON.parse(bytes.toString('utf8')) as Recipe)
const recipes = target(
  fc.record({ seed: fc.nat(1000), edits: fc.array(edit, { minLength: 1, maxLength: 5 }) }),
  ({ seed, edits }) => runFuzzed(edited(recipeSeeds[seed % recipeSeeds.length], edits)),
  ({ seed, edits }) => Buffer.from(JSON.stringify(edited(recipeSeeds[seed % recipeSeeds.length], edits))),
)

const xmlTokens = [
  '<c r="ZZZZZZ1"><v>1</v></c>',
  '<row r="99999999999">',
  '<row r="1048576"><c r="XFD1048576"><v>1</v></c></row>',
  ' table:number-columns-repeated="2147483647"',
  ' table:number-rows-repeated="4294967296"',
  '<text:s text:c="999999999"/>',
  '<!DOCTYPE a [<!ENTITY b "c">]>',
  '&b;',
  '&#x0;',
  ']]>',
  '<![CDATA[',
  '</row>',
  '<a>'.repeat(50),
  ' t="s"',
  ' t="d"',
  ' s="99999"',
  '_x0000_',
]

export const targets: { readonly [name: string]: Target } = {
  csv: fileTarget('csv', [
    '"',
    '""',
    ',',
    ';',
    '\t',
    '\n',
    '\r\n',
    '\r',
    '\0',
    '\ufeff',
    'a,'.repeat(300),
    '"'.repeat(99),
    '1e999',
    '2031-02-30',
    '9'.repeat(400),
  ]),
  json: fileTarget('json', [
    '[',
    '{',
    ']',
    '}',
    '"',
    ':',
    ',',
    '['.repeat(600),
    '{"a":'.repeat(600),
    '"__proto__":',
    '"constructor":',
    '1e999',
    '-',
    '\\ud800',
    'null',
  ]),
  parquet: fileTarget('parquet', ['PAR1', '\xff\xff\xff\xff\x0f', '\0\0\0\0', '\x15\x80\x80\x80\x80\x10']),
  xlsx: zippedTarget('xlsx', xmlTokens),
  ods: zippedTarget('ods', xmlTokens),
  formula: formulas,
  recipe: recipes,
}
