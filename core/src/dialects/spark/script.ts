import type { Helper } from '../../codegen/helper.ts'
import { helpers as pythonHelpers } from '../../codegen/python/helpers.generated.ts'
import { helpers as ownHelpers } from '../../codegen/spark/helpers.generated.ts'
import { code, comment, lines, py, sparkHelper, Code, pyHelper } from '../../codegen/tag.ts'
import type { Script, ScriptOptions } from '../../codegen/dialect.ts'
import type { Format } from '../../reading/read-options.ts'
import { kindsPython, untoldFields } from '../../steps/shared/columns.ts'
import type { PythonContext } from '../../steps/shared/step-kind.ts'
import { scriptOutputs } from '../../recipe/outputs.ts'
import { planRecipe, type Plan, type PlannedStep } from '../../engine/plan.ts'
import { kindOf, paramsOf, parameterTypes, sentenceText } from '../../recipe/step-access.ts'
import type { Recipe, Step } from '../../recipe/recipe.ts'
import type { Schema } from '../../table/table.ts'
import { csvFirst } from '../inputs.ts'
import {
  assembled,
  columnChecks,
  importLines,
  pairs,
  pythonContext,
  variable,
  type StepBlock,
} from '../python/parts.ts'
import { typeGuards } from '../python/type-guards.ts'
import { ScriptError, stepCode, tablesToWrite } from '../script.ts'

/** The file formats that a Spark script cannot read. */
export const sparkCannotRead = ['xlsx', 'ods', 'json'] as const satisfies readonly Format[]

/** The helpers of Python, as they are where rows are followed, with the files of Spark in place of those of the same name. */
export const sparkHelpers: readonly Helper[] = (() => {
  const ownFile = (file: string | undefined) => ownHelpers.filter((helper) => helper.file === file)
  const files = new Set(pythonHelpers.map(({ file }) => file))
  const placed = new Set<string>()
  const shared = pythonHelpers.flatMap((helper) => {
    const own = ownFile(helper.file)
    if (own.length === 0) return [{ ...helper, ...helper.traced }]
    if (placed.has(helper.file ?? '')) return []
    placed.add(helper.file ?? '')
    return own
  })
  return [...shared, ...ownHelpers.filter(({ file }) => !files.has(file))]
})()

/** The types of columns that a step makes or changes, where pandas does not tell them. */
const toldKinds = (input: Schema, output: Schema): Code => {
  const made = untoldFields(output).filter(
    ({ name, type }) => !input.some((field) => field.name === name && field.type === type),
  )
  return made.length === 0 ? code('') : py`, ${kindsPython(made)}`
}

/** Code one level deeper; texts in it have no line breaks. */
const inset = ({ parts }: Code): Code =>
  new Code('    ', ...parts.map((part) => (typeof part === 'string' ? part.replaceAll('\n', '\n    ') : part)))

/** A step's Python as a function of some rows, run over all parts of the table. */
const overRows = (step: Step, body: Code, repeats: boolean, { frame, input, output }: PythonContext): Code => {
  const name = code(`step_${step.id.replaceAll(/\W/g, '_')}`)
  return lines(
    py`def ${name}(${frame}):`,
    inset(body),
    py`    return ${frame}`,
    code(''),
    py`${frame} = ${sparkHelper('by_rows')}(${frame}, ${name}${toldKinds(input, output)}${repeats ? code(', repeats=True') : code('')})`,
  )
}

const stepPython = (step: Step, context: PythonContext): Code => {
  const { spark = 'rows', python } = kindOf(step).scripts
  const form = typeof spark === 'function' ? spark(paramsOf(step), context) : spark
  if (typeof form !== 'string') return form
  const whole = form === 'table'
  const { body } = stepCode(python(paramsOf(step), whole ? { ...context, renumbered: (rows) => rows } : context))
  return whole ? body : overRows(step, body, form === 'repeats', context)
}

const stepBlock = (
  recipe: Recipe,
  { step }: PlannedStep,
  context: PythonContext,
  guard: Code | undefined,
): StepBlock => ({
  step: step.id,
  code: lines(
    comment('#', `${step.id}  ${sentenceText(step, context.names)}`),
    ...(step.note ? [comment('#', `note: ${step.note}`)] : []),
    guard,
    stepPython(step, context),
    columnChecks(recipe, step, context.frame),
    py`${context.frame} = ${pyHelper('account')}(${step.id}, ${context.frame})`,
    code(''),
  ),
})

/** Each step under its sentence, in the order in which they run. @throws ScriptError where one is broken */
const stepBlocks = (recipe: Recipe, plan: Plan): StepBlock[] => {
  const parameters = parameterTypes(recipe)
  const guardOf = typeGuards(recipe)
  return tablesToWrite(recipe, plan).flatMap(({ own, steps }) =>
    steps.map((planned) => {
      const { input, output } = planned
      const frame = variable(own.id)
      const context = pythonContext({ frame, input, output, parameters, plan, recipe, own, trace: true })
      return stepBlock(recipe, planned, asCsv(context), guardOf(planned.step, frame))
    }),
  )
}

/** What is no text file is given as the CSV that was made of it. */
const asCsv = (context: PythonContext): PythonContext => ({
  ...context,
  source: (input) => {
    const source = context.source(input)
    return { ...source, format: source.format === 'csv' ? 'csv' : 'parquet' }
  },
})

/** The last lines of `main`: the tables are written, then said what was counted on the way. */
const endCode = (plan: Plan): Code =>
  lines(
    py`tables = ${pairs(plan.tables.map(({ id }) => [id, variable(id)]))}`,
    py`for table, path in outputs.items():\n    ${sparkHelper('write_table')}(tables[table], path)`,
    py`${sparkHelper('tell_unread')}()`,
    py`${sparkHelper('tell_accounts')}()`,
  )

const runCode = lines(code('if __name__ == "__main__":'), py`    ${sparkHelper('run')}(main)`, code(''))

const usageOf = (recipe: Recipe): string =>
  `spark-submit flow.py ${recipe.inputs.map(({ id }) => `--input ${id}=PATH `).join('')}${scriptOutputs(recipe)
    .map(({ table, file }) => `--output ${table}=${file}`)
    .join(' ')}`

const scriptHead = (recipe: Recipe, text: string): string =>
  lines(
    comment('#', recipe.name),
    ...(recipe.about ? [comment('#', recipe.about)] : []),
    comment('#', `Run with: ${usageOf(recipe)}`),
    ...csvFirst(recipe, sparkCannotRead).map((line) => comment('#', line)),
    comment(
      '#',
      'Needs Spark 3.5 or newer, with pandas and pyarrow on its workers. A PATH is a file, pattern or folder, as Spark reads them.',
    ),
    comment(
      '#',
      'The story is main(). Steps that look at one row are Python over some rows at a time; the others are done by Spark, in the functions below.',
    ),
    ...importLines(text),
  ).text

/** The PySpark script of a recipe: `main`, which is the story with one block a step under its sentence, then the helpers in use. */
export const sparkScript = (
  recipe: Recipe,
  plan: Plan = planRecipe(recipe),
  { trace = false }: ScriptOptions = {},
): Script => {
  if (trace)
    throw new ScriptError(
      'A script for Spark does not follow rows to their sources. Leave --trace out, or make it for Python or SQL.',
    )
  const head = (text: string): string => scriptHead(recipe, text)
  return assembled(recipe, {
    head,
    blocks: stepBlocks(recipe, plan),
    end: endCode(plan),
    run: runCode,
    helpers: sparkHelpers,
  })
}
