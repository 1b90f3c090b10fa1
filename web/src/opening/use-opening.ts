import {
  headerRows,
  rectangleOf,
  wildcard,
  writeColumn,
  type NewStep,
  type ReadOptions,
  type Rectangle,
} from '@fabula/core'
import type { FileRef, LookReply, OpenReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { ask } from '../api/client.ts'
import { useJob } from '../ui/use-job.ts'
import { guessedRead, lookAt, openFile } from './open-file.ts'

const without = <T extends object>(value: T, key: keyof T): T =>
  Object.fromEntries(Object.entries(value).filter(([one]) => one !== key)) as T

/** Which sheets the read takes in, by name. */
const chosen = (look: LookReply | undefined, sheets: ReadOptions['sheets']): string[] => {
  const all = look?.sheets ?? []
  if (sheets === undefined || sheets === 'first')
    return all
      .filter(({ hidden }) => !hidden)
      .slice(0, 1)
      .map(({ name }) => name)
  if (!('like' in sheets)) return [...sheets]
  return all
    .map(({ name }) => name)
    .filter((name) => wildcard(sheets.like).test(name) && !(sheets.unlike && wildcard(sheets.unlike).test(name)))
}

/** All that the opening page holds: the files, how they are read, what is seen of them. */
// eslint-disable-next-line complexity, max-lines-per-function -- markup with a condition for each optional part
export const useOpening = (start: { readonly files: readonly FileRef[]; readonly read: ReadOptions | undefined }) => {
  const [files, setFiles] = useState(start.files)
  const [at, setAt] = useState<{ file: number; sheet?: string }>({ file: 0 })
  const [given, setRead] = useState<ReadOptions | undefined>(start.read)
  const [aligned, setAligned] = useState<readonly string[]>([])
  const [filled, setFilled] = useState(false)
  const [stopped, setStopped] = useState(false)
  const file = files[Math.min(at.file, files.length - 1)]
  const how: ReadOptions = {
    ...(given?.format ? { format: given.format } : {}),
    ...(given?.encoding ? { encoding: given.encoding } : {}),
    ...(given?.delimiter ? { delimiter: given.delimiter } : {}),
    ...(given?.quote ? { quote: given.quote } : {}),
    ...(given?.path ? { path: given.path } : {}),
  }
  const look = useQuery({
    queryKey: ['look', file?.hash, file?.name, how, at.sheet],
    queryFn: () => lookAt(file as FileRef, how, at.sheet),
    enabled: file !== undefined,
    placeholderData: (before) => before,
    staleTime: Infinity,
  })
  useEffect(() => {
    if (given === undefined && look.data && !look.isPlaceholderData) setRead(guessedRead(look.data))
  }, [given, look.data, look.isPlaceholderData])
  const read = given ?? {}
  const { types: _types, ...plain } = read
  const key = JSON.stringify([files, plain])
  const job = useJob(key)
  const opened = useQuery<OpenReply>({
    queryKey: ['open', key],
    queryFn: ({ signal }) => openFile(files, plain, job, signal),
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
  })
  useEffect(() => setStopped(false), [key])
  const stop = (): void => {
    setStopped(true)
    void ask(api.progressReply, 'DELETE', `/api/open/${job}`)
  }

  const change = (next: Partial<ReadOptions>): void => setRead({ ...read, ...next })
  const drop = (name: keyof ReadOptions): void => setRead(without(read, name))
  const area: Rectangle | undefined = read.range ? rectangleOf(read.range) : undefined
  /** Rows of names as numbers of the sheet. */
  const heads = headerRows(read).map((row) => row + (area ? area.top - 1 : 0))
  const setHead = (row: number, second: boolean): void => {
    const inArea = row - (area ? area.top - 1 : 0)
    const [first] = headerRows(read)
    if (inArea < 1) return
    if (second && first !== undefined && first !== inArea)
      change({ header: [Math.min(first, inArea), Math.max(first, inArea)] })
    else if (inArea === 1) drop('header')
    else change({ header: inArea })
  }
  const sheets = chosen(look.data, read.sheets)
  const toggleSheet = (name: string): void => {
    const next = sheets.includes(name)
      ? sheets.filter((one) => one !== name)
      : (look.data?.sheets ?? []).map((sheet) => sheet.name).filter((one) => one === name || sheets.includes(one))
    if (next.length > 0) change({ sheets: next })
  }
  const partners = (opened.data?.partners ?? []).filter(
    ({ has }, i, all) => all.findIndex((other) => other.has === has) === i,
  )
  /** Rows of merged cells below the names that go over several rows: only the first holds the value. */
  const tall = (look.data?.merges ?? []).filter(({ top, bottom }) => bottom > top && top > Math.max(0, ...heads))
  const tallColumns = [...new Set(tall.map(({ left }) => opened.data?.columns[left - (area?.left ?? 1)]?.name))].filter(
    (name) => name !== undefined,
  )
  const extras: NewStep[] = [
    ...(filled && tallColumns.length > 0
      ? [{ kind: 'fill' as const, columns: tallColumns, direction: 'down' as const }]
      : []),
    ...partners
      .filter(({ has }) => aligned.includes(has))
      .flatMap(({ lacks, has }): NewStep[] => [
        { kind: 'derive', as: lacks, formula: `COALESCE(${writeColumn(lacks)}; ${writeColumn(has)})` },
        { kind: 'drop', columns: [has] },
      ]),
  ]
  return {
    files,
    setFiles,
    file,
    at,
    setAt,
    look,
    read,
    guessed: given !== undefined,
    change,
    drop,
    area,
    heads,
    setHead,
    sheets,
    toggleSheet,
    opened,
    reading,
    progress: progress.data,
    stop,
    stopped,
    resume: () => setStopped(false),
    partners,
    aligned,
    setAligned,
    tallColumns,
    filled,
    setFilled,
    extras,
  }
}
export type Opening = ReturnType<typeof useOpening>
