import type { ReadOptions } from '@fabula/core'
import type { FileRef, OpenReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { ask } from '../api/client.ts'
import { without } from '../story/without.ts'
import { useJob } from '../ui/use-job.ts'
import { guessedRead, lookAt, openFile } from './open-file.ts'
import {
  areaOf,
  mergedColumns,
  namesRows,
  openingSteps,
  partnersOf,
  rawOptions,
  sheetsRead,
  toggledSheet,
  withNamesRow,
} from './opening-model.ts'

/** Opens the files as the options say, without types, which the server detects; can be stopped. */
const useOpenedFiles = (files: readonly FileRef[], given: ReadOptions | undefined) => {
  const [stopped, setStopped] = useState(false)
  const options = without(given ?? {}, 'types')
  const key = JSON.stringify([files, options])
  const job = useJob(key)
  const opened = useQuery<OpenReply>({
    queryKey: ['open', key],
    queryFn: ({ signal }) => openFile(files, options, job, signal),
    enabled: given !== undefined && files.length > 0 && !stopped,
    placeholderData: (before) => before,
    staleTime: Infinity,
    gcTime: 60_000,
  })
  const reading = opened.isFetching
  const progress = useQuery({
    queryKey: ['opening', job],
    queryFn: () => ask(api.progressReply, 'GET', `/api/open/${job}`),
    enabled: reading,
    refetchInterval: 250,
    gcTime: 0,
  }).data
  useEffect(() => setStopped(false), [key])
  const stop = (): void => {
    setStopped(true)
    void ask(api.progressReply, 'DELETE', `/api/open/${job}`)
  }
  return { opened, reading, progress, stopped, stop, resume: () => setStopped(false) }
}

/** The raw rows of one sheet of one file. */
const useLook = (file: FileRef | undefined, given: ReadOptions | undefined, sheet: string | undefined) => {
  const options = rawOptions(given)
  return useQuery({
    queryKey: ['look', file?.hash, file?.name, options, sheet],
    queryFn: () => lookAt(file as FileRef, options, sheet),
    enabled: file !== undefined,
    placeholderData: (before) => before,
    staleTime: Infinity,
  })
}

/** The state of the opening page: the files, how they are read, what is seen of them. */
export const useOpening = (start: { readonly files: readonly FileRef[]; readonly read: ReadOptions | undefined }) => {
  const [files, setFiles] = useState(start.files)
  const [at, setAt] = useState<{ file: number; sheet?: string }>({ file: 0 })
  const [given, setRead] = useState<ReadOptions | undefined>(start.read)
  const [aligned, setAligned] = useState<readonly string[]>([])
  const [filled, setFilled] = useState(false)
  const file = files[Math.min(at.file, files.length - 1)]
  const look = useLook(file, given, at.sheet)
  useEffect(() => {
    if (given === undefined && look.data && !look.isPlaceholderData) setRead(guessedRead(look.data))
  }, [given, look.data, look.isPlaceholderData])
  const opening = useOpenedFiles(files, given)
  const read = given ?? {}
  const allSheets = look.data?.sheets ?? []
  const sheets = sheetsRead(allSheets, read.sheets)
  const { columns = [], partners: found = [] } = opening.opened.data ?? {}
  const partners = partnersOf(found)
  const tallColumns = mergedColumns(look.data?.merges ?? [], columns, read)
  const change = (next: Partial<ReadOptions>): void => setRead({ ...read, ...next })
  return {
    ...opening,
    files,
    setFiles,
    file,
    at,
    setAt,
    look,
    read,
    guessed: given !== undefined,
    change,
    drop: (name: keyof ReadOptions): void => setRead(without(read, name)),
    area: areaOf(read),
    heads: namesRows(read),
    setHead: (row: number, second: boolean): void => setRead(withNamesRow(read, row, second)),
    sheets,
    toggleSheet: (name: string): void => {
      const next = toggledSheet(allSheets, sheets, name)
      if (next !== sheets) change({ sheets: next })
    },
    partners,
    aligned,
    setAligned,
    tallColumns,
    filled,
    setFilled,
    extras: openingSteps(
      filled ? tallColumns : [],
      partners.filter(({ has }) => aligned.includes(has)),
    ),
  }
}
export type Opening = ReturnType<typeof useOpening>
