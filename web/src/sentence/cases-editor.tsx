import { ownValue, counted, type Condition, type Schema, type Step, type StepOf } from '@fabula/core'
import { Button } from '../ui/parts.tsx'
import { ConditionEditor } from './condition-editor.tsx'
import type { Story } from '../story/use-story.ts'
import { ValueField } from './value-field.tsx'
import { type AnyValue } from '../story/values.ts'
import type { JSX } from 'react/jsx-runtime'

type CaseBranch = { readonly when: Condition; readonly then: AnyValue }

/** A ladder of conditions: the first that holds gives the value. Beside each the rows that it takes. */
export const CasesEditor = ({ step, schema, story }: { step: StepOf<'cases'>; schema: Schema; story: Story }) => {
  const cases = step.cases as readonly CaseBranch[]
  const notes = story.steps.find(({ id }) => id === step.id)?.statistics?.notes ?? {}
  const set = (next: readonly CaseBranch[]): void => story.reword({ ...step, cases: next } as Step)
  const put = (i: number, next: Partial<CaseBranch>): void =>
    set(cases.map((one, k) => (k === i ? { ...one, ...next } : one)))
  const swap = (i: number): void =>
    set(
      cases.map((one, k) => {
        if (k === i - 1) return cases[i] ?? one
        if (k === i) return cases[i - 1] ?? one
        return one
      }),
    )
  const rows = (key: string) => {
    const count = ownValue(notes, key)
    return (
      <span className="figures w-[76px] text-right text-[12px] text-ink-3">
        {count === undefined ? '' : counted(count, 'row')}
      </span>
    )
  }
  return (
    <div className="grid w-[640px] gap-2">
      {cases.map((one, i) => (
        <section
          key={`${i}/${cases.length}`}
          aria-label={`Case ${i + 1}`}
          className="grid gap-1.5 border-b border-line pb-2"
        >
          {branchHeading(i, one, schema, story, put, rows, swap, cases, set)}
          <div className="pl-[60px]">
            <ConditionEditor
              story={story}
              step={step}
              schema={schema}
              value={one.when}
              set={(when) => put(i, { when })}
            />
          </div>
        </section>
      ))}
      <div className="flex items-center gap-2">
        <b className="w-[52px] text-ink-2">else</b>
        <ValueField
          label="Value otherwise"
          value={(step.otherwise as AnyValue | undefined) ?? null}
          schema={schema}
          story={story}
          set={(otherwise) => story.reword({ ...step, otherwise } as Step)}
        />
        <span className="ml-auto">{rows('otherwise')}</span>
      </div>
      <Button
        className="justify-self-start"
        onClick={() =>
          set([
            ...cases,
            {
              when: {
                column:
                  cases.at(-1) && 'column' in (cases.at(-1)?.when ?? {})
                    ? String((cases.at(-1)?.when as { column: string }).column)
                    : (schema[0]?.name ?? ''),
                op: 'is-filled',
              },
              then: typeof cases[0]?.then === 'number' ? 0 : 'another',
            },
          ])
        }
      >
        Another case
      </Button>
    </div>
  )
}

function branchHeading(
  i: number,
  one: CaseBranch,
  schema: Schema,
  story: Story,
  put: (i: number, next: Partial<CaseBranch>) => void,
  rows: (key: string) => JSX.Element,
  swap: (i: number) => void,
  cases: readonly CaseBranch[],
  set: (next: readonly CaseBranch[]) => void,
) {
  return (
    <div className="flex items-center gap-2">
      <b className="w-[52px] text-ink-2">{i === 0 ? 'Write' : 'else'}</b>
      <ValueField
        label={`Value of case ${i + 1}`}
        value={one.then}
        schema={schema}
        story={story}
        set={(then) => put(i, { then })}
      />
      <span className="text-ink-2">where</span>
      <span className="ml-auto flex items-center gap-1">
        {rows(`case${i + 1}`)}
        <Button
          look="quiet"
          className="px-1.5! py-0.5!"
          aria-label={`Move case ${i + 1} up`}
          disabled={i === 0}
          onClick={() => swap(i)}
        >
          ↑
        </Button>
        <Button
          look="quiet"
          className="px-1.5! py-0.5!"
          aria-label={`Take case ${i + 1} out`}
          disabled={cases.length === 1}
          onClick={() => set(cases.filter((_, k) => k !== i))}
        >
          ×
        </Button>
      </span>
    </div>
  )
}
