import { counted } from '@fabula/core'
import type { RunReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { lazy, Suspense, useRef, useState } from 'react'
import { ask } from '../api/client.ts'
import type { ChartHandle } from '../charts/chart.tsx'
import { isNumeric, Written } from '../grid/cells.tsx'
import { clipboardCell } from '../grid/copy.ts'
import { download } from '../ui/download.ts'
import { Button } from '../ui/parts.tsx'

const PictureChart = lazy(() => import('../charts/chart.tsx'))

/** Puts the table on the clipboard as cells that a spreadsheet takes. */
const CopyTable = ({
  names,
  rows,
  whole,
  address,
}: {
  names: readonly string[]
  rows: readonly (readonly (string | null)[])[]
  whole: boolean
  address: string | undefined
}) => {
  const [message, setMessage] = useState('')
  const [problem, setProblem] = useState('')
  const copy = async (): Promise<void> => {
    setProblem('')
    try {
      const all = whole || address === undefined ? rows : (await ask(api.cellsReply, 'GET', address)).rows
      await navigator.clipboard.writeText([names, ...all].map((row) => row.map(clipboardCell).join('\t')).join('\n'))
      setMessage('copied')
    } catch (error) {
      setProblem((error as Error).message)
    }
    setTimeout(() => setMessage(''), 2000)
  }
  return (
    <>
      <Button className="ml-2 py-1! font-sans text-[13px] font-normal" onClick={() => void copy()}>
        {message || (whole || address !== undefined ? 'Copy it' : `Copy the first ${rows.length}`)}
      </Button>
      {problem !== '' && (
        <span role="alert" className="font-sans text-[12px] font-normal text-removed">
          {problem}
        </span>
      )}
    </>
  )
}

export const Result = ({ run, base, nameOf }: { run: RunReply; base: string; nameOf: (table: string) => string }) => (
  <>
    {run.outputs.filter(({ hash }, i) => hash !== '' && run.outputs.findIndex((other) => other.hash === hash) === i)
      .length > 1 && (
      <p className="mb-3">
        <a className="font-semibold text-rubric hover:underline" href={`${base}/runs/${run.id}/outputs.zip`} download>
          Download all as a zip
        </a>
      </p>
    )}
    {run.outputs.map(({ table, file, hash, into, rows, columns, first, names, types }, at) => (
      <section key={at} className="mb-6" aria-label={`${file}, ${nameOf(table)}`}>
        <h3 className="mb-1.5 flex items-center gap-3 font-serif text-[15px] font-semibold">
          {into === null ? file : `${file} of ${into}`}
          <span className="figures font-sans text-[12px] font-normal text-ink-3">
            {counted(rows, 'row')} × {counted(columns, 'column')}
            {into === null ? '' : ', written'}
          </span>
          {hash !== '' && (
            <a
              className="ml-auto rounded-md border border-line-strong px-3 py-1 font-sans text-[13px] font-normal text-ink-2 hover:text-ink"
              href={`${base}/runs/${run.id}/outputs/${at}`}
              download
            >
              Download {file}
            </a>
          )}
          <CopyTable
            names={names}
            rows={first}
            whole={rows <= first.length}
            address={hash === '' ? undefined : `${base}/runs/${run.id}/outputs/${at}/cells`}
          />
        </h3>
        <div
          className="max-h-[220px] overflow-auto border border-line"
          tabIndex={0}
          role="region"
          aria-label={`First rows of ${file}`}
        >
          <table className="figures w-full text-[12.5px]">
            <thead>
              <tr className="sticky top-0 bg-sunk text-left *:border-b *:border-line-strong *:px-2.5 *:py-1 *:font-semibold">
                {names.map((name, c) => (
                  <th key={name} scope="col" className={isNumeric(types[c] ?? 'text') ? 'text-right' : ''}>
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {first.map((row, i) => (
                <tr key={i} className="*:border-b *:border-line *:px-2.5 *:py-1">
                  {row.map((cell, c) => (
                    <td key={c} className={isNumeric(types[c] ?? 'text') ? 'text-right' : ''}>
                      <Written text={cell} type={types[c] ?? 'text'} />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </section>
    ))}
  </>
)

/** A picture of the flow, drawn from what this replay made. */
export const DrawnPicture = ({ picture, data }: RunReply['pictures'][number]) => {
  const handle = useRef<ChartHandle>(null)
  return (
    <section aria-label={picture.name} className="mb-6">
      <h3 className="mb-1 flex items-center font-serif text-[15px] font-semibold">
        {picture.name}
        <Button
          look="quiet"
          className="ml-auto py-1! font-sans text-[13px] font-normal"
          onClick={() => handle.current && download(picture.name, 'png', handle.current.image())}
        >
          Download as PNG
        </Button>
      </h3>
      <div className="h-[240px] border border-line p-2">
        <Suspense fallback={<p className="text-ink-3">Drawing…</p>}>
          <PictureChart ref={handle} picture={picture} data={data} />
        </Suspense>
      </div>
    </section>
  )
}
