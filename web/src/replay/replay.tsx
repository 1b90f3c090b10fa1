import { ownValue } from '@fabula/core'
import { useRef, type DragEvent } from 'react'
import { parameterInput } from '../sentence/parameters.tsx'
import { useFlow } from '../story/flow-context.ts'
import { download } from '../ui/download.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { ByItself } from './by-itself.tsx'
import { InputCard } from './input-card.tsx'
import { Outcome } from './outcome.tsx'
import { useReplay, type ReplayModel } from './use-replay.ts'

const FileChooser = ({ take }: { take: (files: readonly File[]) => Promise<void> }) => {
  const chooser = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button onClick={() => chooser.current?.click()}>Choose files</Button>
      <input
        ref={chooser}
        type="file"
        multiple
        aria-label="New exports"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => event.target.files && void take([...event.target.files])}
      />
    </>
  )
}

/** The values that the story asks for at each replay. */
const AskedValues = ({ values, setValue }: Pick<ReplayModel, 'values' | 'setValue'>) => {
  const { parameters = [] } = useFlow().flow.recipe
  if (parameters.length === 0) return null
  return (
    <section aria-label="Asked at replay" className="mb-3 rounded-xl border border-line bg-sheet px-4 py-[13px]">
      <h2 className="mb-2 font-serif text-[14px] font-semibold">What this replay needs to know</h2>
      <div className="grid gap-2">
        {parameters.map(({ name, type, value }) => (
          <label key={name} className="grid grid-cols-[160px_1fr] items-center gap-3">
            <span className="truncate">{name}</span>
            {type === 'boolean' ? (
              <select
                className="field"
                value={ownValue(values, name) ?? String(value ?? 'false')}
                onChange={(event) => setValue(name, event.target.value)}
              >
                <option>true</option>
                <option>false</option>
              </select>
            ) : (
              <input
                className="field figures"
                {...parameterInput(type)}
                value={ownValue(values, name) ?? String(value ?? '')}
                onChange={(event) => setValue(name, event.target.value)}
              />
            )}
          </label>
        ))}
      </div>
    </section>
  )
}

/** Files that no input takes by their name or columns: whoever gave them says where they belong. */
const HomelessFiles = ({ homeless, putTo }: Pick<ReplayModel, 'homeless' | 'putTo'>) => {
  const { inputs } = useFlow().flow.recipe
  return homeless.map((file) => (
    <Notice key={file.hash}>
      {file.name} fits no input of the story by its name or its columns. It is{' '}
      {inputs.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          className="mr-2 font-semibold text-rubric hover:underline"
          onClick={() => putTo(file, id)}
        >
          {name}
        </button>
      ))}
    </Notice>
  ))
}

const Actions = ({ model: { canReplay, replay, fit } }: { model: ReplayModel }) => {
  const { flow } = useFlow()
  const report = fit.data
  const save = (): void => {
    if (!report) return
    const text = JSON.stringify({ verdict: report.verdict, findings: report.findings }, null, 2)
    download(`${flow.recipe.name} fit`, 'json', `data:application/json,${encodeURIComponent(text)}`)
  }
  return (
    <>
      <div className="mt-4 flex items-center gap-2.5">
        <Button look="main" className="px-4 py-2" disabled={!canReplay} onClick={() => replay.mutate()}>
          Replay the story
        </Button>
        {report && <Button onClick={save}>Download this report</Button>}
      </div>
      {report?.verdict === 'does-not-fit' && <p className="mt-2 text-ink-2">Answer what is asked above first.</p>}
    </>
  )
}

/** The story run again: new files and how they fit on the left, what came of it on the right. */
export const Replay = () => {
  const { flow, endpoint } = useFlow()
  const model = useReplay()
  const { busy, fit, take, runs } = model
  const problem = model.problem ?? fit.error?.message
  const drop = {
    onDragOver: (event: DragEvent) => event.preventDefault(),
    onDrop: (event: DragEvent) => (event.preventDefault(), void take([...event.dataTransfer.files])),
  }
  return (
    <main className="grid min-h-0 grid-cols-[minmax(420px,560px)_1fr]" {...drop}>
      <section className="relative overflow-auto border-r border-line px-[30px] py-[26px]" aria-label="New exports">
        <h1 className="font-serif text-[22px] leading-tight font-semibold">Tell it again with new exports</h1>
        <p className="mt-1 mb-4 font-serif text-[14px] text-ink-2">
          Drop the new files here. Fabula puts each where it belongs and checks that the story still fits before
          anything runs.
        </p>
        <FileChooser take={take} />
        <p role="status" className="figures my-2 min-h-5 text-ink-2">
          {busy ?? (fit.isFetching ? 'Holding the new files against the story…' : '')}
        </p>
        {flow.recipe.inputs.map((input, i) => (
          <InputCard key={input.id} model={model} input={input} entry={i} />
        ))}
        <AskedValues values={model.values} setValue={model.setValue} />
        <HomelessFiles homeless={model.homeless} putTo={model.putTo} />
        {problem && <Notice kind="removed">{problem}</Notice>}
        <Actions model={model} />
        {flow.rights === 'all' && (
          <ByItself endpoint={endpoint} parameters={flow.recipe.parameters ?? []} show={runs.show} look={model.look} />
        )}
      </section>
      <Outcome runs={runs} changes={model.changes} />
    </main>
  )
}
