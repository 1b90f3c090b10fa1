import { counted, ownValue, withoutColumnAlias, type Answer } from '@fabula/core'
import type { FileRef } from '@fabula/core/api'
import { useEffect, useEffectEvent, useRef, useState, type DragEvent } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { parameterInput } from '../sentence/parameters.tsx'
import { useFlow } from '../story/flow-context.ts'
import { download } from '../ui/download.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { ByItself } from './by-itself.tsx'
import { AnswersGiven, FindingCard, NotedFindings } from './findings.tsx'
import { InputSlot } from './input-slot.tsx'
import { KeepForGood } from './keep-for-good.tsx'
import { OnCluster } from './on-cluster.tsx'
import { Outcome } from './outcome.tsx'
import { WithRows } from './shown-rows.tsx'
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
        onChange={(event) => {
          void take([...(event.target.files ?? [])])
          // the same file can be chosen again
          event.target.value = ''
        }}
      />
    </>
  )
}

/** The values that the story asks for at each replay. */
const AskedValues = ({ values, setValue }: Pick<ReplayModel, 'values' | 'setValue'>) => {
  const { parameters = [] } = useFlow().flow.recipe
  if (parameters.length === 0) return null
  return (
    <section aria-label="Asked at replay" className="border-b border-line py-2.5">
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

/** What the trial found: questions, answers, and what is only said. */
const Questions = ({ model }: { model: ReplayModel }) => {
  const { flow } = useFlow()
  const { open, noted, answers, fit, changes, remember } = model
  const forget = (input: string, name: string): void =>
    remember.mutate({
      ...flow.recipe,
      inputs: flow.recipe.inputs.map((one) => (one.id === input ? withoutColumnAlias(one, name) : one)),
    })
  const known = Object.fromEntries(
    flow.recipe.inputs.flatMap(({ columns = [] }) => columns.map(({ name, also = [] }) => [name, also])),
  )
  const [keeping, setKeeping] = useState<Answer>()
  const keepForGood = changes ? setKeeping : undefined
  return (
    <div className="mt-3">
      {open.map((finding) => (
        <FindingCard
          key={`${finding.code}${finding.sentence}`}
          finding={finding}
          give={model.give}
          setValue={model.setValue}
          disabled={fit.isFetching}
        />
      ))}
      <AnswersGiven answers={answers} takeBack={model.takeBack} keepForGood={keepForGood} />
      <NotedFindings findings={noted} known={known} keepForGood={keepForGood} forget={changes ? forget : undefined} />
      {keeping && <KeepForGood answer={keeping} keep={model.keepForGood} close={() => setKeeping(undefined)} />}
    </div>
  )
}

const Actions = ({ model: { wait, replay, report, open, running, given, runAsIs, kept } }: { model: ReplayModel }) => {
  const { flow } = useFlow()
  const save = (): void => {
    if (!report) return
    const text = JSON.stringify({ verdict: report.verdict, findings: report.findings }, null, 2)
    download(`${flow.recipe.name} fit`, 'json', `data:application/json,${encodeURIComponent(text)}`)
  }
  const canRunOpen = open.length > 0 && open.every(({ grade }) => grade === 'changes') && !running
  return (
    <div className="mt-4 flex flex-wrap items-center gap-2.5">
      <Button look="main" className="px-4 py-2" disabled={wait !== undefined} onClick={() => replay.mutate(false)}>
        Replay the story
      </Button>
      {wait !== undefined && <span className="text-ink-2">{wait}</span>}
      {!given && Object.keys(kept.files).length > 0 && (
        <Button onClick={runAsIs}>
          Try it on the files {kept.at === undefined ? 'the story was built on' : 'of last time'}
        </Button>
      )}
      {report && <Button onClick={save}>Download this report</Button>}
      {canRunOpen && (
        <Button look="link" onClick={() => replay.mutate(true)}>
          Replay without these answers
        </Button>
      )}
    </div>
  )
}

const introduction = ({ report, open }: ReplayModel): string => {
  if (!report)
    return 'Drop the new files here. Fabula puts each where it belongs and tries the story on a copy before anything is written.'
  const questions =
    open.length === 0 ? 'Nothing needs an answer.' : `${counted(open.length, 'thing needs', 'things need')} an answer.`
  return `Read once and tried on a copy; nothing is written yet. ${questions}`
}

/** Files that another page hands over are taken once. */
const useHandedFiles = ({ takeSent }: ReplayModel): void => {
  const { state } = useLocation() as { state: { files?: readonly FileRef[] } | null }
  const navigate = useNavigate()
  const files = state?.files
  const takeThem = useEffectEvent(async () => {
    if (!files) return
    await navigate('.', { replace: true, state: null })
    await takeSent(files)
  })
  useEffect(() => void takeThem(), [files])
}

/** The story run again: new files and what a trial says of them on the left, what would come of it, or came, on the right. */
export const Replay = () => {
  const { flow, endpoint } = useFlow()
  const model = useReplay()
  const { busy, fit, take, runs } = model
  useHandedFiles(model)
  const problem = model.problem ?? fit.error?.message
  const drop = {
    onDragOver: (event: DragEvent) => event.preventDefault(),
    onDrop: (event: DragEvent) => (event.preventDefault(), void take([...event.dataTransfer.files])),
  }
  return (
    <WithRows data={{ trial: model.asked }}>
      <main
        className="grid min-h-0 grid-cols-[minmax(420px,1fr)_1fr] max-[900px]:block max-[900px]:overflow-auto"
        {...drop}
      >
        <section className="relative overflow-auto border-r border-line px-[28px] py-[24px]" aria-label="New exports">
          <h1 className="font-serif text-[22px] leading-tight font-semibold">Tell it again with new exports</h1>
          <p className="mt-1 mb-3 font-serif text-[14px] text-ink-2">{introduction(model)}</p>
          <FileChooser take={take} />
          <p role="status" className="figures my-1.5 min-h-5 text-ink-2">
            {busy ?? (fit.isFetching ? 'Trying the story on the files…' : '')}
          </p>
          <div className="border-t border-line">
            {flow.recipe.inputs.map((input, i) => (
              <InputSlot key={input.id} model={model} input={input} entry={i} />
            ))}
          </div>
          <HomelessFiles homeless={model.homeless} putTo={model.putTo} />
          <AskedValues values={model.values} setValue={model.setValue} />
          {problem && <Notice kind="removed">{problem}</Notice>}
          <Questions model={model} />
          <Actions model={model} />
          {flow.rights === 'all' && <OnCluster endpoint={endpoint} inputs={flow.recipe.inputs} model={model} />}
          {flow.rights === 'all' && (
            <ByItself
              endpoint={endpoint}
              parameters={flow.recipe.parameters ?? []}
              inputs={flow.recipe.inputs.length}
              show={runs.show}
              look={model.look}
            />
          )}
        </section>
        <Outcome runs={runs} report={model.running ? undefined : model.report} changes={model.changes} />
      </main>
    </WithRows>
  )
}
