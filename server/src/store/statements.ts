import type { PGliteInterface } from '@electric-sql/pglite'

/** An SQL statement with its parameters `$1`, `$2` …; a script of several statements has none. */
export type Statement = { readonly sql: string; readonly params: readonly unknown[] }

/** What runs SQL statements; the statements of a transaction take effect together or not at all. */
export type StatementRunner = {
  /** The rows of the last statement. */
  transaction(statements: readonly Statement[]): Promise<Record<string, unknown>[]>
  query(sql: string, ...params: readonly unknown[]): Promise<Record<string, unknown>[]>
}

/** All statements in one transaction; the rows of the last. */
export const runStatements = (
  db: Pick<PGliteInterface, 'transaction'>,
  statements: readonly Statement[],
): Promise<Record<string, unknown>[]> =>
  db.transaction(async (transaction) => {
    let rows: Record<string, unknown>[] = []
    for (const { sql, params } of statements) {
      if (params.length === 0 && sql.includes(';')) await transaction.exec(sql)
      else rows = (await transaction.query<Record<string, unknown>>(sql, [...params])).rows
    }
    return rows
  })
