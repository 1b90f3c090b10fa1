import type { DialectInfo } from '../../codegen/dialect.ts'
import { pythonCannotRead, pythonScript } from './script.ts'

/** Python with pandas 1.5 or newer. */
export const python = {
  name: 'python',
  label: 'Python',
  fileEnding: '.py',
  mediaType: 'text/x-python',
  cannotRead: pythonCannotRead,
  assemble: pythonScript,
} as const satisfies DialectInfo & { readonly assemble: typeof pythonScript }
