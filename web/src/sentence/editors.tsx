import type { ReactNode } from 'react'
import {
  isKind,
  ownValue,
  scalarTypes,
  stepKinds,
  typeWords,
  type Cleaning,
  type ColumnType,
  type Condition,
  type Editor,
  type Schema,
  type Selector,
  type SentenceSlot,
  type Step,
} from '@fabula/core'
import type { Story } from '../story/use-story.ts'
import type { AnyValue } from '../story/values.ts'
import { CasesEditor } from './cases-editor.tsx'
import { ColumnList, ColumnsEditor, RenamesEditor, SortEditor, type SortKeyValue } from './column-editors.tsx'
import { ConditionEditor } from './condition-editor.tsx'
import { FormulaEditor } from './formula-editor.tsx'
import { GridEditor } from './grid-editor.tsx'
import { LabelsEditor, LabelsFoundEditor } from './label-editors.tsx'
import type { MeasureValue } from './measure-model.ts'
import { MeasureRows, PivotValueRows, WindowRows } from './measure-rows.tsx'
import { TextEditor, ChangeEditor, FormatsEditor, SliceEditor, NumberEditor } from './plain-editors.tsx'
import { CheckEditor, TableEditor } from './table-editors.tsx'
import { PiecesEditor, SeparatorEditor, TakeEditor } from './text-editors.tsx'
import { CleaningsEditor, PairsEditor, typeHere, ValuesEditor, writtenAs, type PlainValue } from './value-editors.tsx'
import { ValueField } from './value-field.tsx'
import { NumberSigns } from '../ui/number-signs.tsx'
import { without } from '../story/without.ts'

type EditPath = readonly (string | number)[]
export const at = (value: unknown, path: EditPath): unknown =>
  path.reduce<unknown>((one, key) => ownValue(one as Record<string, unknown> | undefined, String(key)), value)
const put = (value: unknown, path: EditPath, next: unknown): unknown => {
  const [first, ...rest] = path
  if (first === undefined) return next
  if (Array.isArray(value)) return value.map((one, i) => (i === first ? put(one, rest, next) : (one as unknown)))
  return {
    ...(value as object),
    [first]: put(ownValue(value as Record<string, unknown> | undefined, String(first)), rest, next),
  }
}

/** What the params hold at a slot, by its editor; `unknown` where the editor reads the whole step. */
type SlotValues = { readonly [E in Editor]: unknown } & {
  readonly columns: Selector | undefined
  readonly column: Readonly<Record<string, string>> | undefined
  readonly name: string | undefined
  readonly text: string | undefined
  readonly number: number | undefined
  readonly condition: Condition
  readonly formula: string | undefined
  readonly types: ColumnType | undefined
  readonly formats: readonly string[] | undefined
  readonly measures: readonly MeasureValue[]
  readonly windowMeasures: readonly MeasureValue[]
  readonly pivotValues: readonly MeasureValue[]
  readonly sortKeys: readonly SortKeyValue[] | undefined
  readonly renames: Record<string, string> | undefined
  readonly change: Record<string, unknown> | undefined
  readonly oneColumn: string | undefined
  readonly values: readonly PlainValue[] | undefined
  readonly cleanings: readonly Cleaning[] | undefined
  readonly value: AnyValue | undefined
}
type EditorProps<E extends Editor> = {
  readonly value: SlotValues[E]
  readonly slot: SentenceSlot
  readonly step: Step
  readonly story: Story
  /** The columns before the step. */
  readonly schema: Schema
  readonly set: (next: unknown) => void
  readonly close: () => void
}

const ChoiceEditor = ({ slot, set, close }: EditorProps<'choice'>) => {
  const parsed = (key: string): unknown => {
    if (key === 'true') return true
    return key === 'false' ? false : key
  }
  return (
    <div className="grid gap-0.5">
      {slot.choices?.map(([key, words]) => (
        <button
          key={key}
          type="button"
          className="rounded px-2 py-1 text-left hover:bg-sunk"
          onClick={() => (set(parsed(key)), close())}
        >
          {words}
        </button>
      ))}
    </div>
  )
}

const TypesEditor = ({ value, step, schema, story, set, close }: EditorProps<'types'>) => (
  <div className="grid gap-0.5">
    {scalarTypes.map((type) => (
      <button
        key={type}
        type="button"
        aria-pressed={type === value}
        className="rounded px-2 py-1 text-left hover:bg-sunk aria-pressed:font-semibold"
        onClick={() => (set(type), close())}
      >
        {typeWords[type]}
      </button>
    ))}
    {isKind(step, 'cast') && (value === 'decimal' || value === 'integer') && typeHere(step, schema) === 'text' && (
      <label className="mt-1 flex items-center justify-between gap-3 border-t border-line px-2 pt-2">
        Numbers are written
        <NumberSigns
          value={step.locale}
          set={(locale) => story.reword(locale ? { ...step, locale } : without(step, 'locale'))}
        />
      </label>
    )}
  </div>
)

const NameEditor = ({ slot, value, set, close }: EditorProps<'name' | 'text'>) => (
  <TextEditor label={slot.editor === 'name' ? 'Name' : 'Text'} value={String(value ?? '')} set={set} done={close} />
)

/** The steps whose selector may be empty: they then make one group of all rows. */
const byMayBeEmpty = (step: Step): boolean => stepKinds[step.kind].groupsByNone === true

/** The editors of a sentence's slots. Those of workbenches (`groups`, `join`, `union`) stand beside the table instead. */
const slotEditors: { readonly [E in Editor]: (props: EditorProps<E>) => ReactNode } = {
  columns: ({ value, schema, set, step }) => (
    <ColumnsEditor value={value ?? { all: true }} schema={schema} set={set} mayBeNone={byMayBeEmpty(step)} />
  ),
  column: ({ value, schema, set }) => (
    <ColumnList
      names={schema.map(({ name }) => name)}
      chosen={Object.keys(value ?? {})}
      toggle={(name) => set({ [name]: name })}
    />
  ),
  oneColumn: ({ value, schema, set, close }) => (
    <ColumnList
      names={schema.map(({ name }) => name)}
      chosen={[String(value)]}
      toggle={(name) => (set(name), close())}
    />
  ),
  name: NameEditor,
  text: NameEditor,
  number: ({ value, set, close }) => <NumberEditor value={value} set={set} done={close} />,
  choice: ChoiceEditor,
  condition: ({ story, step, schema, value, set }) => (
    <ConditionEditor story={story} step={step} schema={schema} value={value} set={set} />
  ),
  formula: ({ value, schema, story, set }) => (
    <FormulaEditor value={value ?? ''} schema={schema} parameters={story.recipe.parameters ?? []} set={set} />
  ),
  types: TypesEditor,
  formats: ({ value, step, story }) => (
    <FormatsEditor
      value={value ?? []}
      set={(formats) => {
        const { formats: _formats, ...rest } = step as Step & { readonly formats?: unknown }
        story.reword((formats.length > 0 ? { ...rest, formats } : rest) as Step)
      }}
    />
  ),
  measures: ({ value, schema, set }) => <MeasureRows value={value} schema={schema} set={set} />,
  windowMeasures: ({ value, schema, set }) => <WindowRows value={value} schema={schema} set={set} />,
  pivotValues: ({ value, schema, set }) => <PivotValueRows value={value} schema={schema} set={set} />,
  sortKeys: ({ value, schema, set }) => <SortEditor value={value ?? []} schema={schema} set={set} />,
  renames: ({ value, schema, set, close }) => (
    <RenamesEditor value={value ?? {}} schema={schema} set={set} done={close} />
  ),
  change: ({ value, set }) => <ChangeEditor value={value ?? {}} set={set} />,
  slice: ({ step, story }) =>
    isKind(step, 'slice') && (
      <SliceEditor step={step} set={(params) => story.reword({ id: step.id, kind: 'slice', ...params } as Step)} />
    ),
  open: () => <p>No file stands here yet. Drop one on the Replay page.</p>,
  pairs: ({ step, schema, story }) =>
    isKind(step, 'replace') && <PairsEditor step={step} schema={schema} story={story} />,
  grid: ({ step, story }) => isKind(step, 'enter') && <GridEditor step={step} reword={story.reword} />,
  values: ({ value, step, schema, set }) => (
    <ValuesEditor value={value ?? []} type={typeHere(step, schema)} set={set} />
  ),
  cleanings: ({ value, set }) => <CleaningsEditor value={value ?? []} set={set} />,
  value: ({ value, step, schema, story, set, close }) => (
    <ValueField
      label="Value"
      value={value ?? null}
      schema={schema}
      story={story}
      set={set}
      read={(text) => (text === '' ? null : writtenAs(text, typeHere(step, schema)))}
      done={close}
    />
  ),
  cases: ({ step, schema, story }) =>
    isKind(step, 'cases') && <CasesEditor step={step} schema={schema} story={story} />,
  table: ({ step, story }) => isKind(step, 'start-from') && <TableEditor step={step} story={story} />,
  check: ({ step, schema, story }) =>
    isKind(step, 'check') && <CheckEditor step={step} schema={schema} story={story} />,
  labels: ({ step, schema, story }) =>
    isKind(step, 'unpivot') && <LabelsEditor step={step} schema={schema} story={story} />,
  labelsFound: ({ step, story }) => isKind(step, 'pivot') && <LabelsFoundEditor step={step} story={story} />,
  separator: ({ step, story }) => isKind(step, 'split') && <SeparatorEditor step={step} story={story} />,
  pieces: ({ step, story }) => isKind(step, 'split') && <PiecesEditor step={step} story={story} />,
  take: ({ step, story }) => isKind(step, 'extract') && <TakeEditor step={step} story={story} />,
  groups: () => null,
  join: () => null,
  union: () => null,
}

/** The editor of a slot: every change is a new draft at once. */
export const SlotEditor = ({
  slot,
  step,
  story,
  close,
}: {
  slot: SentenceSlot
  step: Step
  story: Story
  close: () => void
}) => {
  // the recipe's schema holds that a slot's path leads to what its editor takes
  const Render = slotEditors[slot.editor] as (props: EditorProps<Editor>) => ReactNode
  return (
    <Render
      value={at(step, slot.path)}
      slot={slot}
      step={step}
      story={story}
      schema={story.schemaBefore(step.id)}
      set={(next) => story.reword(put(step, slot.path, next) as Step)}
      close={close}
    />
  )
}
