import type { DialectInfo } from '../../codegen/dialect.ts'
import { sparkCannotRead, sparkScript } from './script.ts'

/** PySpark on Spark 3.5 or newer. */
export const spark = {
  name: 'spark',
  label: 'Spark',
  fileEnding: '.spark.py',
  mediaType: 'text/x-python',
  cannotRead: sparkCannotRead,
  assemble: sparkScript,
} as const satisfies DialectInfo & { readonly assemble: typeof sparkScript }
