import { useState, type ReactNode } from 'react'
import { Link, useNavigate } from 'react-router'
import { beginGuide, changeGuide, useGuide } from '../guide/guide-state.ts'
import { Button } from '../ui/parts.tsx'
import { samples, type Sample } from '../opening/samples.ts'

const CardFrame = ({ title, children, look = '' }: { title: string; children: ReactNode; look?: string }) => (
  <section
    aria-label={title}
    className={`flex min-w-0 flex-col items-start rounded-xl border border-line-strong bg-sheet px-5 py-4 ${look}`}
  >
    <h2 className="font-serif text-[18px] font-semibold">{title}</h2>
    {children}
  </section>
)

/** One's own file, or the recipe of a colleague: dropped, pasted or chosen. */
export const OwnFile = ({ over, busy, choose }: { over: boolean; busy: string | undefined; choose: () => void }) => (
  <CardFrame
    title="Start from your own file"
    look={`border-[1.5px] border-dashed border-rubric! ${over ? 'bg-rubric-tint!' : ''}`}
  >
    <p className="mt-1 mb-3 text-ink-2">
      Drop workbooks, text files, JSON or Parquet anywhere here, paste cells from a spreadsheet or a web page, or drop a
      recipe that a colleague sent.
    </p>
    <Button look="main" onClick={choose} disabled={busy !== undefined}>
      Choose files
    </Button>
    <p className="mt-3 text-[12.5px] text-ink-2">
      Or take it from{' '}
      <Link to="/sources" className="font-semibold text-rubric hover:underline">
        a web address, an OData service or a database
      </Link>
      , or from{' '}
      <Link to="/shelf" className="font-semibold text-rubric hover:underline">
        the shelf
      </Link>
      .
    </p>
    <p role="status" className="figures mt-1 min-h-5 text-ink-2">
      {busy}
    </p>
  </CardFrame>
)

/** Made-up exports of four makes, each with what is to be done with it. */
export const SampleList = ({ report }: { report: (problem: string | undefined) => void }) => {
  const navigate = useNavigate()
  const [opening, setOpening] = useState<string>()
  const begin = async (sample: Sample): Promise<void> => {
    report(undefined)
    setOpening(sample.id)
    try {
      const { beginSample } = await import('../opening/begin-sample.ts')
      await navigate(`/flows/${(await beginSample(sample)).id}`)
    } catch (error) {
      report((error as Error).message)
      setOpening(undefined)
    }
  }
  return (
    <CardFrame title="Try it on a sample">
      <ul className="mt-1 w-full">
        {samples.map((sample) => (
          <li key={sample.id} className="border-b border-line last:border-b-0">
            <button
              type="button"
              title={sample.task}
              disabled={opening !== undefined}
              className="flex w-full flex-wrap items-baseline gap-x-3 rounded py-1.5 text-left hover:bg-sunk"
              onClick={() => void begin(sample)}
            >
              <span className="font-medium">{sample.name}</span>
              <span className="ml-auto text-[12px] text-ink-2">
                {opening === sample.id ? 'being opened…' : sample.hint}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </CardFrame>
  )
}

/** The guided story: begun, or gone on with where it was left. */
export const GuidedStory = ({ report }: { report: (problem: string | undefined) => void }) => {
  const navigate = useNavigate()
  const guide = useGuide()
  const begin = async (): Promise<void> => {
    report(undefined)
    try {
      const { sampleFile } = await import('../opening/begin-sample.ts')
      const file = await sampleFile('visits-2031-05.csv')
      beginGuide()
      await navigate('/open', { state: { files: [file] } })
    } catch (error) {
      report((error as Error).message)
    }
  }
  const goOn = async (): Promise<void> => {
    changeGuide({ left: false })
    await navigate(`/flows/${guide?.flow ?? ''}`)
  }
  return (
    <CardFrame title="A guided first story">
      <p className="mt-1 mb-3 text-ink-2">
        Seven short cards beside the real thing: open, clean, match, reshape, check, replay on June, hand over. About
        ten minutes.
      </p>
      <span className="flex flex-wrap gap-2">
        {guide?.flow !== undefined && (
          <Button className="border-rubric! font-semibold text-rubric!" onClick={() => void goOn()}>
            Go on where you left it
          </Button>
        )}
        <Button
          className={guide?.flow === undefined ? 'border-rubric! font-semibold text-rubric!' : ''}
          onClick={() => void begin()}
        >
          {guide?.flow === undefined ? 'Begin' : 'Begin anew'}
        </Button>
      </span>
    </CardFrame>
  )
}
