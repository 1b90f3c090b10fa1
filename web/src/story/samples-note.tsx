import type { FileRef } from '@fabula/core/api'
import { fileWords } from './sample-figures.ts'

/** Which files are only samples of larger ones; nothing where none is. */
export const SamplesNote = ({ files, className }: { files: readonly FileRef[]; className: string }) => {
  const samples = files.filter(({ sample }) => sample !== undefined)
  if (samples.length === 0) return null
  return (
    <p className={`rounded-lg bg-changed-tint px-3 py-1.5 text-[13px] ${className}`}>
      Figures are of a sample. {samples.map(fileWords).join('; ')}.
    </p>
  )
}
