import { useState } from 'react'
import type { RowChoice } from '@fabula/core/api'

const Count = ({ label, value, change }: { label: string; value: string; change: (value: string) => void }) => (
  <input
    className="field figures mx-1 w-[100px] py-0.5! text-right"
    inputMode="numeric"
    aria-label={label}
    value={value}
    onChange={(event) => change(event.target.value)}
  />
)

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

/** Which rows of a large file a sample has. */
export const RowChoiceFields = ({
  written,
  setWritten,
}: Pick<ReturnType<typeof useRowChoice>, 'written' | 'setWritten'>) => {
  const { way, oneIn, first } = written
  return (
    <fieldset className="grid gap-1.5">
      <legend className="sr-only">Which rows</legend>
      <span className="flex items-center">
        <label>
          <input
            type="radio"
            name="way"
            checked={way === 'oneIn'}
            onChange={() => setWritten({ ...written, way: 'oneIn' })}
          />{' '}
          One row in
        </label>
        <Count
          label="One row in how many"
          value={oneIn}
          change={(value) => setWritten({ ...written, way: 'oneIn', oneIn: value })}
        />
      </span>
      <span className="flex items-center">
        <label>
          <input
            type="radio"
            name="way"
            checked={way === 'first'}
            onChange={() => setWritten({ ...written, way: 'first' })}
          />{' '}
          The first rows:
        </label>
        <Count
          label="How many first rows"
          value={first}
          change={(value) => setWritten({ ...written, way: 'first', first: value })}
        />
      </span>
    </fieldset>
  )
}
