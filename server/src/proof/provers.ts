import type { Language } from '@fabula/core'
import type { Prover } from './prover.ts'
import { provePython } from './python.ts'
import { proveSql } from './sql.ts'

/** How the script of each language is run for a proof. */
export const provers: { readonly [L in Language]: Prover } = { python: provePython, sql: proveSql }
