import { useCompiledKernels } from '@fabula/core/compiled'

useCompiledKernels()
