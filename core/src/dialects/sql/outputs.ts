import { code, joined, lines, psql, psqlVariable, sql, sqlHelper, type Code } from '../../codegen/tag.ts'
import { ifGiven, keeps, ownPath, theirPath, unlessGiven } from './given.ts'
import type { WrittenTables } from './tables.ts'
import type { ScriptVariables } from './variables.ts'

/** The code that writes each output as CSV, or leaves it as a table of the database where a variable names one. */
export function writeOutputs(
  outputs: { readonly table: string; readonly file: string }[],
  last: Map<string, { view: Code; names: readonly string[] }>,
  column: (name: string) => Code,
  variables: ScriptVariables,
) {
  return outputs.map(({ table: one, file }) => {
    const { view, names } = last.get(one) ?? { view: code(''), names: [] }
    const name = variables.output(one)
    const cells = joined(
      names.map((each) => sql`${sqlHelper('csv_cell')}(${sqlHelper('shown')}(${column(each)}))`),
      " || ',' || ",
    )
    const header = joined(
      names.map((each) => sql`${sqlHelper('csv_cell')}(${each})`),
      " || ',' || ",
    )
    const table = variables.outputTable(one)
    const columns = joined(names.map(column), ', ')
    return lines(
      ifGiven(table),
      theirPath,
      sql`create table ${psqlVariable(table, false)} as select ${columns} from ${view} order by "¶";`,
      ownPath,
      psql('set', code(keeps), code('1')),
      psql('else'),
      unlessGiven(name, psql('set', code(name), file)),
      psql('endif'),
      ifGiven(name),
      psql('o', psqlVariable(name, false)),
      sql`select ${header};`,
      sql`select ${cells} from ${view} order by "¶";`,
      psql('o'),
      psql('endif'),
      code(''),
    )
  })
}

/** The code that writes, where `trace_out` is given, which rows of the inputs each row of the outputs was made of, as CSV. */
export function writeSources(
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
