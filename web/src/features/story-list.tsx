import { DropdownMenu } from 'radix-ui'
import { useRef } from 'react'
import { useNavigate } from 'react-router'
import { counted, figure, sentenceText, type RecipeTable, type Step } from '@fabula/core'
import type { StoryStep } from '@fabula/core/api'
import { upload } from '../api/client.ts'
import { Button, Dot, Key } from '../ui/parts.tsx'
import { idOf, titleOf } from './open-file.ts'
import { SentenceText } from './sentence.tsx'
import { nextStepId, type Story } from './story-state.ts'

type Figure = { readonly text: string; readonly tone: 'plain' | 'came' | 'went' | 'turned'; readonly only: 'all' | 'left' | 'came' | 'changed' | 'unreadable' }

const columnsOf = (n: number, sign: string): string => `${sign}${counted(n, 'column')}`

/** What stands in the margin: at most three figures, the rows first. */
export const figuresOf = (account: NonNullable<StoryStep['account']>): Figure[] => {
  const { kind, rowsIn, rowsOut, rowsLeft, rowsCame, columnsAdded, columnsDropped, columnsRenamed, cellsChanged, unreadable, notes } = account
  const lost = Object.values(unreadable).reduce((a, b) => a + b, 0)
  const renamed = Object.keys(columnsRenamed).length
  if (kind === 'open' || kind === 'enter')
    return [
      { text: counted(rowsOut, 'row'), tone: 'plain', only: 'all' },
      { text: counted(columnsAdded.length, 'column'), tone: 'plain', only: 'all' },
      ...(notes.raggedRows ? [{ text: `${figure(notes.raggedRows)} ragged`, tone: 'turned', only: 'all' } as const] : []),
      ...(lost > 0 ? [{ text: `${figure(lost)} unreadable`, tone: 'went', only: 'unreadable' } as const] : []),
      ...(notes.blankRows ? [{ text: `${figure(notes.blankRows)} blank left out`, tone: 'plain', only: 'all' } as const] : []),
    ]
  const all: Figure[] = [
    ...(rowsIn !== rowsOut ? [{ text: counted(rowsOut, 'row'), tone: 'plain', only: 'all' } as const] : []),
    ...(rowsLeft > 0 ? [{ text: `−${counted(rowsLeft, 'row')}`, tone: 'went', only: 'left' } as const] : []),
    ...(rowsCame > 0 ? [{ text: `+${counted(rowsCame, 'row')}`, tone: 'came', only: 'came' } as const] : []),
    ...(columnsAdded.length > 0 ? [{ text: columnsOf(columnsAdded.length, '+'), tone: 'came', only: 'all' } as const] : []),
    ...(columnsDropped.length > 0 ? [{ text: columnsOf(columnsDropped.length, '−'), tone: 'went', only: 'all' } as const] : []),
    ...(renamed > 0 ? [{ text: `${figure(renamed)} renamed`, tone: 'turned', only: 'all' } as const] : []),
    ...(cellsChanged > 0 ? [{ text: kind === 'cast' ? `${figure(cellsChanged)} read` : `${figure(cellsChanged)} changed`, tone: 'turned', only: 'changed' } as const] : []),
    ...(lost > 0 ? [{ text: `${figure(lost)} unreadable`, tone: 'went', only: 'unreadable' } as const] : []),
  ]
  return all.length > 0 ? all.slice(0, 4) : [{ text: counted(rowsOut, 'row'), tone: 'plain', only: 'all' }]
}
const tones = { plain: 'text-ink-3', came: 'text-came', went: 'text-went', turned: 'text-turned' }

const Margin = ({ story, step, account }: { story: Story; step: Step; account: NonNullable<StoryStep['account']> }) => (
  <span className="figures grid content-start justify-items-end pt-0.5 text-[12px]">
    {figuresOf(account).map(({ text, tone, only }) => (
      <button
        key={text}
        type="button"
        className={`hover:underline ${tones[tone]}`}
        onClick={(event) => {
          event.stopPropagation()
          if (!story.draft) story.goTo(story.table?.id ?? '', step.id)
          story.setLens('changes')
          // a step that changes no rows has no such rows to narrow to
          queueMicrotask(() => story.setOnly(only))
        }}
      >
        {text}
      </button>
    ))}
  </span>
)

const StepMenu = ({ story, step, index, count }: { story: Story; step: Step; index: number; count: number }) => {
  const item = 'cursor-pointer rounded px-2 py-1 outline-none data-highlighted:bg-token-tint data-disabled:text-ink-3'
  const swap = (by: number) =>
    story.changeSteps('a sentence moved', (steps) => {
      const next = [...steps]
      next.splice(index, 1)
      next.splice(index + by, 0, step)
      return next
    })
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <button type="button" aria-label={`More for sentence ${index + 1}`} className="rounded px-1 text-ink-3 opacity-0 group-hover:opacity-100 focus-visible:opacity-100 data-[state=open]:opacity-100">
          ⋯
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="z-50 min-w-[190px] rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px]">
          <DropdownMenu.Item className={item} onSelect={() => void story.changeSteps(step.off ? 'a sentence switched on' : 'a sentence switched off', (steps) => steps.map((one) => (one.id === step.id ? (Object.fromEntries(Object.entries({ ...one, off: !one.off }).filter(([key, value]) => key !== 'off' || value)) as unknown as Step) : one)))}>
            {step.off ? 'Switch it on' : 'Switch it off'}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={index <= 1} onSelect={() => void swap(-1)}>
            Move it up
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={index >= count - 1} onSelect={() => void swap(1)}>
            Move it down
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => void story.changeSteps('a sentence taken out', (steps) => steps.filter(({ id }) => id !== step.id))}>
            Take it out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

const Sentence = ({ story, step, index, count, strand }: { story: Story; step: Step; index: number; count: number; strand: number }) => {
  const info = story.steps.find(({ id }) => id === step.id)
  const isDraft = story.draft?.step.id === step.id
  const drafted = story.draft ? (story.table?.steps.findIndex(({ id }) => id === story.draft?.step.id) ?? -1) : -1
  const later = drafted >= 0 && index > drafted
  const on = story.step?.id === step.id
  const state = info?.state ?? 'fine'
  const breaker = story.table?.steps.find(({ id }) => story.steps.find((one) => one.id === id)?.state === 'broken')
  return (
    <li
      aria-current={on ? 'step' : undefined}
      data-state={isDraft ? 'draft' : state}
      onClick={() => !story.draft && story.goTo(story.table?.id ?? '', step.id)}
      className={`group relative grid cursor-pointer grid-cols-[38px_1fr_92px] py-[7px] pr-3.5 font-serif text-[14px] leading-normal ${isDraft ? 'mx-3 my-1.5 grid-cols-[26px_1fr_92px]! cursor-default rounded-[10px] border-[1.5px] border-dashed border-rubric bg-sheet' : on ? 'bg-sheet shadow-[inset_3px_0_0_var(--rubric),0_1px_0_var(--line),0_-1px_0_var(--line)]' : ''} ${state === 'broken' ? 'sentence-broken text-rubric' : ''} ${later ? 'opacity-60' : ''} ${state === 'off' || state === 'waiting' ? 'text-ink-3' : ''}`}
    >
      {!isDraft && <i aria-hidden className="absolute top-0 bottom-0 left-3 w-[3px] rounded-sm" style={{ background: `var(--strand-${(strand % 5) + 1})` }} />}
      <span className={`pr-2.5 text-right font-sans text-[12px] leading-[21px] ${on || isDraft ? 'font-bold text-rubric' : 'text-ink-3'}`}>{index + 1}</span>
      <span>
        <SentenceText step={step} story={story} />
        {state === 'off' && <span className="ml-1.5 font-sans text-[12px]">switched off</span>}
        {state === 'waiting' && !later && <span className="mt-0.5 block font-sans text-[12px]">waits for sentence {(story.table?.steps.findIndex(({ id }) => id === breaker?.id) ?? 0) + 1}</span>}
        {info?.problems.map(({ sentence, mends }) => (
          <span key={sentence} role="alert" className="mt-1 block font-sans text-[12.5px] text-rubric">
            {sentence}
            {mends.length > 0 && (
              <span className="mt-1 flex flex-wrap gap-1.5">
                {mends.map(({ column, step: mended }) => (
                  <Button
                    key={column}
                    className="py-0.5!"
                    onClick={(event) => {
                      event.stopPropagation()
                      if (isDraft) story.reword(mended as Step)
                      else void story.changeSteps('a sentence mended', (steps) => steps.map((one) => (one.id === step.id ? (mended as Step) : one)))
                    }}
                  >
                    Take {column}
                  </Button>
                ))}
              </span>
            )}
          </span>
        ))}
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
        {info?.account && !later && <Margin story={story} step={step} account={info.account} />}
        {!isDraft && index > 0 && !story.draft && (
          <span className="absolute right-0.5 bottom-0.5" onClick={(event) => event.stopPropagation()}>
            <StepMenu story={story} step={step} index={index} count={count} />
          </span>
        )}
      </span>
    </li>
  )
}

const Strand = ({ story, table, at }: { story: Story; table: RecipeTable; at: number }) => {
  const open = story.table?.id === table.id
  return (
    <section aria-label={table.name}>
      <button type="button" aria-expanded={open} disabled={open || story.draft !== undefined} className="flex w-full items-center gap-[9px] py-1.5 pr-[18px] pl-2 text-left" onClick={() => story.goTo(table.id, table.steps.at(-1)?.id ?? '')}>
        <Dot strand={at} />
        <b className="font-serif text-[14px] font-semibold">{table.name}</b>
        <span className="ml-auto text-[12px] text-ink-3">{open ? `makes the table “${table.name}”` : `${counted(table.steps.length, 'sentence')} ▸`}</span>
      </button>
      {open && (
        <ol>
          {table.steps.map((step, index) => (
            <Sentence key={step.id} story={story} step={step} index={index} count={table.steps.length} strand={at} />
          ))}
        </ol>
      )}
    </section>
  )
}

/** One more table: from files of its own, or typed in. */
const MoreTables = ({ story }: { story: Story }) => {
  const chooser = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const take = async (files: readonly File[]): Promise<void> => {
    try {
      const refs = []
      for (const file of files) refs.push(await upload(file, undefined, () => undefined))
      await navigate(`${story.place.home}/open`, { state: { files: refs } })
    } catch (error) {
      story.setProblem((error as Error).message)
    }
  }
  const typed = async (): Promise<void> => {
    const { recipe } = story.flow
    const id = idOf('typed', recipe.tables.map((table) => table.id))
    const step = { id: nextStepId(recipe), kind: 'enter', columns: [{ name: 'Name', type: 'text' }, { name: 'Value', type: 'text' }], rows: [] }
    await story.save({ ...recipe, tables: [...recipe.tables, { id, name: titleOf(id), steps: [step] }] }, 'a typed table')
    story.goTo(id, step.id)
  }
  if (story.draft) return null
  return (
    <p className="flex items-center gap-3 py-2 pl-[38px] text-[12.5px] text-ink-3">
      Another table
      <Button look="link" className="py-0!" onClick={() => chooser.current?.click()}>
        from a file
      </Button>
      <Button look="link" className="py-0!" onClick={() => void navigate(`/sources?flow=${story.flow.id}`)}>
        from elsewhere
      </Button>
      <Button look="link" className="py-0!" onClick={() => void typed()}>
        typed in
      </Button>
      <input ref={chooser} type="file" multiple aria-label="Files for another table" className="sr-only" tabIndex={-1} onChange={(event) => event.target.files && event.target.files.length > 0 && void take([...event.target.files])} />
    </p>
  )
}

export const StoryList = ({ story }: { story: Story }) => (
  <div className="min-h-0 flex-1 overflow-auto py-3">
    {story.recipe.tables.map((table, at) => (
      <Strand key={table.id} story={story} table={table} at={at} />
    ))}
    <MoreTables story={story} />
  </div>
)

/** How many rows stand after each sentence, at a glance. */
export const River = ({ story }: { story: Story }) => {
  const accounts = story.steps.flatMap(({ id, account }) => (account ? [{ id, rows: account.rowsOut }] : []))
  const most = Math.max(1, ...accounts.map(({ rows }) => rows))
  return (
    <div className="border-t border-line bg-paper px-3.5 pt-2 pb-2.5">
      <h2 className="mb-1 flex text-[12px] font-medium text-ink-3">
        Rows through the story
        <span className="figures ml-auto">
          {accounts.length > 0 ? `${figure(accounts[0]?.rows ?? 0)} → ${figure(accounts.at(-1)?.rows ?? 0)}` : ''}
        </span>
      </h2>
      <div className="flex h-[34px] items-end gap-[3px]">
        {accounts.map(({ id, rows }) => {
          const step = story.table?.steps.find((one) => one.id === id)
          return (
            <button
              key={id}
              type="button"
              aria-label={`After “${step ? sentenceText(step) : ''}”: ${counted(rows, 'row')}`}
              title={counted(rows, 'row')}
              disabled={story.draft !== undefined}
              onClick={() => story.goTo(story.table?.id ?? '', id)}
              className={`min-w-1 flex-1 rounded-t-[2px] ${story.draft?.step.id === id ? 'river-draft' : ''}`}
              style={{ height: Math.max(2, (rows / most) * 34), ...(story.draft?.step.id === id ? {} : { background: story.step?.id === id ? 'var(--rubric)' : 'color-mix(in srgb, var(--token) 24%, var(--paper))' }) }}
            />
          )
        })}
      </div>
    </div>
  )
}
