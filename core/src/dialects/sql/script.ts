import type { Script, ScriptOptions, ScriptPart } from '../../codegen/dialect.ts'
import type { Helper } from '../../codegen/helper.ts'
import { neededHelpers } from '../../codegen/helpers.ts'
import { helpers } from '../../codegen/sql/helpers.generated.ts'
import {
  code,
  comment,
  id,
  joined,
  lines,
  psql,
  psqlVariable,
  sql,
  type Code,
  type PsqlVariable,
} from '../../codegen/tag.ts'
import { planRecipe, type Plan } from '../../engine/plan.ts'
import type { Format } from '../../reading/read-options.ts'
import { scriptOutputs } from '../../recipe/outputs.ts'
import type { Recipe } from '../../recipe/recipe.ts'
import { kindOf, paramsOf } from '../../recipe/step-access.ts'
import { csvFirst } from '../inputs.ts'
import { ScriptError } from '../script.ts'
import { scriptVariables, type ScriptVariables } from './variables.ts'
import { ending, ifGiven, ownPath, readPath, unlessGiven } from './given.ts'
import { loadInputs } from './loading.ts'
import { writeOutputs, writeSources } from './outputs.ts'
import { writeTables } from './tables.ts'

/** The file formats that an SQL script cannot read. */
export const sqlCannotRead = ['xlsx', 'ods', 'json', 'parquet'] as const satisfies readonly Format[]

/** What psql is to do, in order: one of its commands, or SQL up to the next command with the variables in it. */
export type ScriptCommand =
  | { readonly kind: 'command'; readonly name: string; readonly words: readonly Code[] }
  | { readonly kind: 'sql'; readonly parts: readonly (string | PsqlVariable)[] }
/** An SQL script with the psql commands that load files and write outputs. */
export type SqlScript = Script & { readonly commands: readonly ScriptCommand[] }

/** A script as the list of its commands, kept apart by how each was made, not by what it looks like. */
const commandsOf = (script: Code): ScriptCommand[] => {
  const commands: ScriptCommand[] = []
  let sqlParts: (string | PsqlVariable)[] = []
  const close = (): void => {
    if (sqlParts.some((part) => typeof part !== 'string' || part.trim() !== ''))
      commands.push({ kind: 'sql', parts: sqlParts })
    sqlParts = []
  }
  for (const part of script.parts) {
    if (typeof part === 'string' || 'variable' in part) sqlParts.push(part)
    else if ('helper' in part) sqlParts.push(part.helper)
    else {
      close()
      commands.push({ kind: 'command', name: part.command, words: part.words })
    }
  }
  close()
  return commands
}

/** PostgreSQL cuts names at 63 bytes; longer ones get a short one of their own here, and their full name in the header. */
const namer = (): ((name: string) => Code) => {
  const known = new Map<string, string>()
  const taken = new Set<string>()
  return (name) => {
    let short = known.get(name)
    if (short === undefined) {
      const plain = new TextEncoder().encode(name).length <= 63 && !name.startsWith('¶')
      const stem = plain ? name : Array.from(name).slice(0, 12).join('')
      short = stem
      for (let n = 2; taken.has(short) || (n === 2 && !plain); n++) short = `${stem}…${n}`
      known.set(name, short)
      taken.add(short)
    }
    return id(short)
  }
}

/** Steps whose columns were found in the data. */
const foundSteps = (plan: Plan): string[] =>
  plan.tables.flatMap(({ steps }) =>
    steps.flatMap(({ step, state, input }) =>
      state === 'fine' && kindOf(step).dynamicColumns?.(paramsOf(step), input) !== undefined ? [step.id] : [],
    ),
  )

const pinned = (recipe: Recipe, plan: Plan): string[] => {
  const found = foundSteps(plan)
  const rules = recipe.tables.some(({ steps }) =>
    steps.some((step) => !step.off && /"(?:all|except|like|type|any)":/.test(JSON.stringify(paramsOf(step)))),
  )
  return [
    'The columns of each input are pinned to those the recipe lists; what else a file holds is passed over.',
    ...(rules ? ['Rules that choose columns (all but…, like…, of a type) are pinned to the columns known now.'] : []),
    ...(found.length > 0
      ? [
          `The columns that ${found.join(', ')} made from the data are pinned to those of the files this script was made with.`,
        ]
      : []),
  ]
}

/** The SQL script of a recipe: PostgreSQL 15 or newer, run with psql, every step a temporary table, all in one transaction that is rolled back. */
export const sqlScript = (
  recipe: Recipe,
  plan: Plan = planRecipe(recipe),
  { trace = false }: ScriptOptions = {},
): SqlScript => {
  requirePlanned(recipe, plan)
  const column = namer()
  const outputs = scriptOutputs(recipe)
  const variables = scriptVariables(recipe)
  const { blocks, accounts, last, sources } = writeTables(recipe, plan, column, variables, trace)
  const loads = loadInputs(recipe, variables)
  const writes = [
    ...writeOutputs(outputs, last, column, variables),
    ...(trace ? [writeSources(outputs, last, sources)] : []),
  ]
  const { needs, defaults } = variableChecks(recipe, variables)
  const usage = `psql -X -v ON_ERROR_STOP=1 ${recipe.inputs.map(({ id: one }) => `-v ${variables.input(one)}=FILE `).join('')}${outputs.map(({ table, file }) => `-v ${variables.output(table)}=${file} `).join('')}${trace ? '-v trace_out=trace.csv ' : ''}-f flow.sql`
  const body = lines(...loads, ...blocks.map((block) => block.code), ...writes)
  const runtime = neededHelpers(body, helpers)
  const head = scriptHead(recipe, [usage, listOf(recipe, variables)], plan, needs, defaults, runtime)
  const counts = lines(
    comment('--', 'What each step left, to standard error; -v quiet=1 leaves it out, and the time it takes to count'),
    unlessGiven('quiet', lines(...accounts)),
    ending,
  )
  const pieces: { step?: string; code: Code }[] = [
    { code: lines(head, ...loads) },
    ...blocks,
    { code: lines(...writes, counts) },
  ]
  const parts = pieces.map(({ step, code: made }): ScriptPart => ({ ...(step ? { step } : {}), text: made.text }))
  return {
    parts,
    text: parts.map((part) => part.text).join('\n'),
    commands: commandsOf(
      joined(
        pieces.map((piece) => piece.code),
        '\n',
      ),
    ),
  }
}

/** @throws ScriptError where the columns of an input or a table are not known. */
function requirePlanned(recipe: Recipe, plan: Plan) {
  const bare = recipe.inputs.find(({ columns }) => !columns || columns.length === 0)
  if (bare)
    throw new ScriptError(
      `The recipe does not list the columns of ${bare.name}, which a SQL script needs. Open the recipe in Fabula once, or write them under inputs.`,
    )
  const unsure = plan.tables.find((table) => table.unsure)
  if (unsure)
    throw new ScriptError(
      `Only the files can tell which columns ${unsure.name} has, and SQL needs to know them. Give the files too: --input NAME=FILE for each input.`,
    )
}

/** At the start of the script: defaults of parameters that are not given, and an error for each input that is not. */
function variableChecks(recipe: Recipe, variables: ScriptVariables) {
  const defaults = (recipe.parameters ?? []).map(({ name, value }) =>
    unlessGiven(
      variables.parameter(name),
      psql('set', code(variables.parameter(name)), value === null || value === undefined ? '' : String(value)),
    ),
  )
  const needs = recipe.inputs.map(({ id: one, name }) =>
    unlessGiven(
      variables.input(one),
      unlessGiven(
        variables.inputTable(one),
        lines(
          psql('warn', `Say which file is ${name}: psql -v ${variables.input(one)}=FILE`),
          code("do $$ begin raise exception 'an input is missing'; end $$;"),
        ),
      ),
    ),
  )
  return { needs, defaults }
}

/** The names of a script's variables, for its top. */
const listOf = (recipe: Recipe, variables: ScriptVariables): string =>
  `Variables: ${[
    ...recipe.inputs.map(
      ({ id: one }) =>
        `${variables.input(one)}, ${variables.input(one, 2)} … for files of ${one}, or ${variables.inputTable(one)} for a table of the database`,
    ),
    ...(recipe.parameters ?? []).map(({ name }) => `${variables.parameter(name)} for ${name}`),
    ...scriptOutputs(recipe).map(
      ({ table }) =>
        `${variables.output(table)} for the file of ${table}, ${variables.outputTable(table)} for a new table of the database instead or beside it`,
    ),
    'now for the moment of TODAY and NOW',
    'strict=1 to stop where something should be looked at',
    'quiet=1 to leave out what each step left',
  ].join('; ')}.`

/** The script up to its first step: usage, psql settings, checks of variables, and the helpers in use. */
function scriptHead(
  recipe: Recipe,
  usage: readonly string[],
  plan: Plan,
  needs: Code[],
  defaults: Code[],
  runtime: Helper[],
) {
  return lines(
    comment('--', `${recipe.name}`),
    ...(recipe.about ? [comment('--', recipe.about)] : []),
    ...usage.map((line, i) => comment('--', i === 0 ? `Run with: ${line}` : line)),
    comment(
      '--',
      'All that is made is temporary, in one transaction that is rolled back at the end: nothing stays in the database but the tables that the variables of outputs name. The client needs a POSIX shell.',
    ),
    ...csvFirst(recipe, sqlCannotRead).map((line) => comment('--', line)),
    ...pinned(recipe, plan).map((line) => comment('--', line)),
    psql('set', code('QUIET on')),
    psql('set', code('ON_ERROR_STOP on')),
    psql('pset', code('format unaligned')),
    psql('pset', code('tuples_only on')),
    psql('pset', code('null'), ''),
    psql('encoding', code('UTF8')),
    code('set client_min_messages = warning;'),
    ...needs,
    ...defaults,
    unlessGiven('now', sql`select to_char(localtimestamp, 'YYYY-MM-DD"T"HH24:MI:SS') as now ${psql('gset')}`),
    readPath,
    sql`begin;\n${ownPath}\nset local extra_float_digits = 0;\nset local datestyle = 'ISO, YMD';\nset local standard_conforming_strings = on;\nselect set_config('fabula.now', ${psqlVariable('now')}, true) as ignored ${psql('gset')}`,
    lines(
      ifGiven('strict'),
      sql`select set_config('fabula.strict', 'on', true) as ignored ${psql('gset')}`,
      psql('endif'),
    ),
    comment('--', 'Helpers that the steps below use'),
    ...runtime.map((block) => code(block.source)),
    code(''),
  )
}
