import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import { sampleHeadRows, sampleWords, type RowChoice } from '@fabula/core/api'

/** What the script writes of each file: the place of its path among those asked, its name, the file of the sample, and of how many rows it is; null where it has all. */
const manifest = z.array(z.object({ path: z.number(), name: z.string(), file: z.string(), of: z.number().nullable() }))

/** Rows of a file that the cluster reads, on this machine. */
export type RowSample = {
  /** The place of its path among those asked for. */ readonly at: number
  readonly name: string
  /** Where the sample lies on this machine. */ readonly file: string
  /** Which rows it has, in words; undefined where it has all. */ readonly words: string | undefined
}

/** What the script is called with. */
export const rowSampleArguments = (paths: readonly string[], rows: RowChoice, folder: string): string[] => [
  ...('first' in rows ? ['--first', String(rows.first)] : ['--one-in', String(rows.oneIn)]),
  ...['--head', String(sampleHeadRows), '--to', folder],
  ...paths.map((path) => `--path=${path}`),
]

/** The samples that the script wrote to a folder. */
export const readRowSamples = (folder: string, rows: RowChoice): RowSample[] =>
  manifest.parse(JSON.parse(readFileSync(join(folder, 'samples.json'), 'utf8'))).map(({ path, name, file, of }) => ({
    at: path,
    name,
    file: join(folder, file),
    words: of === null ? undefined : sampleWords(rows, of),
  }))
