import { helpers as allHelpers } from '../../codegen/python/helpers.generated.ts'
import { code, comment, joined, lines, py, type Code, pyHelper } from '../../codegen/tag.ts'
import { type Format, isWorkbook } from '../../reading/read-options.ts'
import { scriptOutputs } from '../../recipe/outputs.ts'
import { planRecipe, type Plan } from '../../engine/plan.ts'
import { kindOf, paramsOf, parameterTypes, sentenceText, openedBy } from '../../recipe/step-access.ts'
import { kindsPython, untoldFields } from '../../steps/shared/columns.ts'
import { usedTables } from '../../recipe/used-tables.ts'
import type { Schema } from '../../table/table.ts'
import type { Recipe, Step } from '../../recipe/recipe.ts'
import { tablesRead } from '../inputs.ts'
import { csvFirst, inputFormat } from '../inputs.ts'
import { stepCode, tablesToWrite } from '../script.ts'
import type { Script, ScriptOptions } from '../../codegen/dialect.ts'
import { assembled, columnChecks, importLines, pairs, pythonContext, variable, type StepBlock } from './parts.ts'
import { newcomers, toldSteps } from './told.ts'
import { typeGuards } from './type-guards.ts'

/** The file formats that a Python script cannot read. */
export const pythonCannotRead = ['parquet'] as const satisfies readonly Format[]

/** The last lines of `main`: the tables are written. */
const endCode = (plan: Plan, trace: boolean): Code =>
  lines(
    py`tables = ${pairs(plan.tables.map(({ id }) => [id, variable(id)]))}`,
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
  const end = endCode(plan, trace)
  const helpers = trace ? allHelpers.map((helper) => ({ ...helper, ...helper.traced })) : allHelpers
  const head = (text: string): string => scriptHead(recipe, usageOf(recipe, trace), text)
  return assembled(recipe, { head, blocks: stepBlocks(recipe, plan, trace), end, run: runCode, helpers })
}

/** How a script is called. */
const usageOf = (recipe: Recipe, trace: boolean): string =>
  `python3 flow.py ${recipe.inputs.map(({ id }) => `--input ${id}=FILE `).join('')}${scriptOutputs(recipe)
    .map(({ table, file }) => `--output ${table}=${file}`)
    .join(' ')}${trace ? ' --trace-out trace.csv' : ''}`

/** Helpers that ask what type a column is which may hold no value. */
const askForTypes = new Set(['columns_of_type', 'unpivot', 'transpose', 'fill_empty', 'refuse_type', 'refuse_new'])
/** Before a step that asks for types: those that pandas does not tell of a column without values. */
const emptyKinds = (body: Code, schemas: readonly Schema[]): Code | undefined => {
  const untold = untoldFields(schemas.flat())
  if (untold.length === 0 || !body.helpers.some((name) => askForTypes.has(name))) return undefined
  return py`${pyHelper('known_kinds')}.update(${kindsPython(untold)})`
}

/** Each step under its sentence, in the order in which they run. @throws ScriptError where one is broken */
function stepBlocks(recipe: Recipe, plan: Plan, trace: boolean): StepBlock[] {
  const parameters = parameterTypes(recipe)
  const blocks: StepBlock[] = []
  const guardOf = typeGuards(recipe)
  const told = toldSteps(recipe, plan)
  const { inputs: open, steps: reached } = newcomers(recipe)
  for (const { own, table, steps } of tablesToWrite(recipe, plan)) {
    const frame = variable(table.id)
    for (const { step, input, output } of steps) {
      const context = pythonContext({
        ...{ frame, input, output, parameters, plan, recipe, own, trace, open },
        plain: !trace && told.has(step.id),
        closed: !reached.has(step.id),
      })
      const { body, after } = stepCode(kindOf(step).scripts.python(paramsOf(step), context))
      const schemas = [input, ...usedTables(step).map((id) => plan.tables.find((one) => one.id === id)?.output ?? [])]
      const sentence = sentenceText(step, context.names)
      const guard = guardOf(step, frame)
      const block = lines(
        comment('#', `${step.id}  ${sentence}`),
        ...(step.note ? [comment('#', `note: ${step.note}`)] : []),
        emptyKinds(lines(guard, body), schemas),
        guard,
        body,
        trace ? settled(step, table.id, frame) : undefined,
        columnChecks(recipe, step, frame, after),
        after,
        py`${pyHelper('account')}(${step.id}, ${frame})`,
        code(''),
      )
      blocks.push({ step: step.id, code: block })
    }
  }
  return blocks
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

/** The script up to its story: usage, and imports of what `text` uses. */
const scriptHead = (recipe: Recipe, usage: string, text: string): string => {
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
    ...importLines(text),
  ).text
}
