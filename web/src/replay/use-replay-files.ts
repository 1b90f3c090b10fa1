import type { FileRef } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useState } from 'react'
import { ask, uploadAll } from '../api/client.ts'
import { useFlow } from '../story/flow-context.ts'
import type { ChosenFiles } from './replay-model.ts'

/** The new files of a replay: each is put to the input it fits, or waits to be put there. */
export const useReplayFiles = (changed: () => void) => {
  const { endpoint } = useFlow()
  const [files, setFiles] = useState<ChosenFiles>({})
  const [homeless, setHomeless] = useState<readonly FileRef[]>([])
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
  return {
    files,
    homeless,
    busy,
    problem,
    setProblem,
    /** Takes files in place of those chosen so far. */
    look: (chosen: ChosenFiles): void => {
      setFiles(chosen)
      changed()
    },
    take: (dropped: readonly File[]) =>
      during(async () => {
        const placed = await ask(api.placeReply, 'POST', `${endpoint.base}/place`, { files: await sent(dropped) })
        setFiles({ ...files, ...placed.given })
        setHomeless([...homeless, ...placed.homeless])
        changed()
      }),
    putTo: (file: FileRef, input: string): void => {
      setFiles({ ...files, [input]: [file] })
      setHomeless(homeless.filter(({ hash }) => hash !== file.hash))
    },
    fetchAnew: (input: string, sources: readonly number[]) =>
      during(async () => {
        setBusy('Fetching it anew from where it came')
        const refs: FileRef[] = []
        for (const source of sources) refs.push((await ask(api.takeReply, 'POST', `/api/sources/${source}/again`)).file)
        setFiles({ ...files, [input]: refs })
      }),
  }
}
