import { useState, type DragEvent } from 'react'
import { figuresOf, openedBy, type Step } from '@fabula/core'
import type { StoryStep } from '@fabula/core/api'
import { Button, KeepOrLeave, Key } from '../ui/parts.tsx'
import { SentenceText } from './sentence.tsx'
import { moved, reportedAs, whyNot, withWords } from './sentences.ts'
import { StepMenu } from './step-menu.tsx'
import { InputForm } from './input-form.tsx'
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
    {figuresOf(statistics).map(({ text, tone, only }) => (
      <button
        key={text}
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
    ))}
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

const dragType = 'application/x-fabula-sentence'

export const Sentence = ({
  story,
  step,
  index,
  count,
  entry,
}: {
  story: Story
  step: Step
  index: number
  count: number
  entry: number
  // eslint-disable-next-line complexity, max-lines-per-function -- markup with a condition for each optional part
}) => {
  const info = story.steps.find(({ id }) => id === step.id)
  const isDraft = story.draft?.step.id === step.id
  const drafted = story.draft ? (story.table?.steps.findIndex(({ id }) => id === story.draft?.step.id) ?? -1) : -1
  const later = drafted >= 0 && index > drafted
  const on = story.step?.id === step.id
  const state = info?.state ?? 'fine'
  const [form, setForm] = useState<'words' | 'input'>()
  const input = story.flow.recipe.inputs.find(({ id }) => id === openedBy(step)?.input)
  const [asItIs, setAsItIs] = useState(false)
  const [over, setOver] = useState<'above' | 'below'>()
  const reported = reportedAs(step)
  const movable = index > 0 && !story.draft && !form
  const half = (event: DragEvent<HTMLElement>): 'above' | 'below' => {
    const { top, height } = event.currentTarget.getBoundingClientRect()
    return index === 0 || event.clientY > top + height / 2 ? 'below' : 'above'
  }
  const drop = (event: DragEvent<HTMLElement>): void => {
    const id = event.dataTransfer.getData(dragType)
    setOver(undefined)
    if (id === '' || id === step.id || !story.table) return
    event.preventDefault()
    const rest = story.table.steps.filter((one) => one.id !== id)
    const steps = moved(
      story.table.steps,
      id,
      rest.findIndex((one) => one.id === step.id) + (half(event) === 'below' ? 1 : 0),
    )
    const why = whyNot(story.flow.recipe, story.table, steps)
    if (why) story.setProblem(why)
    else void story.changeSteps('a sentence moved', () => steps)
  }
  const breaker = story.table?.steps.find(({ id }) => story.steps.find((one) => one.id === id)?.state === 'broken')
  const insertionMark = () => {
    if (over === 'above') return 'shadow-[0_-2px_0_var(--rubric)]!'
    if (over === 'below') return 'shadow-[0_2px_0_var(--rubric)]!'
    return ''
  }
  const frame = () => {
    if (isDraft)
      return 'mx-3 my-1.5 grid-cols-[26px_minmax(0,1fr)_92px]! cursor-default rounded-[10px] border-[1.5px] border-dashed border-rubric bg-sheet'
    if (on) return 'bg-sheet shadow-[inset_3px_0_0_var(--rubric),0_1px_0_var(--line),0_-1px_0_var(--line)]'
    return ''
  }
  return (
    <li
      aria-current={on ? 'step' : undefined}
      data-state={isDraft ? 'draft' : state}
      onClick={() => !story.draft && story.goTo(story.table?.id ?? '', step.id)}
      draggable={movable}
      onDragStart={(event) => event.dataTransfer.setData(dragType, step.id)}
      onDragOver={(event) => {
        if (story.draft || !event.dataTransfer.types.includes(dragType)) return
        event.preventDefault()
        setOver(half(event))
      }}
      onDragLeave={() => setOver(undefined)}
      onDrop={drop}
      className={`group relative grid cursor-pointer grid-cols-[38px_minmax(0,1fr)_92px] py-[7px] pr-3.5 font-serif text-[14px] leading-normal wrap-anywhere ${frame()} ${state === 'broken' ? 'sentence-broken text-rubric' : ''} ${insertionMark()} ${later ? 'opacity-60' : ''} ${state === 'off' || state === 'waiting' ? 'text-ink-3' : ''}`}
    >
      {!isDraft && (
        <i
          aria-hidden
          className="absolute top-0 bottom-0 left-3 w-[3px] rounded-sm"
          style={{ background: `var(--strand-${(entry % 5) + 1})` }}
        />
      )}
      <span
        className={`pr-2.5 text-right font-sans text-[12px] leading-[21px] ${on || isDraft ? 'font-bold text-rubric' : 'text-ink-3'}`}
      >
        {index + 1}
      </span>
      <span>
        {reported.own !== undefined && !isDraft && !asItIs ? (
          reported.own
        ) : (
          <SentenceText step={step} recipe={story.recipe} story={story} />
        )}
        {reported.own !== undefined && !isDraft && (
          <button
            type="button"
            className="ml-1.5 font-sans text-[12px] text-ink-3 hover:text-token"
            onClick={(event) => (event.stopPropagation(), setAsItIs(!asItIs))}
          >
            {asItIs ? 'own words' : 'the sentence itself'}
          </button>
        )}
        {reported.note !== undefined && (
          <span className="mt-0.5 block font-sans text-[12px] whitespace-pre-line text-ink-2 italic">
            {reported.note}
          </span>
        )}
        {form === 'words' && <WordsForm story={story} step={step} close={() => setForm(undefined)} />}
        {form === 'input' && input && <InputForm story={story} input={input} close={() => setForm(undefined)} />}
        {state === 'off' && <span className="ml-1.5 font-sans text-[12px]">switched off</span>}
        {state === 'waiting' && !later && (
          <span className="mt-0.5 block font-sans text-[12px]">
            waits for sentence {(story.table?.steps.findIndex(({ id }) => id === breaker?.id) ?? 0) + 1}
          </span>
        )}
        {info?.problems.map(({ sentence, quickFixes }) => problemNote(sentence, quickFixes, isDraft, story, step))}
        {isDraft && (
          <span className="mt-2 flex items-center gap-2 font-sans text-[12.5px] text-ink-2">
            <Button look="main" className="py-1!" disabled={!story.canKeep} onClick={() => void story.keep()}>
              Keep
            </Button>
            <Key>Enter</Key>
            <button type="button" onClick={() => story.discard()} className="hover:text-ink">
              Discard
            </button>
            <Key>Esc</Key>
          </span>
        )}
      </span>
      <span className="grid content-start justify-items-end">
        {info?.statistics && !later && <Margin story={story} step={step} statistics={info.statistics} />}
        {!isDraft && !story.draft && (
          <span className="absolute right-0.5 bottom-0.5" onClick={(event) => event.stopPropagation()}>
            <StepMenu story={story} step={step} index={index} count={count} edit={setForm} />
          </span>
        )}
      </span>
    </li>
  )
}

function problemNote(
  sentence: string,
  quickFixes: StoryStep['problems'][number]['quickFixes'],
  isDraft: boolean,
  story: Story,
  step: Step,
) {
  return (
    <span key={sentence} role="alert" className="mt-1 block font-sans text-[12.5px] text-rubric">
      {sentence}
      {quickFixes.length > 0 && (
        <span className="mt-1 flex flex-wrap gap-1.5">
          {quickFixes.map(({ column, words, step: mended }) => (
            <Button
              key={column}
              className="py-0.5!"
              onClick={(event) => {
                event.stopPropagation()
                if (isDraft) story.reword(mended as Step)
                else
                  void story.changeSteps('a sentence mended', (steps) =>
                    steps.map((one) => (one.id === step.id ? (mended as Step) : one)),
                  )
              }}
            >
              {words ?? `Take ${column}`}
            </Button>
          ))}
        </span>
      )}
    </span>
  )
}
