import { counted, inOrder, figuresOf } from '@fabula/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { storyQuery } from '../api/queries.ts'
import { SentenceText } from '../sentence/sentence.tsx'
import { reportedAs } from '../sentence/sentences.ts'
import { Dot } from '../ui/parts.tsx'
import { useFlow } from '../story/flow-context.ts'

const ReadTable = ({ at }: { at: number }) => {
  const { flow, endpoint } = useFlow()
  const table = flow.recipe.tables[at]
  const { data } = useQuery({
    ...storyQuery(endpoint, flow.files, {
      recipe: flow.recipe,
      table: table?.id ?? '',
      step: table?.steps.at(-1)?.id ?? '',
    }),
    enabled: Object.keys(flow.files).length > 0,
  })
  return (
    <section className="mb-8" aria-label={table?.name}>
      <h2 className="mb-2 flex items-center gap-2 font-serif text-[16px] font-semibold">
        <Dot entry={at} /> {table?.name}
      </h2>
      <ol className="border-t border-line">
        {table?.steps.map((step, i) => {
          const reported = reportedAs(step)
          const statistics = data?.steps.find(({ id }) => id === step.id)?.statistics
          return (
            <li
              key={step.id}
              className="grid grid-cols-[34px_1fr_160px] border-b border-line py-2 font-serif text-[14.5px]"
            >
              <span className="font-sans text-[12px] leading-[22px] text-ink-3">{i + 1}</span>
              <span className={step.off ? 'text-ink-3 line-through' : ''}>
                {reported.own ?? <SentenceText step={step} recipe={flow.recipe} />}
                {reported.note && (
                  <span className="block text-[12.5px] whitespace-pre-line text-ink-2 italic">{reported.note}</span>
                )}
              </span>
              <span className="figures text-right text-[12px] text-ink-3">
                {statistics &&
                  figuresOf(statistics)
                    .map(({ text }) => text)
                    .join(' · ')}
              </span>
            </li>
          )
        })}
      </ol>
    </section>
  )
}

/** What a colleague sees by a link: the story, to read, and the way to replay it. */
export const Reader = () => {
  const { flow, endpoint } = useFlow()
  return (
    <main className="overflow-auto">
      <div className="mx-auto max-w-[820px] px-6 py-10">
        <h1 className="font-serif text-[24px] font-semibold">{flow.recipe.name}</h1>
        {flow.recipe.about && <p className="mt-1 font-serif text-[15px] text-ink-2">{flow.recipe.about}</p>}
        <p className="mt-4 mb-8">
          <Link
            className="rounded-md bg-rubric px-3.5 py-2 font-semibold text-on-rubric"
            to={`${endpoint.home}/replay`}
          >
            Replay on your own export
          </Link>
          <span className="ml-3 text-ink-2">
            It needs {counted(flow.recipe.inputs.length, 'file')}:{' '}
            {flow.recipe.inputs.map(({ name, files }) => `${name}${files ? ` (${files})` : ''}`).join(', ')}.
          </span>
        </p>
        {inOrder(flow.recipe).map(({ id }) => (
          <ReadTable key={id} at={flow.recipe.tables.findIndex((table) => table.id === id)} />
        ))}
      </div>
    </main>
  )
}
