import { ownValue } from '@fabula/core'
import type { FileRef } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useCallback, useState } from 'react'
import { ask, uploadAll } from '../api/client.ts'
import { useFlow } from '../story/flow-context.ts'
import type { ChosenFiles } from './replay-model.ts'

const withMore = (files: ChosenFiles, more: ChosenFiles): ChosenFiles => ({
  ...files,
  ...Object.fromEntries(
    Object.entries(more).map(([input, refs]) => {
      const there = ownValue(files, input) ?? []
      return [
        input,
        [...there, ...refs.filter(({ hash, name }) => !there.some((one) => one.hash === hash && one.name === name))],
      ]
    }),
  ),
})

const without = (
  files: ChosenFiles,
  input: string,
  file: { readonly hash: string; readonly name: string },
): ChosenFiles => {
  const left = (ownValue(files, input) ?? []).filter(({ hash, name }) => hash !== file.hash || name !== file.name)
  return Object.fromEntries(
    Object.entries({ ...files, [input]: left }).filter(([id, refs]) => id !== input || refs.length > 0),
  )
}

/** What sources give now, as files that the server has. */
const fetchedAnew = async (sources: readonly number[]): Promise<FileRef[]> => {
  const refs: FileRef[] = []
  for (const source of sources) refs.push(...(await ask(api.takeReply, 'POST', `/api/sources/${source}/again`)).files)
  return refs
}

/** Which files are chosen, which inputs keep those of before, and which files no input takes. */
const useChosen = () => {
  const [files, setFiles] = useState<ChosenFiles>({})
  const [keep, setKeep] = useState<readonly string[]>([])
  const [asIs, setAsIs] = useState(false)
  const [homeless, setHomeless] = useState<readonly FileRef[]>([])
  const clear = useCallback(() => {
    setFiles({})
    setKeep([])
    setAsIs(false)
    setHomeless([])
  }, [])
  return { files, setFiles, keep, setKeep, asIs, setAsIs, homeless, setHomeless, clear }
}

/** The new files of a replay: each is put to the input it fits, beside those there, or waits to be put there. */
export const useReplayFiles = (changed: () => void) => {
  const { endpoint } = useFlow()
  const { files, setFiles, keep, setKeep, asIs, setAsIs, homeless, setHomeless, clear } = useChosen()
  const [busy, setBusy] = useState<string>()
  const [problem, setProblem] = useState<string>()
  const during = async (work: () => Promise<void>): Promise<void> => {
    setProblem(undefined)
    try {
      await work()
    } catch (error) {
      setProblem((error as Error).message)
    } finally {
      setBusy(undefined)
    }
  }
  const sent = (dropped: readonly File[]): Promise<FileRef[]> =>
    uploadAll(dropped, (file, share) => setBusy(`Sending ${file.name}: ${Math.round(share * 100)} %`))
  const place = async (refs: readonly FileRef[]): Promise<void> => {
    const placed = await ask(api.placeReply, 'POST', `${endpoint.base}/place`, { files: refs })
    setFiles(withMore(files, placed.given))
    setHomeless([...homeless, ...placed.homeless])
    changed()
  }
  return {
    files,
    /** Inputs whose files of last time are read beside the new ones. */
    keep,
    /** The story is run on the files of last time. */
    asIs,
    homeless,
    busy,
    problem,
    setProblem,
    clear,
    /** Takes files in place of those chosen so far. */
    look: (chosen: ChosenFiles): void => {
      setFiles(chosen)
      changed()
    },
    take: (dropped: readonly File[]) => during(async () => place(await sent(dropped))),
    /** Takes files that the server has already. */
    takeSent: (refs: readonly FileRef[]) => during(() => place(refs)),
    takeOut: (input: string, file: { readonly hash: string; readonly name: string }): void =>
      setFiles(without(files, input, file)),
    keepBefore: (input: string, on: boolean): void =>
      setKeep(on ? [...keep, input] : keep.filter((one) => one !== input)),
    runAsIs: () => (setAsIs(true), changed()),
    putTo: (file: FileRef, input: string): void => {
      setFiles(withMore(files, { [input]: [file] }))
      setHomeless(homeless.filter(({ hash }) => hash !== file.hash))
    },
    fetchAnew: (input: string, sources: readonly number[]) =>
      during(async () => {
        setBusy('Fetching it anew from where it came')
        setFiles({ ...files, [input]: await fetchedAnew(sources) })
      }),
  }
}
