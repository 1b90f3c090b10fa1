import { useState, type KeyboardEvent, type ReactNode } from 'react'
import { figuresOf, openedBy, type Step } from '@fabula/core'
import type { StoryStep } from '@fabula/core/api'
import { Button, KeepOrLeave, Key } from '../ui/parts.tsx'
import { Tip } from '../ui/tip.tsx'
import { SentenceText } from './sentence.tsx'
import { reportedAs, withWords } from './sentences.ts'
import { useDragItem } from '../ui/drag-list.tsx'
import { StepMenu } from './step-menu.tsx'
import { InputForm } from './input-form.tsx'
import { isOfSample } from '../story/sample-figures.ts'
import type { Story } from '../story/use-story.ts'

const tones = { plain: 'text-ink-3', added: 'text-added', removed: 'text-removed', changed: 'text-changed' }

const Margin = ({
  story,
  step,
  statistics,
}: {
  story: Story
  step: Step
  statistics: NonNullable<StoryStep['statistics']>
}) => (
  <span className="figures grid content-start justify-items-end pt-0.5 text-[12px]">
    {figuresOf(statistics).map(({ text, tone, only }) =>
      only === undefined ? (
        <span key={text} className={tones[tone]}>
          {text}
        </span>
      ) : (
        <Tip key={text} words="See just these">
          <button
            type="button"
            className={`hover:underline ${tones[tone]}`}
            onClick={(event) => {
              event.stopPropagation()
              if (!story.draft) story.goTo(story.table?.id ?? '', step.id)
              story.setDiffMode('changes')
              // a step that changes no rows has no such rows to narrow to
              story.setOnly(only)
            }}
          >
            {text}
          </button>
        </Tip>
      ),
    )}
    {isOfSample(story.flow.files) && <span className="text-ink-3">of a sample</span>}
  </span>
)

/** The analyst's own words for a sentence, and a note beside it. */
const WordsForm = ({ story, step, close }: { story: Story; step: Step; close: () => void }) => {
  const reported = reportedAs(step)
  const [own, setOwn] = useState(reported.own ?? '')
  const [note, setNote] = useState(reported.note ?? '')
  const keep = (): void => {
    void story.changeSteps('own words for a sentence', (steps) =>
      steps.map((one) => (one.id === step.id ? withWords(one, own, note) : one)),
    )
    close()
  }
  return (
    <span
      className="mt-2 grid gap-1.5 font-sans text-[12.5px]"
      onClick={(event) => event.stopPropagation()}
      onKeyDown={(event) => (event.stopPropagation(), event.key === 'Escape' && close())}
    >
      <input
        className="field"
        aria-label="In your own words"
        placeholder="in your own words"
        autoFocus
        value={own}
        onChange={(event) => setOwn(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
      <textarea
        className="field"
        aria-label="Note"
        placeholder="a note, for whoever reads this"
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      <KeepOrLeave words="Keep the words" keep={keep} leave={close} />
    </span>
  )
}

/** What the page knows of a sentence: whether it is the draft, stands after it, or waits for one that is broken. */
const useSentenceState = (story: Story, step: Step, index: number) => {
  const { table, steps, draft } = story
  const info = steps.find(({ id }) => id === step.id)
  const drafted = draft ? (table?.steps.findIndex(({ id }) => id === draft.step.id) ?? -1) : -1
  const broken = table?.steps.findIndex(({ id }) => steps.find((one) => one.id === id)?.state === 'broken') ?? -1
  return {
    info,
    state: info?.state ?? 'fine',
    isDraft: draft?.step.id === step.id,
    isShown: story.step?.id === step.id,
    isLater: drafted >= 0 && index > drafted,
    /** The number of the broken sentence that later ones wait for, from 1. */
    waitsFor: Math.max(0, broken) + 1,
  }
}
type SentenceState = ReturnType<typeof useSentenceState>

const frameOf = ({ isDraft, isShown }: SentenceState): string => {
  if (isDraft)
    return 'mx-3 my-1.5 grid-cols-[26px_minmax(0,1fr)_92px]! pr-2! cursor-default rounded-[10px] border-[1.5px] border-dashed border-rubric bg-sheet'
  if (isShown) return 'bg-sheet shadow-[inset_3px_0_0_var(--rubric),0_1px_0_var(--line),0_-1px_0_var(--line)]'
  return ''
}
const toneOf = ({ state, isLater }: SentenceState): string => {
  const tones = { fine: '', broken: 'sentence-broken text-rubric', off: 'text-ink-3', waiting: 'text-ink-3' }
  return `${tones[state]} ${isLater ? 'text-ink-3' : ''}`
}
/** The sentence itself, or the analyst's own words for it with a way to the sentence, and the note beside it. */
const Words = ({ story, step, isDraft }: { story: Story; step: Step; isDraft: boolean }) => {
  const [asItIs, setAsItIs] = useState(false)
  const { own, note } = reportedAs(step)
  const hasOwn = own !== undefined && !isDraft
  return (
    <>
      {hasOwn && !asItIs ? own : <SentenceText step={step} recipe={story.recipe} story={story} />}
      {hasOwn && (
        <button
          type="button"
          className="ml-1.5 font-sans text-[12px] text-ink-3 hover:text-token"
          onClick={(event) => (event.stopPropagation(), setAsItIs(!asItIs))}
        >
          {asItIs ? 'own words' : 'the sentence itself'}
        </button>
      )}
      {note !== undefined && (
        <span className="mt-0.5 block font-sans text-[12px] whitespace-pre-line text-ink-2 italic">{note}</span>
      )}
    </>
  )
}

/** What is wrong with a sentence, with what would mend it. */
const ProblemNote = ({
  problem: { sentence, quickFixes },
  apply,
}: {
  problem: StoryStep['problems'][number]
  apply: (step: Step) => void
}) => (
  <span role="alert" className="mt-1 block font-sans text-[12.5px] text-rubric">
    {sentence}
    {quickFixes.length > 0 && (
      <span className="mt-1 flex flex-wrap gap-1.5">
        {quickFixes.map(({ column, words, step: mended }) => (
          <Button
            key={column}
            className="py-0.5!"
            onClick={(event) => {
              event.stopPropagation()
              apply(mended as Step)
            }}
          >
            {words ?? `Take ${column}`}
          </Button>
        ))}
      </span>
    )}
  </span>
)

const DraftButtons = ({ story }: { story: Story }) => (
  <span className="sticky bottom-0 mt-2 flex items-center gap-2 bg-sheet py-1 font-sans text-[12.5px] text-ink-2">
    <Button look="main" className="py-1!" disabled={!story.canKeep} onClick={() => void story.keep()}>
      Keep
    </Button>
    <Key>Enter</Key>
    <button type="button" onClick={() => story.discard()} className="hover:text-ink">
      Discard
    </button>
    <Key>Esc</Key>
  </span>
)

/** Why a sentence has no result: it is switched off, waits for another, or has problems. */
const StateNotes = ({ story, step, of }: { story: Story; step: Step; of: SentenceState }) => {
  const apply = (mended: Step): void => {
    if (of.isDraft) story.reword(mended)
    else void story.changeSteps('a sentence mended', (steps) => steps.map((one) => (one.id === step.id ? mended : one)))
  }
  return (
    <>
      {of.state === 'off' && <span className="ml-1.5 font-sans text-[12px]">switched off</span>}
      {of.state === 'waiting' && !of.isLater && (
        <span className="mt-0.5 block font-sans text-[12px]">waits for sentence {of.waitsFor}</span>
      )}
      {of.info?.problems.map((problem) => (
        <ProblemNote key={problem.sentence} problem={problem} apply={apply} />
      ))}
    </>
  )
}

/** The arrows walk from sentence to sentence of the whole story, and show each. */
const walk = (event: KeyboardEvent<HTMLElement>): void => {
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (by === undefined) return
  event.preventDefault()
  const all = [...document.querySelectorAll<HTMLElement>('[data-sentence]')]
  const next = all[all.indexOf(event.currentTarget) + by]
  next?.focus()
  next?.click()
}

/** The number of a sentence, by which it is reached, and the colour of its table beside it. */
const SentenceNumber = ({
  index,
  entry,
  of,
  keys,
}: {
  index: number
  entry: number
  of: SentenceState
  keys: ReturnType<typeof useDragItem>['keys']
}) => (
  <>
    {!of.isDraft && (
      <i
        aria-hidden
        className="absolute top-0 bottom-0 left-3 w-[3px] rounded-sm"
        style={{ background: `var(--strand-${(entry % 5) + 1})` }}
      />
    )}
    <button
      type="button"
      data-sentence
      ref={keys.ref}
      aria-label={`Sentence ${index + 1}`}
      title={keys.onKeyDown && 'Drag it to move the sentence, or press Space'}
      className={`self-start pr-2.5 text-right font-sans text-[12px] leading-[24px] ${of.isShown || of.isDraft ? 'font-bold text-rubric' : 'text-ink-3'}`}
      onKeyDown={(event) => {
        keys.onKeyDown?.(event)
        if (!event.defaultPrevented) walk(event)
      }}
    >
      {index + 1}
    </button>
  </>
)

type SentenceProps = {
  readonly story: Story
  readonly step: Step
  readonly index: number
  readonly count: number
  /** The position of the table in the recipe, which its colour goes by. */
  readonly entry: number
}

/** The text of a sentence with what belongs to it, and the form that is open under it. */
const SentenceBody = ({
  story,
  step,
  of,
  form,
  close,
}: {
  story: Story
  step: Step
  of: SentenceState
  form: 'words' | 'input' | undefined
  close: () => void
}): ReactNode => {
  const input = story.flow.recipe.inputs.find(({ id }) => id === openedBy(step)?.input)
  return (
    <span>
      <Words story={story} step={step} isDraft={of.isDraft} />
      {form === 'words' && <WordsForm story={story} step={step} close={close} />}
      {form === 'input' && input && <InputForm story={story} input={input} close={close} />}
      <StateNotes story={story} step={step} of={of} />
      {of.isDraft && <DraftButtons story={story} />}
    </span>
  )
}

/** A sentence of the story: its number, its words, its figures and its menu. */
export const Sentence = ({ story, step, index, count, entry }: SentenceProps) => {
  const of = useSentenceState(story, step, index)
  const [form, setForm] = useState<'words' | 'input'>()
  const drag = useDragItem(step.id, 'down', index === 0 || story.draft !== undefined || form !== undefined)
  return (
    <li
      aria-current={of.isShown ? 'step' : undefined}
      data-state={of.isDraft ? 'draft' : of.state}
      onClick={() => !story.draft && story.goTo(story.table?.id ?? '', step.id)}
      {...drag.frame}
      className={`group relative grid cursor-pointer grid-cols-[38px_minmax(0,1fr)_88px_26px] py-[7px] pr-0.5 font-serif text-[14px] leading-normal wrap-anywhere ${frameOf(of)} ${toneOf(of)} ${drag.look}`}
    >
      <SentenceNumber index={index} entry={entry} of={of} keys={drag.keys} />
      <SentenceBody story={story} step={step} of={of} form={form} close={() => setForm(undefined)} />
      <span>
        {of.info?.statistics && !of.isLater && <Margin story={story} step={step} statistics={of.info.statistics} />}
      </span>
      {!of.isDraft && !story.draft && (
        <span className="justify-self-end" onClick={(event) => event.stopPropagation()}>
          <StepMenu story={story} step={step} index={index} count={count} edit={setForm} />
        </span>
      )}
    </li>
  )
}
