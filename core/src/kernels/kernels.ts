import type { ByteSource, CsvKernel, CsvLayout } from './csv-kernel.ts'
import { csvOutputReference } from './csv-output-reference.ts'
import type { CsvOutput, OutputColumn } from './csv-output.ts'
import { referenceCsv } from './csv-reference.ts'
import type { TableKernels } from './table-kernels.ts'
import { tableReference } from './table-reference.ts'

/** The inner loops over files and columns. Of each there is a reference in TypeScript and, where a process asks for it, one compiled to WebAssembly; both give the same bits. */
export type Kernels = TableKernels & {
  readonly csv: (source: ByteSource, layout: CsvLayout) => CsvKernel
  readonly csvOutput: (columns: readonly OutputColumn[]) => CsvOutput
}

/** The kernels in plain TypeScript. */
export const referenceKernels: Kernels = {
  ...tableReference,
  csv: referenceCsv,
  csvOutput: csvOutputReference,
}

let used = referenceKernels
/** The kernels that this process uses. */
export const kernels = (): Kernels => used
/** Takes other kernels for all that follows in this process. */
export const useKernels = (others: Kernels): void => {
  used = others
}
