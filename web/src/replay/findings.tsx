import { ownValue, capital, typeWords } from '@fabula/core'
import type { FitReply } from '@fabula/core/api'
import { Button } from '../ui/parts.tsx'

const marks: Readonly<Record<string, string>> = {
  'new-column': '+',
  'new-sheet': '+',
  'new-label': '+',
  'missing-sheet': '!',
  'missing-column': '!',
  'changed-type': '≈',
  'broken-step': '!',
  'lacking-file': '≈',
  'missing-label': '≈',
  'row-count': '≈',
  'new-value': '?',
  'known-name': '≈',
}
const adds = ['new-column', 'new-sheet', 'new-label']

type FitFinding = FitReply['findings'][number]
const breaks = ({ code, step }: FitFinding): boolean =>
  code === 'broken-step' || (code === 'missing-column' && step !== undefined)
/** How one input fits, by what was found in it alone. */
export const verdictOf = (findings: readonly FitFinding[]): FitReply['verdict'] => {
  if (findings.some(breaks)) return 'does-not-fit'
  if (findings.some(({ code }) => code === 'missing-column' || code === 'changed-type' || code === 'missing-sheet'))
    return 'fits-with-changes'
  return 'fits'
}

export type FindingAnswers = {
  /** Columns of the new files, and the columns of the story that they are read as. */
  readonly accepted: Readonly<Record<string, string>>
  readonly accept: (from: string, to: string) => void
  readonly undo: (from: string) => void
  /** Writes an answer into the story, or takes it out again; absent where the story may not be changed. */
  readonly keep?:
    | ((
        finding: { readonly input: string; readonly step?: string | undefined; readonly column?: string | undefined },
        offer: FitFinding['offers'][number],
      ) => void)
    | undefined
  readonly forget?: ((from: string) => void) | undefined
}

/** What the new files of an input have that the story did not expect, with what can be answered. */
const toneOf = (finding: FitFinding): string => {
  if (adds.includes(finding.code)) return 'text-added'
  return breaks(finding) ? 'text-removed' : 'text-changed'
}

export const Findings = ({
  report,
  input,
  known,
  answers: { accepted, accept, undo, keep, forget },
}: {
  report: FitReply
  input: string
  known: Readonly<Record<string, readonly string[]>>
  answers: FindingAnswers
}) => {
  const findings = report.findings.filter((finding) => finding.input === input)
  const answers = Object.entries(accepted)
  if (findings.length + answers.length === 0) return null
  return (
    <ul className="mt-2.5 grid gap-[7px] border-t border-line pt-2.5">
      {answers.map(([from, to]) => (
        <li key={from} className="grid grid-cols-[18px_1fr] gap-2">
          <b className="text-changed">≈</b>
          <span>
            <b className="font-serif">{from}</b> is read as <b className="font-serif">{to}</b>, for this replay.{' '}
            {keep && (
              <Button
                look="link"
                className="mr-3 py-0!"
                onClick={() => keep({ input, column: to }, { do: 'rename', column: from, why: '' })}
              >
                Keep it for good
              </Button>
            )}
            <Button look="link" className="py-0!" onClick={() => undo(from)}>
              Take back
            </Button>
          </span>
        </li>
      ))}
      {findings.map((finding) => (
        <li key={finding.sentence} className="grid grid-cols-[18px_1fr] gap-2">
          <b className={toneOf(finding)}>{ownValue(marks, finding.code) ?? '·'}</b>
          <span>
            {finding.sentence}{' '}
            {finding.offers.map((offer, i) => {
              const answerText = () => {
                if (offer.do === 'expect') {
                  if (finding.code === 'changed-type') return `Take it as ${typeWords[offer.type]} from now on`
                  return 'Expect it from now on'
                }
                if (offer.do === 'read-as') return `Read it as ${typeWords[offer.type]} from now on`
                if (offer.do === 'do-without') return 'Do without it from now on'
                return capital(offer.why)
              }
              return offer.do === 'rename' ? (
                <button
                  key={i}
                  type="button"
                  title={offer.why}
                  className="mr-3 font-semibold text-rubric hover:underline"
                  onClick={() => accept(offer.column, finding.column ?? '')}
                >
                  Read {offer.column} as {finding.column}
                </button>
              ) : (
                keep && (
                  <button
                    key={i}
                    type="button"
                    title={offer.why}
                    className="mr-3 font-semibold text-rubric hover:underline"
                    onClick={() => keep(finding, offer)}
                  >
                    {answerText()}
                  </button>
                )
              )
            })}
            {finding.offers.map(
              (offer, i) =>
                offer.do === 'read-as' &&
                keep && (
                  <span
                    key={i}
                    className="block text-[12px] text-ink-2"
                  >{`As ${typeWords[offer.type]}, ${offer.why}.`}</span>
                ),
            )}
            {finding.code === 'known-name' &&
              forget &&
              ownValue(known, finding.column ?? '')?.map((name) => (
                <Button key={name} look="link" className="py-0!" onClick={() => forget(name)}>
                  Read {name} as itself again
                </Button>
              ))}
          </span>
        </li>
      ))}
    </ul>
  )
}
