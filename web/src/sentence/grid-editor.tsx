import { scalarTypes, typeWords, type ColumnType, type Step, type StepOf } from '@fabula/core'
import { Button } from '../ui/parts.tsx'

type GridCell = string | number | boolean | null
type Columns = readonly { readonly name: string; readonly type: ColumnType }[]

/** Text as the value of a type where it reads as one; else it stays text, and the sentence says what is wrong. */
const valueOf = (text: string, type: ColumnType): GridCell => {
  if (text === '') return null
  if ((type === 'integer' || type === 'decimal') && /^[-+]?[0-9]*\.?[0-9]+$/.test(text.trim())) return Number(text)
  if (type === 'boolean' && /^(?:true|false)$/i.test(text.trim())) return text.trim().toLowerCase() === 'true'
  return text
}

/** A small table to type in: it grows at its foot, and takes pasted cells. */
export const GridEditor = ({ step, reword }: { step: StepOf<'enter'>; reword: (step: Step) => void }) => {
  const columns = step.columns as Columns
  const rows = step.rows as readonly (readonly GridCell[])[]
  const set = (next: { columns?: Columns; rows?: readonly (readonly GridCell[])[] }): void =>
    reword({ ...step, columns, rows, ...next } as Step)
  const put = (r: number, c: number, values: readonly (readonly string[])[]): void => {
    const width = Math.max(columns.length, ...values.map((line) => c + line.length))
    const wider: Columns = [
      ...columns,
      ...Array.from({ length: width - columns.length }, (_, i) => ({
        name: `Column ${columns.length + i + 1}`,
        type: 'text' as const,
      })),
    ]
    const next = Array.from({ length: Math.max(rows.length, r + values.length) }, (_, i) =>
      Array.from({ length: width }, (_, k): GridCell => {
        const text = values[i - r]?.[k - c]
        return text === undefined ? (rows[i]?.[k] ?? null) : valueOf(text, wider[k]?.type ?? 'text')
      }),
    )
    set({ columns: wider, rows: next })
  }
  return (
    <div className="grid max-w-[600px] gap-2">
      <div className="max-h-[320px] overflow-auto">
        <table className="border-collapse">
          {gridHeads(columns, set, rows)}
          <tbody>
            {[...rows, []].map((row, r) => (
              <tr key={r}>
                {columns.map((_, c) => (
                  <td key={c} className="border border-line p-0">
                    <input
                      className="w-[130px] bg-transparent px-2 py-1"
                      aria-label={`Row ${r + 1}, ${columns[c]?.name ?? ''}`}
                      value={row[c] === null || row[c] === undefined ? '' : String(row[c])}
                      onChange={(event) => put(r, c, [[event.target.value]])}
                      onPaste={(event) => {
                        const lines = event.clipboardData
                          .getData('text/plain')
                          .replace(/\r?\n$/, '')
                          .split(/\r?\n/)
                          .map((line) => line.split('\t'))
                        if (lines.length === 1 && lines[0]?.length === 1) return
                        event.preventDefault()
                        put(r, c, lines)
                      }}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="flex gap-2">
        <Button
          onClick={() =>
            set({
              columns: [...columns, { name: `Column ${columns.length + 1}`, type: 'text' }],
              rows: rows.map((row) => [...row, null]),
            })
          }
        >
          Another column
        </Button>
        <Button disabled={rows.length === 0} onClick={() => set({ rows: rows.slice(0, -1) })}>
          Take the last row out
        </Button>
        <Button
          disabled={columns.length === 1}
          onClick={() =>
            set({ columns: columns.slice(0, -1), rows: rows.map((row) => row.slice(0, columns.length - 1)) })
          }
        >
          Take the last column out
        </Button>
      </div>
    </div>
  )
}

function gridHeads(
  columns: Columns,
  set: (next: { columns?: Columns; rows?: readonly (readonly GridCell[])[] }) => void,
  rows: readonly (readonly GridCell[])[],
) {
  return (
    <thead>
      <tr>
        {columns.map((column, c) => (
          <th key={c} scope="col" className="border border-line p-1 text-left">
            <input
              className="field w-[120px] font-semibold"
              aria-label={`Name of column ${c + 1}`}
              value={column.name}
              onChange={(event) =>
                event.target.value &&
                set({ columns: columns.map((one, k) => (k === c ? { ...one, name: event.target.value } : one)) })
              }
            />
            <select
              className="mt-1 block text-[12px] text-ink-2"
              aria-label={`Type of column ${c + 1}`}
              value={column.type}
              onChange={(event) =>
                set({
                  columns: columns.map((one, k) =>
                    k === c ? { ...one, type: event.target.value as ColumnType } : one,
                  ),
                  rows: rows.map((row) =>
                    row.map((cell, k) =>
                      k === c && cell !== null ? valueOf(String(cell), event.target.value as ColumnType) : cell,
                    ),
                  ),
                })
              }
            >
              {scalarTypes.map((type) => (
                <option key={type} value={type}>
                  {typeWords[type]}
                </option>
              ))}
            </select>
          </th>
        ))}
      </tr>
    </thead>
  )
}
