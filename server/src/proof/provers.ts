import type { DialectName } from '@fabula/core'
import type { Prover } from './prover.ts'
import { provePython } from './python.ts'
import { proveSql } from './sql.ts'

/** How the script of each dialect is run for a proof. */
export const provers: { readonly [D in DialectName]: Prover } = { python: provePython, sql: proveSql }
