import { tableNames, type Recipe } from '@fabula/core'
import type { QueryData } from '@fabula/core/api'
import { useEffect, useRef } from 'react'
import { Button } from '../ui/parts.tsx'
import { useWriting, writtenValue, type Writing } from '../ui/writing.ts'
import { BackView } from './back-view.tsx'
import { ForwardView } from './forward-view.tsx'
import { LostView } from './lost-view.tsx'
import { SheetView } from './sheet-view.tsx'
import { sourceWords, type SourceName, type TraceSubject } from './subject.ts'

const headingOf = (
  recipe: Recipe,
  subject: TraceSubject,
  writing: Writing,
): readonly [title: string, about: string] => {
  const nameOf = tableNames(recipe)
  if (subject.kind === 'lost')
    return [`Which rows are not in ${nameOf(subject.table)}`, 'Every row of its files, counted']
  if (subject.kind === 'sheet') return ['The sheet', 'As it stands in the file']
  if (subject.kind === 'forward')
    return [`What became of ${sourceWords(subject.from, nameOf)}`, 'In every table that is written']
  const { column, row, table, value, type = 'text' } = subject
  const of = `${nameOf(table)}, row ${row}`
  return column === undefined
    ? [`Row ${row}`, of]
    : [value === undefined || value === null ? 'empty' : writtenValue(value, type, writing), `${column} of ${of}`]
}

/** Where something comes from, or what became of it. What was asked before is one step back. */
export const TracePanel = ({
  recipe,
  subjects,
  data,
  show,
  close,
}: {
  /** The story with the draft that stands in it. */
  recipe: Recipe
  /** What was asked, the newest last. */
  subjects: readonly TraceSubject[]
  data?: QueryData | undefined
  show: (subjects: readonly TraceSubject[]) => void
  /** Absent where what is around it is closed. */
  close?: () => void
}) => {
  const subject = subjects.at(-1) as TraceSubject
  const [title, about] = headingOf(recipe, subject, useWriting())
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => heading.current?.focus(), [subject])
  const add = (next: TraceSubject): void => show([...subjects, next])
  const follow = (from: SourceName): void => add({ kind: 'forward', from })
  const open = (from: SourceName): void => {
    if ('entered' in from) return
    const { row, ...of } = from
    add({ kind: 'sheet', of, row })
  }
  return (
    <section
      aria-label="Where it comes from"
      className="flex min-h-0 flex-col overflow-auto border-l border-line bg-paper px-5 py-4"
    >
      <div className="mb-1 flex items-center gap-3">
        {subjects.length > 1 && (
          <Button look="link" className="py-0!" onClick={() => show(subjects.slice(0, -1))}>
            ← Back
          </Button>
        )}
        {close && (
          <Button look="quiet" className="ml-auto py-1!" onClick={close}>
            Close
          </Button>
        )}
      </div>
      <h2 ref={heading} tabIndex={-1} className="font-serif text-[18px] leading-tight font-semibold outline-none!">
        {title}
      </h2>
      <p className="mb-3 text-[12.5px] text-ink-3">{about}</p>
      {subject.kind === 'back' && (
        <BackView recipe={recipe} subject={subject} data={data} follow={follow} open={open} />
      )}
      {subject.kind === 'forward' && (
        <ForwardView recipe={recipe} from={subject.from} data={data} show={add} open={open} />
      )}
      {subject.kind === 'sheet' && (
        <SheetView recipe={recipe} of={subject.of} row={subject.row} data={data} follow={follow} />
      )}
      {subject.kind === 'lost' && <LostView recipe={recipe} subject={subject} data={data} follow={follow} />}
    </section>
  )
}
