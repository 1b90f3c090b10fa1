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
  sqlHelper,
  type Code,
  type PsqlVariable,
} from '../../codegen/tag.ts'
import { planRecipe, type Plan } from '../../engine/plan.ts'
import type { Format, ReadOptions } from '../../reading/read-options.ts'
import { rectangleOf } from '../../reading/sheet-range.ts'
import { columnAliases, type ColumnAliases } from '../../recipe/column-aliases.ts'
import { scriptOutputs } from '../../recipe/outputs.ts'
import type { Recipe } from '../../recipe/recipe.ts'
import { kindOf, openedInputs, paramsOf } from '../../recipe/step-access.ts'
import { asCsv, headerSql } from '../../steps/open/index.ts'
import { csvColumns, csvFirst, inputFormat, readOf } from '../inputs.ts'
import { ScriptError } from '../script.ts'
import { scriptVariables, type ScriptVariables } from './variables.ts'
import { writeTables, type WrittenTables } from './tables.ts'

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

const ifGiven = (name: string): Code => psql('if', code(`:{?${name}}`))
const unlessGiven = (name: string, then: Code): Code => lines(ifGiven(name), psql('else'), then, psql('endif'))

const maxFiles = 12

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

/**
 * Follows \\copy to load the lines of the file $FILE, by the client's POSIX shell: UTF-16 is told by its first bytes, each line
 * stands behind a sign (COPY ends at a line of \\. in CSV too, documentation of COPY), and the control signs that COPY reads
 * otherwise are others until SQL puts them back. A pipe does not tell that iconv failed: then a byte that is no UTF-8 makes
 * COPY stop, so that no row is lost.
 */
const linesCommand = code(
  `${sqlHelper('sheet_text').text} (t) from program '${[
    'test -r "$FILE" || exit 1',
    'case $(head -c 2 "$FILE" | od -An -tx1 | tr -d " ") in fffe|feff) ENCODING=UTF-16;; esac',
    '(iconv -f "$ENCODING" -t UTF-8 "$FILE" || printf "\\377\\n") | tr "\\r\\001\\002" "\\003\\004\\005" | sed "s/^/|/"',
  ].join('; ')}' with (format csv, delimiter E'\\x01', quote E'\\x02')`,
)

/** Before the run: each file whole, as rows of cells. */
const loading = (
  input: string,
  variables: ScriptVariables,
  label: string,
  read: ReadOptions,
  columns: readonly string[],
  known: ColumnAliases,
): Code => {
  const area = read.range === undefined ? undefined : rectangleOf(read.range)
  const load = (n: number): Code => {
    const name = variables.input(input, n)
    const one = lines(
      psql('setenv', code('FILE'), psqlVariable(name, false)),
      psql('setenv', code('ENCODING'), read.encoding ?? 'utf-8'),
      psql('copy', linesCommand),
      sql`insert into ${sqlHelper('sheet_lines')} select ${input}, ${n}, line${area ? sql` - ${area.top - 1}` : code('')}, cells${area ? code(`[${area.left}:${area.right}]`) : code('')} from ${sqlHelper('csv_rows')}(${read.delimiter ?? ','}, ${read.quote ?? '"'})${area ? sql` where line >= ${area.top}${area.bottom === Infinity ? code('') : sql` and line <= ${area.bottom}`}` : code('')};`,
      sql`insert into ${sqlHelper('sheet_files')} select ${input}, ${n}, regexp_replace(${psqlVariable(name)}, '^.*[/\\\\]', ''), coalesce((select max(line) from ${sqlHelper('sheet_lines')} where input = ${input} and file = ${n}), 0), ${psqlVariable(name)};`,
      sql`truncate ${sqlHelper('sheet_text')} restart identity;`,
    )
    return n === 1 ? one : lines(ifGiven(name), one, psql('endif'))
  }
  return lines(
    ...Array.from({ length: maxFiles }, (_, i) => load(i + 1)),
    lines(
      ifGiven(variables.input(input, maxFiles + 1)),
      sql`call ${sqlHelper('too_many_files')}(${label}, ${maxFiles});`,
      psql('endif'),
    ),
    sql`call ${sqlHelper('require_columns')}(${input}, ${label}, ${headerSql(read)}, array[${columns}]::text[], ${JSON.stringify(known)});`,
  )
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
    code('rollback;\n'),
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

/** The code that loads each input's files. */
function loadInputs(recipe: Recipe, variables: ScriptVariables) {
  return recipe.inputs.flatMap((one) => {
    const given = readOf(recipe, one.id)
    const ways = openedInputs(recipe).filter(({ input }) => input === one.id)
    if (ways.some(({ read }) => JSON.stringify(read ?? {}) !== JSON.stringify(given)))
      throw new ScriptError(
        `${one.name} is opened in two ways, and an SQL script reads an input in one. Make it two inputs.`,
      )
    const text = inputFormat(recipe, one.id) === 'csv'
    return [
      lines(
        comment('--', `${one.name}, from ${one.files ?? 'its file'}`),
        loading(one.id, variables, one.name, text ? given : asCsv, csvColumns(recipe, one.id), columnAliases(one)),
        code(''),
      ),
    ]
  })
}

/** The code that writes each output as CSV. */
function writeOutputs(
  outputs: { readonly table: string; readonly file: string }[],
  last: Map<string, { view: Code; names: readonly string[] }>,
  column: (name: string) => Code,
  variables: ScriptVariables,
) {
  return outputs.map(({ table, file }) => {
    const { view, names } = last.get(table) ?? { view: code(''), names: [] }
    const name = variables.output(table)
    const cells = joined(
      names.map((one) => sql`${sqlHelper('csv_cell')}(${sqlHelper('shown')}(${column(one)}))`),
      " || ',' || ",
    )
    const header = joined(
      names.map((one) => sql`${sqlHelper('csv_cell')}(${one})`),
      " || ',' || ",
    )
    return lines(
      unlessGiven(name, psql('set', code(name), file)),
      psql('o', psqlVariable(name, false)),
      sql`select ${header};`,
      sql`select ${cells} from ${view} order by "¶";`,
      psql('o'),
      code(''),
    )
  })
}

/** The code that writes, where `trace_out` is given, which rows of the inputs each row of the outputs was made of, as CSV. */
function writeSources(
  outputs: { readonly table: string }[],
  last: WrittenTables['last'],
  sources: WrittenTables['sources'],
): Code {
  const file = sql`case when count(*) over (partition by f.input, f.name) > 1 then f.path else f.name end`
  const files = sql`(select f.input, f.file, ${file} as name from ${sqlHelper('sheet_files')} f)`
  const cell = (part: Code): Code => sql`${sqlHelper('csv_cell')}(${part})`
  const rowsOf = ({ table }: { readonly table: string }): Code => {
    const rows = sql`(select row_number() over (order by "¶") as n, "¶" from ${last.get(table)?.view ?? code('')})`
    const cells = [
      cell(sql`${table}`),
      code('r.n'),
      cell(code('s.input')),
      sql`coalesce(${cell(code('f.name'))}, '')`,
      sql`''`,
      code('s.line'),
    ]
    return sql`select ${joined(cells, " || ',' || ")} from ${rows} r join ${sources.get(table) ?? code('')} s using ("¶") left join ${files} f on f.input = s.input and f.file = s.file order by r.n, s.place, s.input, s.file, s.line;`
  }
  return lines(
    ifGiven('trace_out'),
    psql('o', psqlVariable('trace_out', false)),
    sql`select ${'table,row,input,file,sheet,source row'};`,
    ...outputs.map(rowsOf),
    psql('o'),
    psql('endif'),
    code(''),
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
      lines(
        psql('warn', `Say which file is ${name}: psql -v ${variables.input(one)}=FILE`),
        code("do $$ begin raise exception 'an input is missing'; end $$;"),
      ),
    ),
  )
  return { needs, defaults }
}

/** The names of a script's variables, for its top. */
const listOf = (recipe: Recipe, variables: ScriptVariables): string =>
  `Variables: ${[
    ...recipe.inputs.map(({ id: one }) => `${variables.input(one)}, ${variables.input(one, 2)} … for files of ${one}`),
    ...(recipe.parameters ?? []).map(({ name }) => `${variables.parameter(name)} for ${name}`),
    ...scriptOutputs(recipe).map(({ table }) => `${variables.output(table)} for the file of ${table}`),
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
      'All that is made is temporary, in one transaction that is rolled back at the end: nothing stays in the database. The client needs a POSIX shell.',
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
    sql`begin;\nset local search_path = pg_temp, pg_catalog;\nset local extra_float_digits = 0;\nset local datestyle = 'ISO, YMD';\nset local standard_conforming_strings = on;\nselect set_config('fabula.now', ${psqlVariable('now')}, true) as ignored ${psql('gset')}`,
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
