import { capital, stepKinds, type StepKindName } from '@fabula/core'
import { isNumeric, Written } from '../grid/cells.tsx'
import { examplesOf, type ShownExample, type SmallTable } from './examples.ts'
import { verbAbout } from './verb-about.ts'

const TableOfExample = ({ title, table: { names, types, rows } }: { title: string; table: SmallTable }) => (
  <figure className="min-w-0">
    <figcaption className="text-[12px] text-ink-3">{title}</figcaption>
    <div className="overflow-x-auto" role="group" tabIndex={0} aria-label={title}>
      <table className="figures border border-line bg-sheet text-[12px]">
        <thead>
          <tr className="bg-sunk *:border-b *:border-line *:px-2 *:py-0.5 *:font-semibold">
            {names.map((name, c) => (
              <th key={c} scope="col" className={isNumeric(types[c] ?? 'text') ? 'text-right' : 'text-left'}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, r) => (
            <tr key={r} className="*:border-b *:border-line *:px-2 *:py-0.5 *:whitespace-pre">
              {names.map((_, c) => (
                <td key={c} className={isNumeric(types[c] ?? 'text') ? 'text-right' : ''}>
                  <Written text={row[c] ?? null} type={types[c] ?? 'text'} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  </figure>
)

const Example = ({ example: { name, sentence, from, to, others } }: { example: ShownExample }) => (
  <section aria-label={name} className="border-t border-line py-3">
    <h3 className="text-[13px] font-semibold">{capital(name)}</h3>
    <p className="my-1.5 border-l-2 border-rubric pl-2.5 font-serif text-[14px]">{sentence}</p>
    <div className="flex flex-wrap gap-x-5 gap-y-2">
      <TableOfExample title="From this" table={from} />
      {others.map((other) => (
        <TableOfExample key={other.name} title={`and ${other.name}`} table={other.table} />
      ))}
      <TableOfExample title="to this" table={to} />
    </div>
  </section>
)

/** What a kind of sentence does, by the examples that are run by the engine and by both scripts at every build. */
export const VerbHelp = ({ kind }: { kind: StepKindName }) => {
  const examples = examplesOf(kind)
  return (
    <>
      <p className="mt-1 mb-2 font-serif text-[14.5px]">{verbAbout[kind]}</p>
      <p className="mb-3 text-[12.5px] text-ink-3">Also found by: {stepKinds[kind].words.join(', ')}.</p>
      {examples.length > 0 && <h2 className="sr-only">Examples</h2>}
      {examples.map((example) => (
        <Example key={example.name} example={example} />
      ))}
      {examples.length > 0 && (
        <p className="border-t border-line pt-2 text-[12px] text-ink-3">
          Each example is run by Fabula, in Python and in SQL whenever it is built, and gives just this.
        </p>
      )}
    </>
  )
}
