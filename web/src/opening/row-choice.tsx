import { useState } from 'react'
import type { RowChoice } from '@fabula/core/api'

type Written = { readonly way: 'oneIn' | 'first'; readonly oneIn: string; readonly first: string }

/** What is written in the fields as a choice; undefined where it is no count. */
const choiceOf = ({ way, oneIn, first }: Written): RowChoice | undefined => {
  const count = Number((way === 'first' ? first : oneIn).replace(/[ ,]/g, ''))
  if (!Number.isInteger(count) || count < (way === 'first' ? 1 : 2)) return undefined
  return way === 'first' ? { first: count } : { oneIn: count }
}

/** The choice of rows of a large file, as it is written in the fields. @param way which one it begins with */
export const useRowChoice = (oneIn: number, way: Written['way']) => {
  const [written, setWritten] = useState<Written>({ way, oneIn: String(oneIn), first: '100000' })
  return { written, setWritten, choice: choiceOf(written) }
}

type FieldsProps = { written: Written; setWritten: (written: Written) => void }

/** One way to choose rows with its count; to write the count chooses the way. */
const Way = ({
  way,
  words,
  label,
  written,
  setWritten,
}: FieldsProps & { way: Written['way']; words: string; label: string }) => (
  <span className="flex items-center">
    <label>
      <input type="radio" name="way" checked={written.way === way} onChange={() => setWritten({ ...written, way })} />{' '}
      {words}
    </label>
    <input
      className="field figures mx-1 w-[100px] py-0.5! text-right"
      inputMode="numeric"
      aria-label={label}
      value={written[way]}
      onChange={(event) => setWritten({ ...written, way, [way]: event.target.value })}
    />
  </span>
)

/** Which rows of a large file a sample has. */
export const RowChoiceFields = (fields: FieldsProps) => (
  <fieldset className="grid gap-1.5">
    <legend className="sr-only">Which rows</legend>
    <Way way="oneIn" words="One row in" label="One row in how many" {...fields} />
    <Way way="first" words="The first rows:" label="How many first rows" {...fields} />
  </fieldset>
)
