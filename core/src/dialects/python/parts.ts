import type { Script, ScriptPart } from '../../codegen/dialect.ts'
import type { Helper } from '../../codegen/helper.ts'
import { pythonKeywords } from '../../codegen/python/keywords.ts'
import { neededHelpers } from '../../codegen/helpers.ts'
import type { ParameterTypes } from '../../formula/check.ts'
import { helpers as pythonHelpers } from '../../codegen/python/helpers.generated.ts'
import { helpers as sparkHelpers } from '../../codegen/spark/helpers.generated.ts'
import { code, joined, lines, py, type Code, pyHelper } from '../../codegen/tag.ts'
import { fileColumns } from '../../reading/read-options.ts'
import type { PythonContext } from '../../steps/shared/step-kind.ts'
import { literalPython } from '../../steps/shared/value.ts'
import { scriptOutputs } from '../../recipe/outputs.ts'
import { type Plan } from '../../engine/plan.ts'
import { tableNames, openedBy } from '../../recipe/step-access.ts'
import type { Recipe, RecipeTable, Step } from '../../recipe/recipe.ts'
import { scriptSource } from '../inputs.ts'
import type { Schema } from '../../table/table.ts'
import { wrapLines } from './wrap.ts'

/** Modules of Python that a script may use; it imports those that it does. */
const imports = [
  'argparse',
  'calendar',
  'collections',
  'contextlib',
  'csv',
  'datetime',
  'difflib',
  'functools',
  'io',
  'itertools',
  'json',
  'math',
  'os',
  're',
  'sys',
  'unicodedata',
  'uuid',
  'zipimport',
]
/** What a script may take from modules by name. */
const fromModules: readonly (readonly [module: string, names: readonly string[]])[] = [
  ['collections', ['deque']],
  ['collections.abc', ['Callable']],
  ['decimal', ['ROUND_DOWN', 'ROUND_HALF_UP', 'ROUND_UP', 'Decimal']],
  ['fractions', ['Fraction']],
  ['urllib.parse', ['unquote']],
]
const libraries: readonly (readonly [module: string, names: readonly string[]])[] = [
  ['py4j.protocol', ['Py4JJavaError']],
  ['pyspark', ['AccumulatorParam', 'StorageLevel', 'TaskContext']],
  ['pyspark.errors', ['PySparkException']],
  ['pyspark.sql', ['DataFrame', 'SparkSession', 'Window']],
]
const taken = new Set([
  ...imports,
  ...pythonKeywords,
  'np',
  'pd',
  'files',
  'outputs',
  'parameters',
  'now',
  'main',
  'c',
  'name',
  'fresh',
  'groups',
  'rank',
  'total',
  'print',
  'list',
  'dict',
  'set',
  'open',
  'range',
  'len',
  'sum',
  'min',
  'max',
  'str',
  'int',
  'float',
  'bool',
  'abs',
  'zip',
  'map',
  'sorted',
  'any',
  'all',
  'next',
  'iter',
  'enumerate',
  'type',
  'tuple',
  'isinstance',
  'round',
])

/** A table's id as a Python name that nothing else in the script has. */
export const variable = (table: string): Code => {
  const plain = table.replaceAll('-', '_')
  return code(taken.has(plain) || helperNames.has(plain) ? `${plain}_table` : plain)
}

const helperNames = new Set(
  [...pythonHelpers, ...sparkHelpers].flatMap(
    ({ source, traced }) => `${source}${traced?.source ?? ''}`.match(/[A-Za-z_]\w*/g) ?? [],
  ),
)

/** A dictionary of Python. */
export const pairs = (all: readonly (readonly [string, Code])[]): Code =>
  py`{${joined(
    all.map(([key, value]) => py`${key}: ${value}`),
    ', ',
  )}}`

/** Code without its texts and comments, to look for names in: what users wrote is none. */
const withoutTexts = ({ text }: Code): string => text.replace(/"(?:[^"\\\n]|\\.)*"|#.*/g, '')

/** The first lines of `main`: what the command line gives, as far as `rest` uses it. */
const startCode = (recipe: Recipe, rest: Code): Code => {
  const parameters = recipe.parameters ?? []
  const uses = (name: string): boolean => new RegExp(`\\b${name}\\b`).test(withoutTexts(rest))
  const given = parameters.map(
    ({ name, type, value }) => [name, py`(${literalPython(value ?? null, type)}, ${type})`] as const,
  )
  const names = parameters.length > 0 ? py`, ${parameters.map(({ name }) => name)}` : code('')
  return lines(
    py`inputs = ${pairs(recipe.inputs.map(({ id, name }) => [id, py`${name}`]))}`,
    py`outputs = ${pairs(scriptOutputs(recipe).map(({ table, file }) => [table, py`${file}`]))}`,
    py`${code(uses('files') ? 'files' : '_files')}, outputs = ${pyHelper('read_arguments')}(inputs, outputs${names})`,
    uses('parameters') ? py`parameters = ${pyHelper('read_parameters')}(${pairs(given)})` : undefined,
    uses('now') ? py`now = ${pyHelper('read_now')}()` : undefined,
    code(''),
  )
}

/** Lines of a function's body. Texts in generated code have no line breaks of their own, so every line is one of the code. */
const indented = ({ text }: Code): string => wrapLines(text.replace(/^(?=.)/gm, '    '))

/** Definitions two blank lines apart, as PEP 8 has it; comments belong to what they stand above. */
const spaced = (source: string): string =>
  source.replace(/\n+(?=(?:#.*\n)*(?:def |class |@))/g, '\n\n\n').replace(/(@.*)\n+(?=def )/g, '$1\n')

/** After an `open`: what of the columns that the recipe lists is missing or more; `fresh` are those that are more, where the code behind it asks for them. */
export function columnChecks(recipe: Recipe, step: Step, frame: Code, after?: Code): Code | undefined {
  const opened = openedBy(step)
  const wanted = recipe.inputs.find((one) => one.id === opened?.input)
  if (!wanted?.columns || wanted.columns.length === 0) return undefined
  const inFile = fileColumns(wanted.columns, opened?.read).map((field) => field.name)
  const known = wanted.columns.map((field) => field.name)
  const beside = known.length > inFile.length ? py`, ${known}` : code('')
  const fresh = code(after && /\bfresh\b/.test(withoutTexts(after)) ? 'fresh = ' : '')
  return py`${fresh}${pyHelper('require')}(${frame}, ${wanted.name}, ${inFile}${beside})`
}

/** Where a step stands, for its code. */
export type PythonPlace = {
  readonly frame: Code
  readonly input: Schema
  readonly output: Schema
  readonly parameters: ParameterTypes
  readonly plan: Plan
  readonly recipe: Recipe
  readonly own: RecipeTable
  readonly trace: boolean
  readonly plain?: boolean
  readonly closed?: boolean
  /** The inputs of which a new column makes a difference; all where nothing is said. */ readonly open?: ReadonlySet<string>
}
/** What a step’s Python is written with at its place. */
export function pythonContext({
  frame,
  input,
  output,
  parameters,
  plan,
  recipe,
  own,
  trace,
  plain = false,
  closed = false,
  open,
}: PythonPlace): PythonContext {
  return {
    frame,
    input,
    output,
    parameters,
    parameter: (name) => py`parameters[${name}]`,
    renumbered: (rows) => (trace ? py`${pyHelper('followed')}(${rows})` : py`${rows}.reset_index(drop=True)`),
    table: (one) => ({
      frame: variable(one),
      columns: plan.tables.find(({ id }) => id === one)?.output ?? [],
    }),
    names: tableNames(recipe, own),
    own: own.id,
    source: (one) => ({
      files: py`files[${one}]`,
      ...scriptSource(recipe, one, output),
      open: open?.has(one) ?? true,
    }),
    plain,
    closed,
    follows: trace,
  }
}

/** The imports of what `text` uses: the standard library, then what is installed. */
export const importLines = (text: string): Code[] => {
  const uses = (name: string): boolean => new RegExp(`(?<![.\\w])${name}\\.`).test(text)
  const named = ([module, names]: (typeof fromModules)[number]): Code[] => {
    const used = names.filter((name) => new RegExp(`(?<![.\\w])${name}\\b`).test(text))
    return used.length > 0 ? [code(`from ${module} import ${used.join(', ')}`)] : []
  }
  const short = (name: string, line: string): Code[] => (uses(name) ? [code(line)] : [])
  return [
    ...imports.filter(uses).map((name) => code(`import ${name}`)),
    ...fromModules.flatMap(named),
    code(''),
    ...short('np', 'import numpy as np'),
    ...short('pd', 'import pandas as pd'),
    ...libraries.flatMap(named),
    ...short('F', 'from pyspark.sql import functions as F'),
    ...short('T', 'from pyspark.sql import types as T'),
  ]
}

/** A step of `main`, under its sentence. */
export type StepBlock = { readonly step: string; readonly code: Code }
/** What a script is put together of; `head` gives its first lines, by all that stands below them. */
type ScriptPieces = {
  readonly head: (text: string) => string
  readonly blocks: readonly StepBlock[]
  readonly end: Code
  readonly run: Code
  readonly helpers: readonly Helper[]
}
/** A script: `main`, which is the story, then the helpers in use, then what runs it. */
export const assembled = (recipe: Recipe, { head, blocks, end, run, helpers }: ScriptPieces): Script => {
  const story = joined([...blocks.map((block) => block.code), end], '\n')
  const start = startCode(recipe, story)
  const body = lines(start, story, run)
  const sources = neededHelpers(body, helpers)
    .map(({ source }) => spaced(source))
    .join('\n\n\n')
  const parts: ScriptPart[] = [
    { text: `${head(`${withoutTexts(body)}\n${sources}`)}\n\n\ndef main():\n${indented(start)}` },
    ...blocks.map(({ step, code: block }) => ({ step, text: indented(block) })),
    { text: `${indented(end)}\n\n\n${sources}\n\n\n${run.text}` },
  ]
  return { parts, text: parts.map((part) => part.text).join('\n') }
}
