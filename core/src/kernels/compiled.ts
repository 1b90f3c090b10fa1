import { useKernels, type Kernels } from './kernels.ts'
import { compiledCsv } from './csv-compiled.ts'
import { csvOutputCompiled } from './csv-output-compiled.ts'
import { tableCompiled } from './table-compiled.ts'

/** The kernels compiled to WebAssembly. */
export const compiledKernels: Kernels = { ...tableCompiled, csv: compiledCsv, csvOutput: csvOutputCompiled }

/** Takes the compiled kernels for all that follows in this process, where it has WebAssembly; the reference stays else. */
export const useCompiledKernels = (): void => {
  if (typeof WebAssembly === 'object') useKernels(compiledKernels)
}
