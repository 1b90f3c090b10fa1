import { columnAliases, openedInputs, ownValue, parameterCells, runRecipe, type Recipe } from '@fabula/core'
import { fileFromBytes } from '../input-file.ts'
import { openInput, type OpenedFiles } from '../open-input.ts'
import type { TracedInput } from '../trace/reports.ts'
import { Tracer } from '../trace/tracer.ts'

/** By input, the files given for it: name to content. */
type InputFiles = Readonly<Record<string, Readonly<Record<string, string | Uint8Array>>>>
/** A recipe run on files, ready to be traced. */
export const tracerOf = async (recipe: Recipe, files: InputFiles): Promise<Tracer> => {
  const opened = new Map<string, OpenedFiles>()
  const inputs = new Map<string, TracedInput>()
  for (const { input, read } of openedInputs(recipe)) {
    const own = Object.entries(ownValue(files, input) ?? {}).map(([name, content]) =>
      fileFromBytes(name, Buffer.from(content)),
    )
    const known = columnAliases(recipe.inputs.find(({ id }) => id === input))
    const made = await openInput(own, read, known)
    opened.set(input, made)
    inputs.set(input, {
      files: own.map((file) => ({ name: file.name, load: () => file })),
      parts: made.parts,
      read,
      known,
    })
  }
  const { cells } = parameterCells(recipe, {})
  const { tables } = runRecipe(recipe, {
    sources: (input) => ({ ...(opened.get(input) as OpenedFiles), key: input }),
    parameters: cells,
    now: 0,
  })
  return new Tracer({ recipe, tables, parameters: cells, now: 0 }, Object.fromEntries(inputs))
}
