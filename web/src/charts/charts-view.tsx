import { counted } from '@fabula/core'
import type { FlowReply, Picture } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import {
  lazy,
  Suspense,
  useEffect,
  useRef,
  useState,
  type Dispatch,
  type JSX,
  type RefObject,
  type SetStateAction,
  useEffectEvent,
} from 'react'
import { pictureQuery } from '../api/queries.ts'
import { isOfSample } from '../story/sample-figures.ts'
import type { Story } from '../story/use-story.ts'
import { download } from '../ui/download.ts'
import { Button } from '../ui/parts.tsx'
import type { ChartHandle } from './chart.tsx'
import { chartFor, nameOf } from './guess.ts'

const PictureChart = lazy(() => import('./chart.tsx'))
const kinds: readonly (readonly [Picture['kind'], string])[] = [
  ['bar', 'bars'],
  ['stacked', 'stacked bars'],
  ['line', 'a line'],
  ['pie', 'a pie'],
  ['scatter', 'points'],
  ['histogram', 'a spread'],
]
const hows: readonly (readonly [Picture['how'], string])[] = [
  ['count', 'the rows'],
  ['sum', 'the sum of'],
  ['mean', 'the mean of'],
  ['median', 'the median of'],
  ['min', 'the least'],
  ['max', 'the greatest'],
  ['distinct', 'the different values of'],
]

/** The table as a chart, said in a sentence of choices; kept with the flow it is drawn anew at every replay. */
export const ChartsView = ({ story }: { story: Story }) => {
  const { flow, endpoint, cursor, schemaHere, drawing, table } = story
  const handle = useRef<ChartHandle>(null)
  const [picture, setPicture] = useState<Picture>()
  const known = schemaHere.length > 0
  const drawAnew = useEffectEvent(() => {
    const columns = drawing?.columns ?? []
    if (known && table)
      setPicture(chartFor(columns.length > 0 ? columns : schemaHere.map(({ name }) => name), schemaHere, table.id))
  })
  useEffect(() => drawAnew(), [drawing, table?.id, known])
  const { data, error } = useQuery(pictureQuery(endpoint, flow.files, cursor, picture))
  const save = (pictures: readonly Picture[]): void => void story.save(flow.recipe, 'a picture', pictures)
  const kept = flow.pictures.filter((one) => one.table === table?.id)
  const isKept = picture !== undefined && flow.pictures.some((one) => one.id === picture.id)
  if (!picture) return <p className="p-6 text-ink-3">Nothing to draw yet.</p>
  const put = (next: Partial<Picture>): void => {
    const made = { ...picture, ...next }
    setPicture({ ...made, name: picture.name === nameOf(picture) ? nameOf(made) : picture.name })
  }
  const names = schemaHere.map(({ name }) => name)
  const numbers = schemaHere.filter(({ type }) => type === 'integer' || type === 'decimal').map(({ name }) => name)
  const select = (
    label: string,
    value: string,
    of: readonly (readonly [string, string])[],
    change: (value: string) => void,
  ) => (
    <select
      className="field max-w-[170px] font-sans text-[13px]"
      aria-label={label}
      value={value}
      onChange={(event) => change(event.target.value)}
    >
      {of.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  )
  const plain = (list: readonly string[]): (readonly [string, string])[] => list.map((name) => [name, name])
  const measured = picture.kind === 'scatter' || (picture.how !== 'count' && picture.kind !== 'histogram')
  const preposition = () => {
    if (picture.kind === 'scatter') return 'against'
    if (picture.kind === 'histogram') return 'of'
    return 'for each'
  }
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      {pictureTabs(select, picture, numbers, put, names, measured, plain, preposition, setPicture)}
      {pictureControls(picture, setPicture, isKept, story, save, flow, handle, kept)}
      <div className="min-h-0 flex-1 p-4">
        {error && <p className="text-removed">{error.message}</p>}
        {data && (
          <Suspense fallback={<p className="text-ink-3">Drawing…</p>}>
            <PictureChart
              ref={handle}
              picture={picture}
              data={data}
              choose={(at) => {
                const where = data.wheres[at]
                if (where) story.begin({ kind: 'filter', where })
              }}
            />
          </Suspense>
        )}
      </div>
      <p className="figures border-t border-line px-3.5 py-1.5 text-[12px] text-ink-3">
        {data && data.beyond > 0 ? `${counted(data.beyond, 'more label')} not drawn. ` : ''}
        {isOfSample(flow.files) ? 'Drawn of a sample. ' : ''}
        {picture.kind === 'scatter' ? 'At most 2,000 points, evenly picked.' : 'Click a part to see its rows.'}
      </p>
    </div>
  )
}

function pictureTabs(
  select: (
    label: string,
    value: string,
    of: readonly (readonly [string, string])[],
    change: (value: string) => void,
  ) => JSX.Element,
  picture: Picture,
  numbers: string[],
  put: (next: Partial<Picture>) => void,
  names: string[],
  measured: boolean,
  plain: (list: readonly string[]) => (readonly [string, string])[],
  preposition: () => 'against' | 'of' | 'for each',
  setPicture: Dispatch<SetStateAction<Picture | undefined>>,
) {
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line px-3.5 py-2.5 font-serif text-[14px]">
      Draw
      {select('Kind of picture', picture.kind, kinds, (kind) => {
        const columnsOfKind = () => {
          if (kind === 'scatter')
            return { label: numbers[0] ?? picture.label, column: numbers[1] ?? numbers[0] ?? picture.label }
          if (kind === 'histogram' && numbers[0] !== undefined && !numbers.includes(picture.label))
            return { label: numbers[0] }
          return {}
        }
        return put({
          kind: kind as Picture['kind'],
          ...columnsOfKind(),
        })
      })}
      {picture.kind !== 'scatter' && picture.kind !== 'histogram' && (
        <>
          of{' '}
          {select('What is measured', picture.how, hows, (how) => {
            const columnOfHow = () => {
              if (how === 'distinct') return picture.column ?? names[0] ?? ''
              if (picture.column !== undefined && numbers.includes(picture.column)) return picture.column
              return numbers[0] ?? names[0] ?? ''
            }
            return put({
              how: how as Picture['how'],
              column: columnOfHow(),
            })
          })}
        </>
      )}
      {measured &&
        select('Measured column', picture.column ?? '', plain(picture.how === 'distinct' ? names : numbers), (column) =>
          put({ column }),
        )}
      {preposition()}{' '}
      {select('Along', picture.label, plain(picture.kind === 'scatter' ? numbers : names), (label) => put({ label }))}
      {(picture.kind === 'bar' || picture.kind === 'stacked' || picture.kind === 'line') && (
        <>
          separated by{' '}
          {select(
            'Parted by',
            picture.series ?? '',
            [['', 'nothing'], ...plain(names.filter((name) => name !== picture.label))],
            (series) =>
              setPicture(
                series === ''
                  ? (Object.fromEntries(Object.entries(picture).filter(([key]) => key !== 'series')) as Picture)
                  : { ...picture, series },
              ),
          )}
        </>
      )}
    </div>
  )
}

function pictureControls(
  picture: Picture,
  setPicture: Dispatch<SetStateAction<Picture | undefined>>,
  isKept: boolean,
  story: Story,
  save: (pictures: readonly Picture[]) => void,
  flow: FlowReply,
  handle: RefObject<ChartHandle | null>,
  kept: readonly Picture[],
) {
  return (
    <div className="flex items-center gap-2 border-b border-line px-3.5 py-2">
      <input
        className="field w-[280px]"
        aria-label="Name of the picture"
        value={picture.name}
        onChange={(event) => setPicture({ ...picture, name: event.target.value })}
      />
      <Button
        look={isKept ? 'ghost' : 'main'}
        className="py-1!"
        disabled={story.saving}
        onClick={() =>
          save(
            isKept ? flow.pictures.map((one) => (one.id === picture.id ? picture : one)) : [...flow.pictures, picture],
          )
        }
      >
        {isKept ? 'Keep it so' : 'Keep the picture'}
      </Button>
      {isKept && (
        <Button
          look="quiet"
          className="py-1!"
          disabled={story.saving}
          onClick={() => save(flow.pictures.filter((one) => one.id !== picture.id))}
        >
          Take it out
        </Button>
      )}
      <Button
        look="quiet"
        className="py-1!"
        onClick={() => handle.current && download(picture.name, 'png', handle.current.image())}
      >
        Download as PNG
      </Button>
      <span className="ml-auto flex gap-1.5 overflow-hidden">
        {kept.map((one) => (
          <button
            key={one.id}
            type="button"
            aria-pressed={one.id === picture.id}
            className="max-w-[150px] truncate rounded border border-line px-2 py-0.5 text-[12.5px] text-ink-2 hover:text-ink aria-pressed:border-rubric aria-pressed:text-ink"
            onClick={() => setPicture(one)}
          >
            {one.name}
          </button>
        ))}
      </span>
    </div>
  )
}
