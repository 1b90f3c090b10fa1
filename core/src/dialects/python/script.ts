import type { ParameterTypes } from '../../formula/check.ts'
import { neededHelpers } from '../../codegen/helpers.ts'
import { helpers as allHelpers } from '../../codegen/python/helpers.generated.ts'
import { code, comment, joined, lines, py, type Code, pyHelper } from '../../codegen/tag.ts'
import { type Format, fileColumns, isWorkbook } from '../../reading/read-options.ts'
import type { PythonContext } from '../../steps/shared/step-kind.ts'
import { literalPython } from '../../steps/shared/value.ts'
import { scriptOutputs } from '../../recipe/outputs.ts'
import { planRecipe, type Plan } from '../../engine/plan.ts'
import {
  inOrder,
  kindOf,
  paramsOf,
  parameterTypes,
  tableNames,
  sentenceText,
  openedBy,
} from '../../recipe/step-access.ts'
import type { Recipe, RecipeTable, Step } from '../../recipe/recipe.ts'
import { tablesRead } from '../inputs.ts'
import { csvFirst, inputFormat, scriptSource } from '../inputs.ts'
import { ScriptError, stepCode } from '../script.ts'
import type { Script, ScriptOptions, ScriptPart } from '../../codegen/dialect.ts'
import type { Schema } from '../../table/table.ts'

/** The file formats that a Python script cannot read. */
export const pythonCannotRead = ['parquet'] as const satisfies readonly Format[]

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
]
/** What a script may take from `decimal`. */
const fromDecimal = ['ROUND_DOWN', 'ROUND_HALF_UP', 'ROUND_UP', 'Decimal']
const taken = new Set([
  ...imports,
  'and',
  'as',
  'assert',
  'async',
  'await',
  'break',
  'class',
  'continue',
  'def',
  'del',
  'elif',
  'else',
  'except',
  'finally',
  'for',
  'from',
  'global',
  'if',
  'import',
  'in',
  'is',
  'lambda',
  'nonlocal',
  'not',
  'or',
  'pass',
  'raise',
  'return',
  'try',
  'while',
  'with',
  'yield',
  'np',
  'pd',
  'files',
  'outputs',
  'parameters',
  'now',
  'main',
  'c',
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
const variable = (table: string, runtime: ReadonlySet<string>): Code => {
  const plain = table.replaceAll('-', '_')
  return code(taken.has(plain) || runtime.has(plain) ? `${plain}_table` : plain)
}

const runtimeNames = new Set(
  allHelpers.flatMap(({ source, traced }) => `${source}${traced?.source ?? ''}`.match(/[A-Za-z_]\w*/g) ?? []),
)

/** A dictionary of Python. */
const pairs = (all: readonly (readonly [string, Code])[]): Code =>
  py`{${joined(
    all.map(([key, value]) => py`${key}: ${value}`),
    ', ',
  )}}`

/** Code without its texts and comments, to look for names in: what users wrote is none. */
const withoutTexts = ({ text }: Code): string => text.replace(/"(?:[^"\\\n]|\\.)*"|#.*/g, '')

/** The first lines of `main`: what the command line gives. A name that `rest` does not use begins with a low line, by which linters tell it. */
const startCode = (recipe: Recipe, rest: Code): Code => {
  const given = (recipe.parameters ?? []).map(
    ({ name, type, value }) => [name, py`(${literalPython(value ?? null, type)}, ${type})`] as const,
  )
  const names = ['files', 'parameters', 'now'].map((name) =>
    new RegExp(`\\b${name}\\b`).test(withoutTexts(rest)) ? name : `_${name}`,
  )
  return lines(
    py`inputs = ${pairs(recipe.inputs.map(({ id, name }) => [id, py`${name}`]))}`,
    py`outputs = ${pairs(scriptOutputs(recipe).map(({ table, file }) => [table, py`${file}`]))}`,
    py`${code(names.join(', '))}, outputs = ${pyHelper('read_arguments')}(inputs, outputs, ${pairs(given)})`,
    code(''),
  )
}

/** The last lines of `main`: the tables are written. */
const endCode = (plan: Plan, trace: boolean): Code =>
  lines(
    py`tables = ${pairs(plan.tables.map(({ id }) => [id, variable(id, runtimeNames)]))}`,
    py`for table, path in outputs.items():\n    ${pyHelper('write_csv')}(tables[table], path)`,
    trace ? py`${pyHelper('write_trace')}(outputs, files)` : undefined,
  )

/** What a script does when it is run: `main`, and a sentence where a file fails. */
const runCode = lines(
  code('if __name__ == "__main__":'),
  code('    try:'),
  code('        main()'),
  code('    except (OSError, UnicodeError) as error:'),
  py`        ${pyHelper('stop')}(6, f${'A file could not be read or written: {error}'})`,
  code(''),
)

/** The Python script of a recipe, for pandas 1.5 or newer: `main`, which is the story with one block a step under its sentence, then the helpers in use. */
export const pythonScript = (
  recipe: Recipe,
  plan: Plan = planRecipe(recipe),
  { trace = false }: ScriptOptions = {},
): Script => {
  const blocks = stepBlocks(recipe, plan, trace)
  const end = endCode(plan, trace)
  const story = joined([...blocks.map((block) => block.code), end], '\n')
  const start = startCode(recipe, story)
  const body = lines(start, story, runCode)
  const needed = neededHelpers(body, trace ? allHelpers.map((helper) => ({ ...helper, ...helper.traced })) : allHelpers)
  const helpers = needed.map(({ source }) => spaced(source)).join('\n\n\n')
  const head = scriptHead(recipe, usageOf(recipe, trace), `${withoutTexts(body)}\n${helpers}`)
  const parts: ScriptPart[] = [
    { text: `${head}\n\n\ndef main():\n${indented(start)}` },
    ...blocks.map(({ step, code: block }) => ({ step, text: indented(block) })),
    { text: `${indented(end)}\n\n\n${helpers}\n\n\n${runCode.text}` },
  ]
  return { parts, text: parts.map((part) => part.text).join('\n') }
}

/** How a script is called. */
const usageOf = (recipe: Recipe, trace: boolean): string =>
  `python3 flow.py ${recipe.inputs.map(({ id }) => `--input ${id}=FILE `).join('')}${scriptOutputs(recipe)
    .map(({ table, file }) => `--output ${table}=${file}`)
    .join(' ')}${trace ? ' --trace-out trace.csv' : ''}`

/** Lines of a function's body. Texts in generated code have no line breaks of their own, so every line is one of the code. */
const indented = ({ text }: Code): string => text.replace(/^(?=.)/gm, '    ')

/** Definitions two blank lines apart, as PEP 8 has it; comments belong to what they stand above. */
const spaced = (source: string): string =>
  source.replace(/\n+(?=(?:#.*\n)*(?:def |class |@))/g, '\n\n\n').replace(/(@.*)\n+(?=def )/g, '$1\n')

type StepBlock = { readonly step: string; readonly code: Code }
/** Each step under its sentence, in the order in which they run. @throws ScriptError where one is broken */
function stepBlocks(recipe: Recipe, plan: Plan, trace: boolean): StepBlock[] {
  const parameters = parameterTypes(recipe)
  const blocks: StepBlock[] = []
  for (const own of inOrder(recipe)) {
    const table = plan.tables.find(({ id }) => id === own.id)
    if (!table) continue
    const frame = variable(table.id, runtimeNames)
    for (const { step, state, input, output } of table.steps) {
      if (state === 'off') continue
      if (state !== 'fine') throw new ScriptError(`Step ${step.id} is broken; mend it before making a script.`)
      const context = pythonContext({ frame, input, output, parameters, plan, recipe, own, trace })
      const { body, after } = stepCode(kindOf(step).scripts.python(paramsOf(step), context))
      const sentence = sentenceText(step, context.names)
      const block = lines(
        comment('#', `${step.id}  ${sentence}`),
        ...(step.note ? [comment('#', `note: ${step.note}`)] : []),
        body,
        after,
        trace ? settled(step, table.id, frame) : undefined,
        columnChecks(recipe, step, frame),
        py`${pyHelper('account')}(${step.id}, ${frame})`,
        code(''),
      )
      blocks.push({ step: step.id, code: block })
    }
  }
  return blocks
}

/** After an `open`: what of the columns that the recipe lists is missing or more. */
function columnChecks(recipe: Recipe, step: Step, frame: Code): Code | undefined {
  const opened = openedBy(step)
  const wanted = recipe.inputs.find((one) => one.id === opened?.input)
  if (!wanted?.columns || wanted.columns.length === 0) return undefined
  const inFile = fileColumns(wanted.columns, opened?.read).map((field) => field.name)
  const known = wanted.columns.map((field) => field.name)
  const beside = known.length > inFile.length ? py`, ${known}` : code('')
  return py`${pyHelper('require')}(${frame}, ${wanted.name}, ${inFile}${beside})`
}

/** After a step of a traced script: the sources of the table's rows, from those of the tables that it read. */
function settled(step: Step, table: string, frame: Code): Code {
  const opened = openedBy(step)?.input
  if (opened !== undefined) return py`${pyHelper('settle')}(${table}, opened=${opened})`
  const read = tablesRead(step, table)
  if (read.length === 0) return py`${pyHelper('settle')}(${table}, entered=len(${frame}))`
  return py`${pyHelper('settle')}(${table}, ${joined(
    read.map((one) => py`${one}`),
    ', ',
  )})`
}

/** Where a step stands, for its code. */
type PythonPlace = {
  readonly frame: Code
  readonly input: Schema
  readonly output: Schema
  readonly parameters: ParameterTypes
  readonly plan: Plan
  readonly recipe: Recipe
  readonly own: RecipeTable
  readonly trace: boolean
}
function pythonContext({ frame, input, output, parameters, plan, recipe, own, trace }: PythonPlace): PythonContext {
  return {
    frame,
    input,
    output,
    parameters,
    parameter: (name) => py`parameters[${name}]`,
    renumbered: (rows) => (trace ? py`${pyHelper('followed')}(${rows})` : py`${rows}.reset_index(drop=True)`),
    table: (one) => ({
      frame: variable(one, runtimeNames),
      columns: plan.tables.find(({ id }) => id === one)?.output ?? [],
    }),
    names: tableNames(recipe, own),
    own: own.id,
    source: (one) => ({ files: py`files[${one}]`, ...scriptSource(recipe, one, output) }),
  }
}

/** The script up to its story: usage, and imports of what `text` uses. */
const scriptHead = (recipe: Recipe, usage: string, text: string): string => {
  const uses = (name: string): boolean => new RegExp(`(?<![.\\w])${name}\\.`).test(text)
  const decimals = fromDecimal.filter((name) => new RegExp(`\\b${name}\\b`).test(text))
  const workbooks = recipe.inputs.some((one) => isWorkbook(inputFormat(recipe, one.id)))
  return lines(
    comment('#', recipe.name),
    ...(recipe.about ? [comment('#', recipe.about)] : []),
    comment('#', `Run with: ${usage}`),
    ...csvFirst(recipe, pythonCannotRead).map((line) => comment('#', line)),
    comment(
      '#',
      `Needs pandas 1.5 or newer${workbooks ? ', and openpyxl for workbooks' : ''}. The story is main(); what pandas does not say exactly stands below it.`,
    ),
    ...imports.filter(uses).map((name) => code(`import ${name}`)),
    ...(decimals.length > 0 ? [code(`from decimal import ${decimals.join(', ')}`)] : []),
    code(''),
    ...(uses('np') ? [code('import numpy as np')] : []),
    code('import pandas as pd'),
  ).text
}
