import type { ColumnType } from '../../table/column.ts'
import { sqlTypeName } from '../../formula/to-code.ts'
import type { StepCode } from '../../codegen/dialect.ts'
import { code, joined, psql, sql, sqlHelper, type Code } from '../../codegen/tag.ts'
import { typeIn } from '../shared/columns.ts'
import type { SqlContext, SqlRowMap } from '../shared/step-kind.ts'
import { keepsRight, layout, onOf, type Join } from './layout.ts'

const seenSql = (part: Code, type: ColumnType, { ignoreCase, trim }: Join): Code => {
  if (type !== 'text') return part
  const cut = trim ? sql`nullif(${sqlHelper('trim_of')}(${part}), '')` : part
  return ignoreCase ? sql`${sqlHelper('lower_of')}(${cut})` : cut
}

/** The pieces of its SQL: `l` are rows before the step, `r` those of the other table. */
const sqlParts = (params: Join, { from, input, column, table }: SqlContext) => {
  const { rows: other, columns } = table(params.with)
  const on = onOf(params)
  const { left, brought } = layout(params, input, columns)
  const equal = joined(
    on.map(
      (one) =>
        sql`${seenSql(sql`l.${column(one.left)}`, typeIn(input, one.left) ?? 'text', params)} = ${seenSql(sql`r.${column(one.right)}`, typeIn(columns, one.right) ?? 'text', params)}`,
    ),
    ' and ',
  )
  const rightPart = brought.map(({ from: one, field }) => sql`r.${column(one)} as ${column(field.name)}`)
  const leftPart = left.map((field) => {
    const own = typeIn(input, field.name)
    return own === field.type
      ? sql`l.${column(field.name)}`
      : sql`l.${column(field.name)}::${sqlTypeName(field.type)} as ${column(field.name)}`
  })
  const aloneLeft = left.map((field) => {
    const key = on.find((one) => one.left === field.name)
    return sql`${key ? sql`r.${column(key.right)}` : code('null')}::${sqlTypeName(field.type)} as ${column(field.name)}`
  })
  const alone = sql`select ${code('null::bigint')} as lo, r."¶" as ro, ${code('1')} as n, ${[...aloneLeft, ...rightPart]} from ${other} r where not exists (select from ${from} l where ${equal})`
  return { other, columns, on, equal, left, brought, leftPart, rightPart, alone }
}

/** The rows that a match gives, `lo` and `ro` being the numbers of the rows they are made of; rows without an `n` are not among them. */
const matchedSql = (params: Join, context: SqlContext): Code => {
  const { how, matches = 'all' } = params
  const { from, column } = context
  const { other, columns, on, equal, leftPart, rightPart, alone } = sqlParts(params, context)
  if (how === 'cross')
    return sql`select l."¶" as lo, r."¶" as ro, ${code('1')} as n, ${[...leftPart, ...rightPart]} from ${from} l cross join ${other} r`
  const keyed = on.map((one) => seenSql(column(one.right), typeIn(columns, one.right) ?? 'text', params))
  const firsts =
    matches === 'first'
      ? sql`(select * from (select *, row_number() over (partition by ${keyed} order by "¶") as "¶n" from ${other}) ranked where "¶n" = 1)`
      : other
  const counted =
    matches === 'one'
      ? sql`${sqlHelper('one_match')}(count(r."¶") over (partition by l."¶"), ${on.map((one) => one.left).join(', ')})`
      : code('1')
  const matched = sql`select l."¶" as lo, r."¶" as ro, ${counted} as n, ${[...leftPart, ...rightPart]} from ${from} l ${code(how === 'left' || how === 'full' ? 'left join' : 'join')} ${firsts} r on ${equal}`
  return keepsRight(how) ? sql`${matched}\nunion all ${alone}` : matched
}

const numbering = code('row_number() over (order by lo nulls last, ro) as "¶"')

/** The step as SQL. */
export const joinSql = (params: Join, context: SqlContext): StepCode => {
  const { how, matches = 'all' } = params
  const { from, column } = context
  const { other, on, equal, left, brought, leftPart, alone } = sqlParts(params, context)
  const names = [...left, ...brought.map(({ field }) => field)].map((field) => column(field.name))
  if (how === 'left-only')
    return sql`select l."¶", ${leftPart}\nfrom ${from} l where not exists (select from ${other} r where ${equal})`
  if (how === 'right-only') return sql`select ro as "¶", ${names}\nfrom (${alone}) a`
  const body = sql`select ${numbering}, ${names}\nfrom (${matchedSql(params, context)}) m\nwhere n is not null`
  if (how === 'cross' || matches !== 'all') return body
  const repeats = sql`select count(*) - 1 as more from ${from} l join ${other} r on ${equal} group by l."¶"`
  const keys = on.map((one) => one.left).join(', ')
  return {
    body,
    after: sql`select ${sqlHelper('keys_single')}(${keys}, sum(more)) as ignored from (${repeats}) t ${psql('gset')}\n`,
  }
}

/** What the rows of a match were made of; undefined where they are rows of the table before it. */
export const joinRowsSql = (params: Join, context: SqlContext): readonly SqlRowMap[] | undefined => {
  if (params.how === 'left-only') return undefined
  if (params.how === 'right-only')
    return [{ table: params.with, rows: sql`select "¶", "¶" as was from ${context.table(params.with).rows}` }]
  const numbered = sql`select ${numbering}, lo, ro from (${matchedSql(params, context)}) m where n is not null`
  return [
    { rows: sql`select "¶", lo as was from (${numbered}) numbered` },
    { table: params.with, rows: sql`select "¶", ro as was from (${numbered}) numbered` },
  ]
}
