import { counted, ownValue, type Recipe } from '@fabula/core'
import { useFlow } from '../story/flow-context.ts'
import { fileWords } from '../story/sample-figures.ts'
import { moment } from '../ui/moments.ts'
import { Button, Dot } from '../ui/parts.tsx'
import { fitWords } from './replay-model.ts'
import type { ReplayModel } from './use-replay.ts'

type Input = Recipe['inputs'][number]

/** The new files of an input with their rows and sheets, each of which can be taken out. */
const NewFiles = ({ model, input }: { model: ReplayModel; input: Input }) => {
  const read = model.report?.inputs.find(({ id }) => id === input.id)?.files ?? []
  return (ownValue(model.files, input.id) ?? []).map((file) => {
    const known = read.find(({ hash, name }) => hash === file.hash && name === file.name)
    return (
      <li key={`${file.hash}${file.name}`} className="figures text-[12.5px] text-ink-2">
        {fileWords(file)}
        {known && ` · ${counted(known.rows, 'row')}`}
        {known && known.sheets.length > 1 && ` of ${counted(known.sheets.length, 'sheet')}`}, new{' '}
        <Button look="link" className="py-0!" onClick={() => model.takeOut(input.id, file)}>
          Take out
        </Button>
      </li>
    )
  })
}

/** What an input is read from where no new files are given, or beside them where they are kept. */
const FilesBefore = ({ model, input }: { model: ReplayModel; input: Input }) => {
  const { flow } = useFlow()
  const names = (ownValue(model.kept.files, input.id) ?? []).map(fileWords)
  const given = ownValue(model.files, input.id) !== undefined
  const keeps = model.keep.includes(input.id)
  if (names.length === 0)
    return given ? null : <li className="text-[12.5px] text-ink-2">waits for {input.files ?? 'a file'}</li>
  const since = model.kept.at === undefined ? 'which the story was built on' : `kept from ${moment(model.kept.at)}`
  if (given && !keeps)
    return (
      <li className="text-[12.5px] text-ink-3">
        in place of {names.join(', ')}{' '}
        <Button look="link" className="py-0!" onClick={() => model.keepBefore(input.id, true)}>
          Keep it too
        </Button>
      </li>
    )
  return (
    <li className="figures text-[12.5px] text-ink-2">
      {names.join(', ')}, {since}{' '}
      {given && (
        <Button look="link" className="py-0!" onClick={() => model.keepBefore(input.id, false)}>
          Take out
        </Button>
      )}
      {!given && flow.recipe.inputs.length > 1 && model.given && <span className="text-ink-3">· used again</span>}
    </li>
  )
}

/** An input of the story: the files it will be read from, and how they fit. */
export const InputSlot = ({ model, input, entry }: { model: ReplayModel; input: Input; entry: number }) => {
  const { flow, endpoint } = useFlow()
  const { id, name } = input
  const sources = (ownValue(flow.files, id) ?? []).flatMap(({ source }) => (source === undefined ? [] : [source]))
  const [words, tone] = fitWords(model.open.filter((finding) => finding.input === id))
  return (
    <section
      aria-label={name}
      className="grid grid-cols-[minmax(110px,auto)_1fr_auto] items-baseline gap-x-3 border-b border-line py-2.5"
    >
      <h2 className="flex items-center gap-[9px] font-serif text-[14px] font-semibold">
        <Dot entry={entry} />
        {name}
      </h2>
      <ul>
        <FilesBefore model={model} input={input} />
        <NewFiles model={model} input={input} />
        {sources.length > 0 && !endpoint.token && (
          <li>
            <Button look="link" className="py-0!" onClick={() => void model.fetchAnew(id, sources)}>
              Fetch it anew from where it came
            </Button>
          </li>
        )}
      </ul>
      {model.report && <span className={`font-semibold ${tone}`}>{words}</span>}
    </section>
  )
}
