import { useRef } from 'react'
import { counted, figure, quoted, type ReadOptions } from '@fabula/core'
import type { FileRef, OpenReply } from '@fabula/core/api'
import { Button, Notice, Segments } from '../ui/parts.tsx'
import type { Opening } from './use-opening.ts'
import { Heading, Writing } from './writing-settings.tsx'

const named = (names: readonly string[]): string =>
  `${names.slice(0, 2).map(quoted).join(', ')}${names.length > 2 ? ` and ${names.length - 2} more` : ''}`

/** What a part lacks that most others have, or has under another name. */
const lackNote = (opening: Opening, part: OpenReply['parts'][number] | undefined): string => {
  const parts = opening.opened.data?.parts ?? []
  if (!part) return ''
  const partner = opening.partners.find(({ file, sheet }) => file === part.file && sheet === part.sheet)
  if (partner) return `${quoted(partner.has)} for ${quoted(partner.lacks)}`
  const rare = part.lacks.filter((name) => parts.filter(({ lacks }) => lacks.includes(name)).length * 2 <= parts.length)
  return rare.length > 0 ? `no ${named(rare)}` : ''
}

/** The files, where there are several: what each brings and lacks. */
const Files = ({ opening, add }: { opening: Opening; add: (files: FileList) => void }) => {
  const chooser = useRef<HTMLInputElement>(null)
  const rowsOf = (file: FileRef) => (opening.opened.data?.parts ?? []).filter((part) => part.file === file.name)
  return (
    <section>
      {opening.files.length > 1 && (
        <>
          <Heading>Files, one under another</Heading>
          <ul>
            {opening.files.map((file, i) => {
              const parts = rowsOf(file)
              const note = parts.length === 1 ? lackNote(opening, parts[0]) : ''
              return (
                <li
                  key={`${file.hash}${i}`}
                  className={`flex items-center gap-2 border-b border-line py-1 ${opening.at.file === i ? 'bg-sheet' : ''}`}
                >
                  <button
                    type="button"
                    className="min-w-0 flex-1 truncate text-left"
                    onClick={() => opening.setAt({ file: i })}
                  >
                    {file.name}
                  </button>
                  {note && <span className="truncate text-[12px] text-changed">{note}</span>}
                  <span className="figures text-[12px] text-ink-3">
                    {counted(
                      parts.reduce((sum, { rows }) => sum + rows, 0),
                      'row',
                    )}
                  </span>
                  <Button
                    look="quiet"
                    className="px-1! py-0!"
                    aria-label={`Leave ${file.name} out`}
                    onClick={() => opening.setFiles(opening.files.filter((_, k) => k !== i))}
                  >
                    ×
                  </Button>
                </li>
              )
            })}
          </ul>
        </>
      )}
      <Button look="link" onClick={() => chooser.current?.click()}>
        Add another file
      </Button>
      <input
        ref={chooser}
        type="file"
        multiple
        aria-label="Another file"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => event.target.files && add(event.target.files)}
      />
    </section>
  )
}

/** The sheets of the workbook that is looked at, and which of them are taken in. */
const Sheets = ({ opening }: { opening: Opening }) => {
  const look = opening.look.data
  if (!look || look.sheets.length === 0) return null
  const { sheets } = opening.read
  const rule = sheets !== undefined && sheets !== 'first' && 'like' in sheets ? 'pattern' : 'ticked'
  const pattern = rule === 'pattern' ? (sheets as { like: string; unlike?: string }) : undefined
  const part = (sheet: string) =>
    opening.opened.data?.parts.find((one) => one.sheet === sheet && one.file === opening.file?.name)
  const seen = opening.at.sheet ?? look.sheet
  return (
    <section>
      <Heading>Sheets in this file</Heading>
      <ul>
        {look.sheets.map((sheet) => {
          const taken = opening.sheets.includes(sheet.name)
          const note = taken ? lackNote(opening, part(sheet.name)) : ''
          return (
            <li
              key={sheet.name}
              className={`flex items-center gap-2 border-b border-line py-1 ${seen === sheet.name ? 'bg-sheet font-semibold' : ''}`}
            >
              <input
                type="checkbox"
                aria-label={`Take in ${sheet.name}`}
                checked={taken}
                disabled={rule === 'pattern'}
                onChange={() => opening.toggleSheet(sheet.name)}
              />
              <button
                type="button"
                className={`min-w-0 flex-1 truncate text-left ${taken ? '' : 'text-ink-3'}`}
                onClick={() => opening.setAt({ ...opening.at, sheet: sheet.name })}
              >
                {sheet.name}
              </button>
              {sheet.hidden && <span className="text-[12px] font-normal text-ink-3">hidden</span>}
              {!taken && rule === 'pattern' && (
                <span className="text-[12px] font-normal text-ink-3">left out by the pattern</span>
              )}
              {note && <span className="truncate text-[12px] font-normal text-changed">{note}</span>}
              <span className="figures flex-none text-[12px] font-normal text-ink-3">
                {sheet.rows > 0 || look.total > 0
                  ? counted(part(sheet.name)?.rows ?? Math.max(0, sheet.rows - 1), 'row')
                  : 'many rows'}
              </span>
            </li>
          )
        })}
      </ul>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Segments
          label="Which sheets"
          value={rule}
          of={[
            ['ticked', 'Those ticked'],
            ['pattern', 'Named like…'],
          ]}
          onChange={(next) =>
            next === 'ticked'
              ? opening.change({ sheets: opening.sheets.length > 0 ? opening.sheets : [look.sheets[0]?.name ?? ''] })
              : opening.change({ sheets: { like: '*' } })
          }
        />
        {pattern && (
          <>
            <input
              className="field w-[96px]"
              aria-label="Sheets named like"
              value={pattern.like}
              onChange={(event) =>
                event.target.value && opening.change({ sheets: { ...pattern, like: event.target.value } })
              }
            />
            <span className="text-ink-3">but not</span>
            <input
              className="field w-[80px]"
              aria-label="but not like"
              value={pattern.unlike ?? ''}
              onChange={(event) =>
                opening.change({
                  sheets: event.target.value
                    ? { like: pattern.like, unlike: event.target.value }
                    : { like: pattern.like },
                })
              }
            />
          </>
        )}
      </div>
      {pattern && <p className="mt-1 text-[12px] text-ink-3">Sheets that appear next month and fit are taken in.</p>}
    </section>
  )
}

const originOf = (read: ReadOptions, key: 'file' | 'sheet', on: boolean): ReadOptions['origin'] => {
  const next = { ...read.origin, ...(on ? { [key]: key === 'file' ? 'File' : 'Sheet' } : { [key]: undefined }) }
  const kept = Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as NonNullable<
    ReadOptions['origin']
  >
  return Object.keys(kept).length > 0 ? kept : undefined
}

/** Which rows are the table, and what is noted beside each. */
const Rows = ({ opening }: { opening: Opening }) => {
  const format = opening.look.data?.format
  const { read } = opening
  const setOrigin = (key: 'file' | 'sheet', on: boolean): void => {
    const origin = originOf(read, key, on)
    if (origin) opening.change({ origin })
    else opening.drop('origin')
  }
  const number = (label: string, key: 'skip' | 'footer') => (
    <label className="flex items-center justify-between gap-2">
      {label}
      <input
        className="field figures w-[64px]"
        type="number"
        min={0}
        value={read[key] ?? 0}
        onChange={(event) =>
          event.target.valueAsNumber > 0 ? opening.change({ [key]: event.target.valueAsNumber }) : opening.drop(key)
        }
      />
    </label>
  )
  return (
    <section className="grid gap-1.5">
      {format === 'json' && (
        <label className="flex items-center justify-between gap-2">
          The list stands at
          <input
            className="field w-[180px]"
            placeholder="data.items"
            defaultValue={read.path ?? ''}
            onBlur={(event) =>
              event.target.value ? opening.change({ path: event.target.value }) : opening.drop('path')
            }
            onKeyDown={(event) => event.key === 'Enter' && (event.stopPropagation(), event.currentTarget.blur())}
          />
        </label>
      )}
      {format !== 'json' && format !== 'parquet' && (
        <>
          <Heading>Which rows are the table</Heading>
          {number('Rows below the names to leave out', 'skip')}
          {number('Rows at the foot to leave out', 'footer')}
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={read.header === 'none'}
              onChange={(event) => (event.target.checked ? opening.change({ header: 'none' }) : opening.drop('header'))}
            />{' '}
            There is no row of names
          </label>
          {read.range && (
            <p className="flex items-center gap-2">
              Only the cells <b className="figures">{read.range}</b>
              <Button look="link" className="py-0!" onClick={() => opening.drop('range')}>
                take the whole sheet
              </Button>
            </p>
          )}
        </>
      )}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={read.origin?.file !== undefined}
          onChange={(event) => setOrigin('file', event.target.checked)}
        />{' '}
        Note the file of each row
      </label>
      {(format === 'xlsx' || format === 'ods') && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={read.origin?.sheet !== undefined}
            onChange={(event) => setOrigin('sheet', event.target.checked)}
          />{' '}
          Note the sheet of each row
        </label>
      )}
    </section>
  )
}

/** What looks wrong, each with what mends it. */
const Findings = ({ opening }: { opening: Opening }) => (
  <>
    {opening.partners.map(({ file, sheet, lacks, has, values, agree }) => (
      <Notice key={has}>
        <b>{has}</b> stands in {sheet ?? file} where the others have <b>{lacks}</b>: {figure(agree)} of its{' '}
        {counted(values, 'value')} {agree === 1 ? 'is' : 'are'} there too.{' '}
        <button
          type="button"
          className="font-semibold text-rubric"
          aria-pressed={opening.aligned.includes(has)}
          onClick={() =>
            opening.setAligned(
              opening.aligned.includes(has) ? opening.aligned.filter((one) => one !== has) : [...opening.aligned, has],
            )
          }
        >
          {opening.aligned.includes(has) ? 'Take them apart again' : 'Lay them together'}
        </button>
      </Notice>
    ))}
    {opening.tallColumns.length > 0 && (
      <Notice>
        Merged cells in <b>{opening.tallColumns.join(', ')}</b> go over several rows; only the first row holds the
        value.{' '}
        <button
          type="button"
          className="font-semibold text-rubric"
          aria-pressed={opening.filled}
          onClick={() => opening.setFilled(!opening.filled)}
        >
          {opening.filled ? 'Leave the rest empty' : 'Fill the rest'}
        </button>
      </Notice>
    )}
    {(opening.opened.data?.missingSheets ?? []).map((sheet) => (
      <Notice key={sheet}>No file has a sheet {quoted(sheet)}.</Notice>
    ))}
  </>
)

export const OpeningSettings = ({ opening, add }: { opening: Opening; add: (files: FileList) => void }) => (
  <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
    <Files opening={opening} add={add} />
    <Sheets opening={opening} />
    <Findings opening={opening} />
    <Writing opening={opening} />
    <Rows opening={opening} />
  </div>
)
