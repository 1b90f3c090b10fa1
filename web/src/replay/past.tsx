import { counted, figure } from '@fabula/core'
import type { EditionsReply, RunReply, RunSummary } from '@fabula/core/api'
import { Button } from '../ui/parts.tsx'
import { fileWords } from '../story/sample-figures.ts'
import { moment } from '../ui/moments.ts'
import { answerWords } from './replay-model.ts'

/** The edition that a replay ran, or when the story had last been changed. */
const storyWords = (run: RunReply, editions: EditionsReply['editions']): string => {
  const edition = editions.find(({ edit }) => edit === run.edit)
  return edition ? `the edition ${edition.name}` : `the story as changed on ${moment(run.editAt)}`
}
/** What a replay made is the same to the byte as what another one made. */
const sameFiles = (run: RunReply, other: RunSummary): boolean =>
  run.outputs.every(
    ({ hash, file, table }) =>
      hash === '' || other.outputs.some((one) => one.file === file && one.table === table && one.hash === hash),
  )

/** What a replay was run from: its files, answers, parameters, story; and whether one that was run again came out the same. */
export const ReplayInputs = ({
  run,
  runs,
  editions,
  nameOf,
  again,
}: {
  run: RunReply
  runs: readonly RunSummary[]
  editions: EditionsReply['editions']
  nameOf: (input: string) => string
  again: () => void
}) => {
  const repeated = runs.find(({ id }) => id === run.repeats)
  const values = Object.entries(run.parameters)
  return (
    <section aria-label="What it was told from" className="mb-5 rounded-xl border border-line px-4 py-3 text-[12.5px]">
      <div className="flex items-center gap-3">
        <b className="font-serif text-[14px]">Replay of {moment(run.startedAt)}</b>
        {run.by !== null && <span className="text-ink-2">by the link for {run.by}</span>}
        {run.alone && <span className="text-ink-2">by itself</span>}
        {run.state !== 'running' && (
          <Button className="ml-auto py-1!" onClick={again}>
            Tell it again exactly
          </Button>
        )}
      </div>
      <dl className="mt-1.5 grid grid-cols-[110px_1fr] gap-x-3 gap-y-0.5 text-ink-2">
        <dt className="text-ink-3">Story</dt>
        <dd>{storyWords(run, editions)}</dd>
        {Object.entries(run.cluster?.paths ?? {}).map(([input, paths]) => (
          <div key={input} className="contents">
            <dt className="text-ink-3">{nameOf(input)}</dt>
            <dd className="figures break-all">{paths.join(', ')}, by the cluster</dd>
          </div>
        ))}
        {Object.entries(run.cluster?.files ?? {}).map(([input, files]) => (
          <div key={input} className="contents">
            <dt className="text-ink-3">{nameOf(input)}</dt>
            <dd className="figures">{files.map(({ name }) => name).join(', ')}, copied for the cluster</dd>
          </div>
        ))}
        {run.files.map(({ input, name, rows, hash, sample }) => (
          <div key={`${input}${hash}`} className="contents">
            <dt className="text-ink-3">{nameOf(input)}</dt>
            <dd className="figures" title={`SHA-256 ${hash}`}>
              {fileWords({ name, sample })}, {counted(rows, 'row')}
            </dd>
          </div>
        ))}
        {run.answers.map((answer) => (
          <div key={JSON.stringify(answer)} className="contents">
            <dt className="text-ink-3">Answer</dt>
            <dd>{answerWords(answer)}</dd>
          </div>
        ))}
        {values.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-3">{name}</dt>
            <dd className="figures">{value}</dd>
          </div>
        ))}
        <dt className="text-ink-3">Told as of</dt>
        <dd className="figures">{new Date(run.clock).toISOString().slice(0, 19).replace('T', ' ')}</dd>
      </dl>
      {repeated && run.state === 'done' && run.outputs.some(({ hash }) => hash !== '') && (
        <p className={`mt-1.5 font-medium ${sameFiles(run, repeated) ? 'text-added' : 'text-removed'}`}>
          {sameFiles(run, repeated)
            ? `✓ The same to the byte as the replay of ${moment(repeated.startedAt)}, which it tells again.`
            : `≠ Not the same as the replay of ${moment(repeated.startedAt)}, which it tells again.`}
          {repeated.outputs.some(({ into }) => into !== null) && ' Tables of databases were not written again.'}
        </p>
      )}
    </section>
  )
}

const states: Readonly<Record<RunReply['state'], string>> = {
  running: '… running',
  done: '✓ done',
  failed: '! failed',
  stopped: '– stopped',
}

const stateTones: Readonly<Record<RunReply['state'], string>> = {
  running: 'text-changed',
  done: 'text-added',
  failed: 'text-removed',
  stopped: 'text-removed',
}

/** Every replay, the newest first. */
export const PastReplays = ({
  runs,
  shown,
  show,
}: {
  runs: readonly RunSummary[]
  shown: string
  show: (id: string) => void
}) => (
  <section aria-label="Past replays">
    <h2 className="mb-1 font-serif text-[16px] font-semibold">Past replays</h2>
    <ul>
      {runs.map((run) => {
        const unit = () => {
          if (run.outputs.length > 0) {
            if (run.outputs.length === 1 && run.outputs[0]?.rows === 1) return ' row'
            return ' rows'
          }
          return ''
        }
        return (
          <li key={run.id} className="border-b border-line">
            <button
              type="button"
              aria-current={run.id === shown}
              className="figures grid w-full grid-cols-[110px_1fr_auto_auto] gap-2 py-1.5 text-left text-[12.5px] text-ink-2 hover:text-ink aria-[current=true]:bg-rubric-tint aria-[current=true]:text-ink"
              onClick={() => show(run.id)}
            >
              <span>{moment(run.startedAt)}</span>
              <span className="truncate">
                {[...new Set(run.files.map(({ name }) => name))].join(', ')}
                {run.cluster !== null && 'on the cluster'}
                {run.by !== null && ` · ${run.by}`}
                {run.alone && ' · by itself'}
                {run.repeats !== null && ' · told again'}
                {run.answers.length > 0 && ` · ${counted(run.answers.length, 'answer')}`}
              </span>
              <span className="text-right">
                {run.state === 'running' ? run.doing : run.outputs.map(({ rows }) => figure(rows)).join(' + ') + unit()}
              </span>
              {run.state === 'done' && run.open > 0 ? (
                <span className="text-changed">≈ {counted(run.open, 'thing')} to look at</span>
              ) : (
                <span className={stateTones[run.state]}>{states[run.state]}</span>
              )}
            </button>
          </li>
        )
      })}
      {runs.length === 0 && <li className="py-2 text-ink-3">None yet.</li>}
    </ul>
  </section>
)
