import { answerTo, ownValue, type Answer, type CompatibilityFinding } from '@fabula/core'
import { Button } from '../ui/parts.tsx'
import { FindingRowsLink } from './shown-rows.tsx'
import { answerWords, holdsForGood, offerWords } from './replay-model.ts'

const edges: Readonly<Record<CompatibilityFinding['grade'], string>> = {
  fits: 'border-l-line-strong',
  changes: 'border-l-changed',
  breaks: 'border-l-removed',
  refused: 'border-l-removed',
}

/** Something that needs an answer, with what each answer does. */
export const FindingCard = ({
  finding,
  give,
  setValue,
  disabled,
}: {
  finding: CompatibilityFinding
  give: (answer: Answer) => void
  /** Gives a value that is asked for. */
  setValue: (parameter: string, value: string) => void
  disabled: boolean
}) => (
  <div
    role="group"
    aria-label={finding.sentence}
    className={`mb-2.5 rounded-xl border border-l-[3px] border-line bg-sheet px-4 py-3 ${edges[finding.grade]}`}
  >
    <p className="font-serif text-[14px]">
      {finding.sentence} <FindingRowsLink finding={finding} />
    </p>
    {finding.offers.length > 0 && (
      <div className="mt-2 flex flex-wrap gap-2">
        {finding.code === 'parameter' &&
          finding.values?.map((value) => (
            <Button
              key={value}
              className="py-1! text-left text-[13px]"
              disabled={disabled}
              onClick={() => setValue(finding.parameter ?? '', value)}
            >
              {value}
            </Button>
          ))}
        {finding.offers.map((offer, i) => (
          <Button
            key={i}
            className="py-1! text-left text-[13px]"
            data-offer=""
            title={offer.why}
            disabled={disabled}
            onClick={() => give(answerTo(finding, offer))}
          >
            {offerWords(finding, offer)}
          </Button>
        ))}
      </div>
    )}
  </div>
)

/** The answers that hold, each of which can be taken back, or kept for good. */
export const AnswersGiven = ({
  answers,
  takeBack,
  keepForGood,
}: {
  answers: readonly Answer[]
  takeBack: (answer: Answer) => void
  /** Absent where the story may not be changed. */
  keepForGood?: ((answer: Answer) => void) | undefined
}) =>
  answers.length === 0 ? null : (
    <section aria-label="Answers given" className="mb-3">
      <h2 className="mb-1 font-serif text-[14px] font-semibold">Answers given</h2>
      <ul>
        {answers.map((answer) => (
          <li key={JSON.stringify(answer)} className="flex flex-wrap gap-x-3 border-b border-line py-1 text-[13px]">
            <span className="flex-1">
              <span className="text-added">✓</span> {answerWords(answer)}, for this replay.
            </span>
            {keepForGood && holdsForGood(answer) && (
              <Button look="link" className="py-0!" onClick={() => keepForGood(answer)}>
                Keep it for good…
              </Button>
            )}
            <Button look="link" className="py-0!" onClick={() => takeBack(answer)}>
              Take back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  )

/** What differs and needs no answer. */
export const NotedFindings = ({
  findings,
  known,
  keepForGood,
  forget,
}: {
  findings: readonly CompatibilityFinding[]
  /** Other names of columns that the recipe keeps, by column. */
  known: Readonly<Record<string, readonly string[]>>
  keepForGood?: ((answer: Answer) => void) | undefined
  forget?: ((input: string, name: string) => void) | undefined
}) =>
  findings.length === 0 ? null : (
    <section aria-label="Nothing to answer" className="mb-3">
      <h2 className="mb-1 font-serif text-[14px] font-semibold">Also noticed, nothing to answer</h2>
      <ul className="grid gap-1 text-[13px] text-ink-2">
        {findings.map((finding) => (
          <li key={finding.sentence}>
            {finding.sentence} <FindingRowsLink finding={finding} />{' '}
            {keepForGood &&
              finding.offers
                .filter((offer) => holdsForGood(answerTo(finding, offer)))
                .map((offer, i) => (
                  <Button
                    key={i}
                    look="link"
                    className="mr-3 py-0!"
                    title={offer.why}
                    onClick={() => keepForGood(answerTo(finding, offer))}
                  >
                    {offerWords(finding, offer)} from now on…
                  </Button>
                ))}
            {finding.code === 'known-name' &&
              forget &&
              ownValue(known, finding.column ?? '')?.map((name) => (
                <Button key={name} look="link" className="py-0!" onClick={() => forget(finding.input ?? '', name)}>
                  Read {name} as itself again
                </Button>
              ))}
          </li>
        ))}
      </ul>
    </section>
  )
