import { ownValue, setOwnValue, assignFiles, inputsByColumns, type Recipe } from '@fabula/core'
import type { FileRef, LookReply } from '@fabula/core/api'
import type { Lane, Supervisor } from '../compute/supervisor.ts'

/** Files laid with the inputs they are for: by name, and those whose name says nothing by their columns and sheets. */
export const placeFiles = async (
  recipe: Recipe,
  files: readonly FileRef[],
  compute: Supervisor,
  lane: Lane,
): Promise<{ given: Record<string, FileRef[]>; homeless: FileRef[] }> => {
  const { given, homeless } = assignFiles(recipe, files)
  const left: FileRef[] = []
  for (const file of homeless) {
    // a file that cannot be read has no columns to go by; what is wrong is said once it is opened
    const look = await compute
      .do<LookReply>(
        { kind: 'look', hash: file.hash, name: file.name, read: {}, sheet: undefined },
        { home: file.hash, lane },
      )
      .value()
      .catch(() => undefined)
    const inputs =
      look &&
      inputsByColumns(
        recipe,
        [...look.rows.map(({ cells }) => cells), ...look.sheets.map(({ names }) => names)],
        look.sheets.map(({ name }) => name),
      )
    if (!inputs || inputs.length === 0) left.push(file)
    for (const input of inputs ?? []) (ownValue(given, input) ?? setOwnValue(given, input, [])).push(file)
  }
  return { given, homeless: left }
}
