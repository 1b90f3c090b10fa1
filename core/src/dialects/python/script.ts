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

const imports = [
  'calendar',
  'collections',
  'contextlib',
  'csv',
  'datetime',
  'functools',
  'io',
  'itertools',
  'json',
  'math',
  'os',
  're',
  'sys',
]
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

/** The Python script of a recipe: pandas 1.5 or newer and nothing else, one block a step under its sentence. */
export const pythonScript = (
  recipe: Recipe,
  plan: Plan = planRecipe(recipe),
  { trace = false }: ScriptOptions = {},
): Script => {
  const outputs = scriptOutputs(recipe)
  const blocks = stepBlocks(recipe, plan, trace)
  const inputs = pairs(recipe.inputs.map(({ id, name }) => [id, py`${name}`]))
  const written = pairs(outputs.map(({ table, file }) => [table, py`${file}`]))
  const given = pairs(
    (recipe.parameters ?? []).map(({ name, type, value }) => [
      name,
      py`(${literalPython(value ?? null, type)}, ${type})`,
    ]),
  )
  const start = lines(
    py`files, parameters, NOW, outputs = ${pyHelper('parse_arguments')}(inputs=${inputs}, outputs=${written}, parameters=${given})`,
    code('TODAY = NOW.date()'),
    code(''),
  )
  const tables = pairs(plan.tables.map(({ id }) => [id, variable(id, runtimeNames)]))
  const reported = joined(
    blocks.map(({ step, sentence }) => py`    ${step}: ${sentence},`),
    '\n',
  )
  const end = lines(
    py`tables = ${tables}`,
    py`for table, path in outputs.items():\n    ${pyHelper('write_csv')}(tables[table], path)\n`,
    trace ? py`${pyHelper('write_trace')}(outputs, files)\n` : undefined,
    comment('#', 'What each step left, to standard error'),
    py`${pyHelper('tell_accounts')}({\n${reported}\n})`,
    code(''),
  )
  const body = lines(start, ...blocks.map((block) => block.code), end)
  const usage = `python3 flow.py ${recipe.inputs.map(({ id }) => `--input ${id}=FILE `).join('')}${outputs.map(({ table, file }) => `--output ${table}=${file}`).join(' ')}${trace ? ' --trace-out trace.csv' : ''}`
  const head = scriptHead(recipe, usage, body, trace)
  const parts: ScriptPart[] = [
    { text: lines(head, start).text },
    ...blocks.map(({ step, code: text }) => ({ step, text: text.text })),
    { text: end.text },
  ]
  return { parts, text: parts.map((part) => part.text).join('\n') }
}

type StepBlock = { readonly step: string; readonly sentence: string; readonly code: Code }
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
      blocks.push({ step: step.id, sentence, code: block })
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
  return py`${pyHelper('require')}(${frame}, ${wanted.name}, ${inFile}, ${wanted.columns.map((field) => field.name)})`
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

/** The script up to its first step: usage, imports and the helpers in use. */
function scriptHead(recipe: Recipe, usage: string, body: Code, trace: boolean) {
  const helpers = trace ? allHelpers.map((helper) => ({ ...helper, ...helper.traced })) : allHelpers
  return lines(
    code('#!/usr/bin/env python3'),
    comment('#', recipe.name),
    ...(recipe.about ? [comment('#', recipe.about)] : []),
    comment('#', `Run with: ${usage}`),
    ...csvFirst(recipe, pythonCannotRead).map((line) => comment('#', line)),
    comment(
      '#',
      `Needs pandas 1.5 or newer${recipe.inputs.some((one) => isWorkbook(inputFormat(recipe, one.id))) ? ', and openpyxl for workbooks' : ''}. The steps stand at the end; what comes before are the helpers they use.`,
    ),
    code(
      `${imports.map((name) => `import ${name}`).join('\n')}\nfrom decimal import Decimal, ROUND_DOWN, ROUND_HALF_UP, ROUND_UP\n\nimport numpy as np\nimport pandas as pd\n`,
    ),
    ...neededHelpers(body, helpers).map((block) => code(`${block.source}\n`)),
  )
}
