import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import {
  createStatement,
  databaseColumns,
  isFile,
  outputFormatInfo,
  outputFormats,
  withoutEnding,
  typesThere,
  type DatabaseOutput,
  type DatabaseType,
  type FileOutput,
  type Output,
  type OutputFormat,
  type Schema,
} from '@fabula/core'
import { connectionsQuery } from '../api/queries.ts'
import { Button, Dot, Editable, Segments } from '../ui/parts.tsx'
import { useTableSchema } from '../story/table-schema.ts'
import type { Story } from '../story/use-story.ts'
import { outputsOf } from '../story/tables.ts'

const modeWords: Readonly<Record<DatabaseOutput['mode'], string>> = {
  replace: 'in place of what is there',
  append: 'below what is there',
  upsert: 'by its keys: new rows come, known ones are overwritten',
}
const option = 'rounded px-2 py-1 text-left hover:bg-sunk aria-pressed:font-semibold'

type EditProps<T> = { readonly output: T; readonly put: (next: Output) => void }
const renamed = (file: string, format: OutputFormat): string => `${withoutEnding(file)}.${format}`

/** Where a table is written: as a file of some sort, or into a database. */
const Target = ({ output, put, story }: EditProps<Output> & { story: Story }) => {
  const [open, setOpen] = useState(false)
  const connections = useQuery({ ...connectionsQuery, enabled: open })
  const stem = output.table
  const done = (next: Output): void => {
    put(next)
    setOpen(false)
  }
  return (
    <Editable
      label="written as"
      text={isFile(output) ? outputFormatInfo[output.format].words : `a table of ${output.connection}`}
      open={open}
      onOpenChange={setOpen}
    >
      <div className="grid gap-0.5">
        {outputFormats.map((format) => (
          <button
            key={format}
            type="button"
            className={option}
            aria-pressed={output.format === format}
            onClick={() =>
              done({
                table: output.table,
                format,
                file: renamed(isFile(output) ? output.file : `${stem}.csv`, format),
                ...(isFile(output) && output.options ? { options: output.options } : {}),
              })
            }
          >
            {outputFormatInfo[format].words}
          </button>
        ))}
        {connections.data?.connections.map(({ name }) => (
          <button
            key={name}
            type="button"
            className={option}
            aria-pressed={!isFile(output) && output.connection === name}
            onClick={() =>
              done({
                table: output.table,
                format: 'postgresql',
                connection: name,
                name: stem.replaceAll('-', '_'),
                mode: 'replace',
                names: 'snake_case',
              })
            }
          >
            a table of {name}
          </button>
        ))}
        {connections.data?.connections.length === 0 && (
          <p className="max-w-[260px] px-2 pt-1 text-[12.5px] text-ink-3">
            A database is offered once it has a connection: bring a table from elsewhere, PostgreSQL, and name one
            there. For {story.flow.recipe.name} nothing of it is written down but that name.
          </p>
        )}
      </div>
    </Editable>
  )
}

const FileName = ({ output, put }: EditProps<FileOutput>) => {
  const [open, setOpen] = useState(false)
  const text = output.format === 'csv' || output.format === 'xlsx'
  return (
    <Editable label="file" text={output.file} open={open} onOpenChange={setOpen}>
      <div className="grid w-[300px] gap-2">
        <input
          className="field"
          aria-label="Name of the file"
          autoFocus
          defaultValue={output.file}
          onBlur={(event) =>
            event.target.value.trim() !== '' &&
            event.target.value !== output.file &&
            put({ ...output, file: event.target.value.trim() })
          }
          onKeyDown={(event) =>
            event.key === 'Enter' && (event.stopPropagation(), event.currentTarget.blur(), setOpen(false))
          }
        />
        {text && (
          <label className="flex items-start gap-2 text-[12.5px] text-ink-2">
            <input
              type="checkbox"
              className="mt-0.5"
              checked={output.options?.guard ?? true}
              onChange={(event) => put({ ...output, options: { guard: event.target.checked } })}
            />{' '}
            put a ’ before text that a spreadsheet would take for a formula
          </label>
        )}
        {output.format === 'xlsx' && (
          <p className="text-[12px] text-ink-3">Tables written into a workbook of the same name are its sheets.</p>
        )}
      </div>
    </Editable>
  )
}

/** The table of a database: its name, how it is written, by which keys, and the names and types that its columns get there. */
const DatabaseTable = ({ output, put, story }: EditProps<DatabaseOutput> & { story: Story }) => {
  const [open, setOpen] = useState(false)
  const schema = useTableSchema(story, output.table)
  const columns = databaseColumns(output, schema)
  const set = (next: Partial<DatabaseOutput>): void => put({ ...output, ...next })
  const keys = output.keys ?? []
  const mode = (next: DatabaseOutput['mode']): void => {
    const { keys: _keys, ...rest } = output
    put(
      next === 'upsert'
        ? { ...output, mode: next, keys: keys.length > 0 ? keys : [schema[0]?.name ?? ''] }
        : { ...rest, mode: next },
    )
  }
  return (
    <Editable
      label="table there"
      text={`${output.schema === undefined ? '' : `${output.schema}.`}${output.name}, ${modeWords[output.mode]}`}
      open={open}
      onOpenChange={setOpen}
    >
      <div className="grid w-[420px] gap-2.5">
        <div className="flex gap-2">
          <input
            className="field w-[120px]"
            aria-label="Schema there"
            placeholder="schema"
            defaultValue={output.schema ?? ''}
            onBlur={(event) => {
              const { schema: _schema, ...rest } = output
              put(event.target.value.trim() === '' ? rest : { ...output, schema: event.target.value.trim() })
            }}
          />
          <input
            className="field flex-1"
            aria-label="Name of the table there"
            defaultValue={output.name}
            onBlur={(event) => event.target.value.trim() !== '' && set({ name: event.target.value.trim() })}
          />
        </div>
        <Segments
          label="What becomes of what is there"
          value={output.mode}
          of={[
            ['replace', 'replace'],
            ['append', 'add below'],
            ['upsert', 'by keys'],
          ]}
          onChange={mode}
        />
        {output.mode === 'upsert' && (
          <fieldset className="flex flex-wrap gap-x-3 gap-y-1">
            <legend className="text-[12px] text-ink-3">A row is known by</legend>
            {schema.map(({ name }) => (
              <label key={name} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={keys.includes(name)}
                  onChange={() => {
                    const next = keys.includes(name) ? keys.filter((one) => one !== name) : [...keys, name]
                    if (next.length > 0) set({ keys: next })
                  }}
                />{' '}
                {name}
              </label>
            ))}
          </fieldset>
        )}
        <Segments
          label="Names of columns there"
          value={output.names ?? 'as-is'}
          of={[
            ['snake_case', 'names_made_plain'],
            ['as-is', 'names as they are'],
          ]}
          onChange={(names) => set({ names })}
        />
        {columnNames(columns, set, output, schema)}
        <details>
          <summary className="cursor-pointer text-[12.5px] text-ink-2">The statement that makes it</summary>
          <pre className="mt-1 overflow-auto bg-sunk p-2 font-mono text-[12px]">{createStatement(output, schema)}</pre>
        </details>
      </div>
    </Editable>
  )
}

/** What a replay writes, as the last sentences of the story. */
export const Outputs = ({ story }: { story: Story }) => {
  const { recipe } = story.flow
  const outputs = outputsOf(recipe)
  const save = (next: readonly Output[], what: string): void => void story.save({ ...recipe, outputs: [...next] }, what)
  const put = (at: number, next: Output): void =>
    save(
      outputs.map((one, i) => (i === at ? next : one)),
      'an output changed',
    )
  const nameOf = (id: string): string => recipe.tables.find((table) => table.id === id)?.name ?? id
  if (story.draft) return null
  return (
    <section
      aria-label="What a replay writes"
      className="mt-2 border-t border-line py-2 pr-3.5 pl-2 font-serif text-[14px]"
    >
      <ol className="grid gap-1">
        {outputs.map((output, at) => (
          <li key={`${at}${output.table}`} className="group grid grid-cols-[20px_minmax(0,1fr)_auto] items-baseline">
            <Dot entry={recipe.tables.findIndex((table) => table.id === output.table)} />
            <span>
              Write {nameOf(output.table)} as <Target output={output} put={(next) => put(at, next)} story={story} />
              {isFile(output) ? ' called ' : ', '}
              {isFile(output) ? (
                <FileName output={output} put={(next) => put(at, next)} />
              ) : (
                <DatabaseTable output={output} put={(next) => put(at, next)} story={story} />
              )}
              .
            </span>
            <button
              type="button"
              aria-label={`Do not write ${nameOf(output.table)}, ${at + 1}`}
              disabled={outputs.length === 1}
              className="px-1 font-sans text-ink-3 hover:text-ink disabled:opacity-0"
              onClick={() =>
                save(
                  outputs.filter((_, i) => i !== at),
                  'an output taken out',
                )
              }
            >
              ×
            </button>
          </li>
        ))}
      </ol>
      <p className="mt-1 flex flex-wrap gap-x-3 pl-[20px] font-sans text-[12.5px] text-ink-3">
        Write too
        {recipe.tables.map(({ id, name }) => (
          <Button
            key={id}
            look="link"
            className="py-0! text-[12.5px]"
            onClick={() => save([...outputs, freshOutput(outputs, id)], 'one more output')}
          >
            {name}
          </Button>
        ))}
      </p>
    </section>
  )
}

/** One more output of a table, under a file name that is free. */
const freshOutput = (outputs: readonly Output[], table: string): FileOutput => {
  const taken = outputs.flatMap((output) => (isFile(output) ? [output.file] : []))
  let file = `${table}-tidy.csv`
  for (let n = 2; taken.includes(file); n++) file = `${table}-tidy-${n}.csv`
  return { table, format: 'csv', file }
}

function columnNames(
  columns: ReturnType<typeof databaseColumns>,
  set: (next: Partial<DatabaseOutput>) => void,
  output: DatabaseOutput,
  schema: Schema,
) {
  return (
    <table className="figures text-[12.5px]">
      <tbody>
        {columns.map(({ from, name, type }) => (
          <tr key={from} className="*:py-0.5 *:pr-3">
            <td>{from}</td>
            <td className="text-ink-3">→</td>
            <td className="font-mono">{name}</td>
            <td>
              <select
                className="field py-0! font-mono text-[12px]"
                aria-label={`Type of ${name} there`}
                value={type}
                onChange={(event) => set({ types: { ...output.types, [from]: event.target.value as DatabaseType } })}
              >
                {typesThere[schema.find((field) => field.name === from)?.type ?? 'text'].map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </select>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
