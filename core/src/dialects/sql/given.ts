import { code, lines, psql, psqlVariable, sql, type Code } from '../../codegen/tag.ts'

/** The start of what is done where a variable of psql is given. */
export const ifGiven = (name: string): Code => psql('if', code(`:{?${name}}`))
export const unlessGiven = (name: string, then: Code): Code => lines(ifGiven(name), psql('else'), then, psql('endif'))

/** The search path of whoever runs the script, by which the names of their own tables are found; its own objects are all temporary. */
const theirs = 'THEIR_PATH'
export const readPath: Code = sql`select current_setting('search_path') as "${code(theirs)}" ${psql('gset')}`
export const theirPath: Code = sql`select set_config('search_path', ${psqlVariable(theirs)}, true) as ignored ${psql('gset')}`
export const ownPath: Code = sql`set local search_path = pg_temp, pg_catalog;`

/** Set where a table is left in the database. */
export const keeps = 'KEEPS'
/** The end: what was made is taken back, or where a table is to stay all that is temporary is dropped. */
export const ending: Code = lines(
  ifGiven(keeps),
  code('discard temp;\ncommit;'),
  psql('else'),
  code('rollback;'),
  psql('endif'),
  code(''),
)
