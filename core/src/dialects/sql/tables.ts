import { code, comment, id, joined, lines, psql, psqlVariable, sql, type Code } from '../../codegen/tag.ts'
import { TooLong } from '../../codegen/regex/program.ts'
import type { Plan } from '../../engine/plan.ts'
import { sqlTypeName } from '../../formula/to-code.ts'
import { rectangleOf } from '../../reading/sheet-range.ts'
import type { Recipe, RecipeTable, Step } from '../../recipe/recipe.ts'
import { kindOf, openedBy, parameterTypes, paramsOf, sentenceText, tableNames } from '../../recipe/step-access.ts'
import { sheetRowsSql } from '../../steps/open/index.ts'
import type { SqlContext } from '../../steps/shared/step-kind.ts'
import { ownValue } from '../../table/own.ts'
import type { Schema } from '../../table/table.ts'
import { csvColumns, scriptSource, tablesRead } from '../inputs.ts'
import { ScriptError, stepCode, tablesToWrite } from '../script.ts'
import type { ScriptVariables } from './variables.ts'

/** The tables of a recipe in SQL. */
export type WrittenTables = {
  readonly blocks: { readonly step?: string; readonly code: Code }[]
  /** What says how many rows each step left. */
  readonly accounts: Code[]
  /** The last view of each table. */
  readonly last: Map<string, { readonly view: Code; readonly names: readonly string[] }>
  /** By table, the view of the rows of the inputs that its rows were made of. */
  readonly sources: Map<string, Code>
}

/** Each step as a temporary table; with `trace`, beside each that moves rows a table of what they were made of. */
export function writeTables(
  recipe: Recipe,
  plan: Plan,
  column: (name: string) => Code,
  variables: ScriptVariables,
  trace: boolean,
): WrittenTables {
  const written: WrittenTables = { blocks: [], accounts: [], last: new Map(), sources: new Map() }
  const { blocks, accounts, last, sources } = written
  for (const { own, table, steps } of tablesToWrite(recipe, plan)) {
    let from = code('nothing')
    /** Whether `from` is a step of this table, which only its next step reads. */
    let held = false
    for (const { step, input, output } of steps) {
      const name = `${table.id.replaceAll('-', '_')}_${step.id.replaceAll('-', '_')}`
      const view = id(name)
      const context = sqlContext({ from, made: view, input, output, column, last, plan, recipe, own, variables })
      const { body, after } = writtenSql(step, context)
      const words = `${step.id}  ${sentenceText(step, context.names)}`
      const moved = trace ? sourcesSql(recipe, table.id, step, context, view, sources) : undefined
      const sourceView = id(`${name}_sources`)
      if (moved) sources.set(table.id, sourceView)
      // upper case, which no variable of an input, a table or a parameter has
      const count = `N_${name.replace(/\W/g, '_')}`
      blocks.push({
        step: step.id,
        code: lines(
          comment('--', words),
          ...(step.note ? [comment('--', `note: ${step.note}`)] : []),
          sql`create temp table ${view} as\n${body};\n`,
          after,
          sql`select count(*) as ${id(count)} from ${view} ${psql('gset')}`,
          moved && sql`create temp table ${sourceView} as\n${moved};`,
          held ? sql`drop table ${from};\n` : code(''),
        ),
      })
      accounts.push(psql('warn', psqlVariable(count, false), code('rows'), words))
      from = view
      held = true
    }
    last.set(table.id, { view: from, names: (table.output ?? []).map((field) => field.name) })
  }
  return written
}

/** A step in SQL. @throws ScriptError where a pattern cannot be written */
function writtenSql(step: Step, context: SqlContext): { readonly body: Code; readonly after?: Code } {
  try {
    return stepCode(kindOf(step).scripts.sql(paramsOf(step), context))
  } catch (error) {
    if (error instanceof TooLong) throw new ScriptError(`Step ${step.id}: ${error.message}.`)
    throw error
  }
}

/** The rows of the inputs that the rows after a step were made of: "¶", place and name of the input, file, line. Undefined where they are those before it. */
function sourcesSql(
  recipe: Recipe,
  table: string,
  step: Step,
  context: SqlContext,
  view: Code,
  sources: ReadonlyMap<string, Code>,
): Code | undefined {
  const opened = openedBy(step)
  if (opened) {
    const place = recipe.inputs.findIndex((one) => one.id === opened.input)
    const area = opened.read?.range === undefined ? undefined : rectangleOf(opened.read.range)
    const above = (area?.top ?? 1) - 1
    return sql`select r."¶", ${place} as place, ${opened.input} as input, r.file, r.line + ${above} as line\nfrom ${sheetRowsSql(opened, context.source)}`
  }
  const read = tablesRead(step, table)
  if (read.length === 0)
    return sql`select "¶", ${recipe.inputs.length} as place, ${table} as input, ${code('null::int')} as file, "¶" as line\nfrom ${view}`
  const maps = kindOf(step).scripts.sqlRows?.(paramsOf(step), context)
  const madeOf = (one: string): Code => sources.get(one) ?? code('nothing')
  if (!maps) return kindOf(step).start ? sql`select * from ${madeOf(read[0] ?? '')}` : undefined
  return joined(
    maps.map(
      (map) =>
        sql`select distinct m."¶", s.place, s.input, s.file, s.line\nfrom (${map.rows}) m join ${madeOf(map.table ?? table)} s on s."¶" = m.was`,
    ),
    '\nunion\n',
  )
}

/** Where a step stands, for its code. */
type SqlPlace = {
  readonly from: Code
  readonly made: Code
  readonly input: Schema
  readonly output: Schema
  readonly column: (name: string) => Code
  readonly last: WrittenTables['last']
  readonly plan: Plan
  readonly recipe: Recipe
  readonly own: RecipeTable
  readonly variables: ScriptVariables
}
function sqlContext({ from, made, input, output, column, last, plan, recipe, own, variables }: SqlPlace): SqlContext {
  const parameters = parameterTypes(recipe)
  return {
    from,
    made,
    input,
    output,
    parameters,
    column,
    table: (one) => ({
      rows: last.get(one)?.view ?? code('nothing'),
      columns: plan.tables.find((other) => other.id === one)?.output ?? [],
    }),
    names: tableNames(recipe, own),
    own: own.id,
    parameter: (name) =>
      sql`nullif(${psqlVariable(variables.parameter(name))}, '')::${sqlTypeName(ownValue(parameters, name) ?? 'text')}`,
    source: (one) => ({ rows: sql`${one}`, inFile: csvColumns(recipe, one), ...scriptSource(recipe, one, output) }),
  }
}
