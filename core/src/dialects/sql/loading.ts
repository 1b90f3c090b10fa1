import { code, comment, lines, psql, psqlVariable, sql, sqlHelper, type Code } from '../../codegen/tag.ts'
import type { ReadOptions } from '../../reading/read-options.ts'
import { rectangleOf } from '../../reading/sheet-range.ts'
import { columnAliases, type ColumnAliases } from '../../recipe/column-aliases.ts'
import type { Recipe } from '../../recipe/recipe.ts'
import { openedInputs } from '../../recipe/step-access.ts'
import { asCsv, headerSql } from '../../steps/open/index.ts'
import { csvColumns, inputFormat, readOf } from '../inputs.ts'
import { ScriptError } from '../script.ts'
import { ifGiven, ownPath, theirPath } from './given.ts'
import type { ScriptVariables } from './variables.ts'

const maxFiles = 12

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

/** Before the run: each file whole, or a table of the database, as rows of cells. */
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
  const table = variables.inputTable(input)
  const fromTable = lines(
    theirPath,
    sql`call ${sqlHelper('table_lines')}(${input}, ${label}, ${psqlVariable(table)}, ${table}, ${headerSql(read)}, ${read.skip ?? 0}, ${read.footer ?? 0});`,
    ownPath,
  )
  return lines(
    ifGiven(table),
    fromTable,
    psql('else'),
    ...Array.from({ length: maxFiles }, (_, i) => load(i + 1)),
    lines(
      ifGiven(variables.input(input, maxFiles + 1)),
      sql`call ${sqlHelper('too_many_files')}(${label}, ${maxFiles});`,
      psql('endif'),
    ),
    psql('endif'),
    sql`call ${sqlHelper('require_columns')}(${input}, ${label}, ${headerSql(read)}, array[${columns}]::text[], ${JSON.stringify(known)});`,
  )
}

/** The code that loads each input's files. */
export function loadInputs(recipe: Recipe, variables: ScriptVariables) {
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
