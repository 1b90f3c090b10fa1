import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { ownValue, selectedNames, type Schema, type Step, type StepOf } from '@fabula/core'
import { valuesQuery } from '../api/queries.ts'
import { Button, Segments } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'
import { without } from '../story/without.ts'

type LabelRulesValue = {
  readonly remove?: string | { readonly pattern: string }
  readonly renames?: Readonly<Record<string, string>>
}

/** What is taken off the names of columns before they stand in the rows, and what single ones are called. */
export const LabelsEditor = ({ step, schema, story }: { step: StepOf<'unpivot'>; schema: Schema; story: Story }) => {
  const labels = (step.labels as LabelRulesValue | undefined) ?? {}
  const pattern = typeof labels.remove === 'object'
  const set = (next: LabelRulesValue): void => {
    const kept = Object.fromEntries(
      Object.entries(next).filter(([key, value]) =>
        key === 'remove' ? value !== '' : Object.keys(value as object).length > 0,
      ),
    )
    story.reword((Object.keys(kept).length === 0 ? without(step, 'labels') : { ...step, labels: kept }) as Step)
  }
  const names = step.groups.flatMap(({ columns }) => selectedNames(columns, schema))
  const cleaned = [
    ...new Set(
      names.map((name) => {
        if (typeof labels.remove === 'string') return name.replaceAll(labels.remove, '')
        try {
          return typeof labels.remove === 'object' ? name.replace(new RegExp(labels.remove.pattern, 'gu'), '') : name
        } catch {
          return name
        }
      }),
    ),
  ]
  return (
    <div className="grid w-[380px] gap-2.5">
      <Segments
        label="What is taken off"
        value={pattern ? 'pattern' : 'text'}
        of={[
          ['text', 'take a text off'],
          ['pattern', 'take a pattern off'],
        ]}
        onChange={(way) => set({ ...labels, remove: way === 'pattern' ? { pattern: '^\\w+ ' } : '' })}
      />
      <input
        key={String(pattern)}
        className="field font-mono"
        aria-label="Taken off the names"
        defaultValue={typeof labels.remove === 'object' ? labels.remove.pattern : (labels.remove ?? '')}
        onChange={(event) =>
          set({ ...labels, remove: pattern ? { pattern: event.target.value || '^$' } : event.target.value })
        }
      />
      <ul className="max-h-[220px] overflow-auto">
        {cleaned.slice(0, 80).map((label) => (
          <li key={label} className="grid grid-cols-[1fr_auto_1fr] items-center gap-2 py-0.5">
            <span className="truncate font-data">{label === '' ? <i className="text-ink-3">empty</i> : label}</span>
            <span className="text-ink-3">called</span>
            <input
              className="field"
              aria-label={`${label} is called`}
              placeholder={label}
              defaultValue={ownValue(labels.renames, label) ?? ''}
              onChange={(event) =>
                set({
                  ...labels,
                  renames: Object.fromEntries(
                    Object.entries({ ...labels.renames, [label]: event.target.value }).filter(([, to]) => to !== ''),
                  ),
                })
              }
            />
          </li>
        ))}
      </ul>
    </div>
  )
}

/** Which labels become columns: whatever comes, or just these in this order. */
export const LabelsFoundEditor = ({ step, story }: { step: StepOf<'pivot'>; story: Story }) => {
  const found = step.found as readonly (string | number | null)[] | undefined
  const before = story.steps[story.steps.findIndex(({ id }) => id === step.id) - 1]?.id ?? ''
  const { data } = useQuery(
    valuesQuery(
      story.endpoint,
      story.flow.files,
      { ...story.cursor, step: before },
      before === '' ? '' : String(step.labels),
    ),
  )
  const [text, setText] = useState(found?.map((one) => String(one ?? '')).join('\n') ?? '')
  const fix = (labels: readonly string[]): void => {
    setText(labels.join('\n'))
    story.reword({ ...step, found: labels } as Step)
  }
  return (
    <div className="grid w-[320px] gap-2.5">
      <Segments
        label="Which labels"
        value={found ? 'these' : 'any'}
        of={[
          ['any', 'whatever comes'],
          ['these', 'just these'],
        ]}
        onChange={(way) =>
          way === 'any' ? story.reword(without(step, 'found')) : fix((data?.values ?? []).map(({ label }) => label))
        }
      />
      {found ? (
        <>
          <textarea
            className="field min-h-[110px]"
            aria-label="The labels, one a line"
            value={text}
            onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()}
            onChange={(event) => {
              setText(event.target.value)
              const labels = event.target.value.split('\n').filter((line) => line !== '')
              if (labels.length > 0) story.reword({ ...step, found: labels } as Step)
            }}
          />
          <p className="text-[12.5px] text-ink-3">
            Rows with another label are left out of these columns and counted; a replay with new labels says so.
          </p>
          <Button
            className="justify-self-start"
            onClick={() => fix((data?.values ?? []).map(({ label }) => label).sort())}
          >
            Those there are now, in order
          </Button>
        </>
      ) : (
        <p className="text-[12.5px] text-ink-3">
          Every label makes a column, in the order in which they first come. A new one next month makes one more.
        </p>
      )}
    </div>
  )
}
