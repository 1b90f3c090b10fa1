import { ownValue, type Schema } from '@fabula/core'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState, useEffectEvent } from 'react'
import { previewQuery, factsQuery } from '../api/queries.ts'
import { Segments } from '../ui/parts.tsx'
import { Written } from '../grid/cells.tsx'
import type { Story } from '../story/use-story.ts'
import type { BuilderAnswers, Ask, Builder } from '../story/builder.ts'
import { ValueField } from '../sentence/value-field.tsx'
import { type AnyValue } from '../story/values.ts'

const Question = ({
  ask,
  answers,
  put,
  story,
  schema,
}: {
  ask: Ask
  answers: BuilderAnswers
  put: (key: string, value: unknown) => void
  story: Story
  schema: Schema
}) => {
  const value = ownValue(answers, ask.key)
  return (
    <div className="grid gap-1">
      <span className="text-[12px] text-ink-3">{ask.words}</span>
      {ask.kind === 'choice' &&
        (ask.of.length <= 3 && ask.of.reduce((sum, [, words]) => sum + words.length, 0) < 34 ? (
          <Segments label={ask.words} value={String(value)} of={ask.of} onChange={(next) => put(ask.key, next)} />
        ) : (
          <select
            className="field"
            aria-label={ask.words}
            value={String(value)}
            onChange={(event) => put(ask.key, event.target.value)}
          >
            {ask.of.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        ))}
      {/* eslint-disable-next-line no-restricted-syntax -- the kind of an answer, not of a step */}
      {ask.kind === 'number' && (
        <input
          className="field figures w-[90px]"
          type="number"
          min={1}
          aria-label={ask.words}
          value={Number(value)}
          onChange={(event) => put(ask.key, event.target.valueAsNumber || 1)}
        />
      )}
      {ask.kind === 'text' && (
        <input
          className="field"
          aria-label={ask.words}
          value={String(value)}
          onChange={(event) => put(ask.key, event.target.value)}
        />
      )}
      {ask.kind === 'list' && (
        <textarea
          className="field min-h-[70px]"
          aria-label={ask.words}
          defaultValue={(value as readonly string[]).join('\n')}
          onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()}
          onChange={(event) =>
            put(
              ask.key,
              event.target.value.split('\n').filter((line) => line.trim() !== ''),
            )
          }
        />
      )}
      {ask.kind === 'column' && (
        <select
          className="field"
          aria-label={ask.words}
          value={String(value)}
          onChange={(event) => put(ask.key, event.target.value)}
        >
          {(ask.key === 'by' || ask.key === 'order') && (
            <option value="">{ask.key === 'by' ? 'all rows' : 'the rows as they are'}</option>
          )}
          {(story.draft ? schema : story.schemaHere)
            .filter(({ type }) => ask.types.length === 0 || ask.types.includes(type))
            .map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
        </select>
      )}
      {ask.kind === 'value' && (
        <ValueField
          label={ask.words}
          value={value as AnyValue}
          schema={schema}
          story={story}
          date={ask.date}
          set={(next) => put(ask.key, next)}
        />
      )}
    </div>
  )
}

/** The first rows of what is built, beside what it is built from. */
const Sample = ({ story, columns }: { story: Story; columns: readonly string[] }) => {
  const { data } = useQuery(previewQuery(story.endpoint, story.flow.files, story.cursor, 'after', 'all', 0))
  const step = story.draft?.step
  const measured = step && 'measures' in step ? step.measures[0]?.as : undefined
  const made = step && 'as' in step ? step.as : measured
  const at = data?.columns.findIndex(({ name }) => name === made) ?? -1
  const from = data?.columns.findIndex(({ name }) => name === columns[0]) ?? -1
  if (!data || at < 0 || from < 0) return null
  const seen = new Set<string>()
  const rows = data.rows.filter(({ cells }) => {
    const key = `${cells[from] ?? ''}\u0000${cells[at] ?? ''}`
    return !seen.has(key) && seen.add(key)
  })
  return (
    <table className="figures w-full table-fixed text-[12.5px]" aria-label="On the first rows">
      <tbody>
        {rows.slice(0, 6).map(({ row, cells }) => (
          <tr key={row} className="border-b border-line *:truncate *:py-[3px]">
            <td className="text-ink-2">
              <Written text={cells[from] ?? null} type={data.columns[from]?.type ?? 'text'} />
            </td>
            <td className="text-right font-medium">
              <Written text={cells[at] ?? null} type={data.columns[at]?.type ?? 'text'} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** The schema that the drafted sentences work on, and what is known of a column of it. */
const useBefore = (story: Story, column: string | undefined) => {
  // the drafted sentences work on what the saved story gives before them, which is known while their preview is under way
  const before = story.draft?.after ?? story.step?.id ?? ''
  const schema: Schema = story.story.data?.steps.find(({ id }) => id === before)?.columns ?? []
  const { data } = useQuery(
    factsQuery(
      story.endpoint,
      story.flow.files,
      { ...story.cursor, recipe: story.flow.recipe, step: before },
      column === undefined ? [] : [column],
    ),
  )
  return { schema, facts: ownValue(data?.facts, column ?? '') }
}

/** What a builder asks; every answer rewrites the sentence at once, and the table shows what it makes. */
export const BuilderPanel = ({
  builder,
  columns,
  given = {},
  story,
}: {
  builder: Builder
  columns: readonly string[]
  /** Answers that the verb gave itself. */
  given?: BuilderAnswers | undefined
  story: Story
}) => {
  const [answers, setAnswers] = useState<BuilderAnswers>()
  const { schema, facts } = useBefore(story, columns[0])
  const ready = schema.length > 0 && facts !== undefined
  const begin = useEffectEvent(() => {
    if (answers === undefined && ready) write({ ...builder.start(columns, schema, facts), ...given })
  })
  useEffect(() => begin(), [ready])
  const write = (next: BuilderAnswers): void => {
    setAnswers(next)
    const steps = builder.write(next, columns, schema, facts)
    if (steps.length > 0) story.begin(steps)
  }
  return (
    <section aria-label={builder.verb} className="grid gap-3">
      <h3 className="font-serif text-[14px] font-semibold">{builder.verb.replace(/…$/, '')}</h3>
      {answers === undefined ? (
        <p className="text-ink-3">Counting…</p>
      ) : (
        builder
          .asks(answers, columns, schema)
          .map((ask) => (
            <Question
              key={ask.key}
              ask={ask}
              answers={answers}
              put={(key, value) => write({ ...answers, [key]: value })}
              story={story}
              schema={schema}
            />
          ))
      )}
      {builder.says && answers && <p className="text-[12.5px] text-ink-2">{builder.says(answers, columns)}</p>}
      <Sample story={story} columns={columns} />
    </section>
  )
}
