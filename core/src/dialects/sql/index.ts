import type { DialectInfo } from '../../codegen/dialect.ts'
import { sqlCannotRead, sqlScript } from './script.ts'

/** SQL for psql on PostgreSQL 15 or newer. */
export const sql = {
  name: 'sql',
  label: 'SQL',
  fileEnding: '.sql',
  mediaType: 'application/sql',
  cannotRead: sqlCannotRead,
  assemble: sqlScript,
} as const satisfies DialectInfo & { readonly assemble: typeof sqlScript }
