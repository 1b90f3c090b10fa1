import { counted, figure, monthNames, yearOf, type NewStep } from '@fabula/core'
import type { DateForms } from '@fabula/core/api'
import { useState, type Dispatch, type SetStateAction } from 'react'
import { dotted } from '../profile/column-facts.tsx'
import type { Story } from '../story/use-story.ts'
import { Button, Segments } from '../ui/parts.tsx'

const noun = { date: 'dates', datetime: 'dates and times', time: 'times' }

/** 03/04/2031 -> 3 April or 4 March */
const readings = (text: string): string => {
  const [a = 1, b = 1] = text.split(/\D+/).filter(Boolean).map(Number)
  return `${a} ${monthNames[b - 1] ?? ''} or ${b} ${monthNames[a - 1] ?? ''}`
}

/** The sentence that reads these forms; `year` for those that have none. */
export const readingStep = (
  column: string,
  type: DateForms['type'],
  forms: DateForms['day'],
  year: number | undefined,
): NewStep => ({
  kind: 'cast',
  columns: [column],
  type,
  formats: forms.map(({ pattern }) => pattern),
  ...yearOf(forms, year),
})

/** Which forms of dates a column holds, the one question they leave open, and what stays unread. */
export const DatesPanel = ({ story, column, forms }: { story: Story; column: string; forms: DateForms }) => {
  const { question } = forms
  const evidence = question ? question.dayFirst > 0 !== question.monthFirst > 0 : true
  const reading = () => {
    if (question) {
      if (evidence) {
        if (question.monthFirst > question.dayFirst) return 'month'
        return 'day'
      }
      return ''
    }
    return 'day'
  }
  const [order, setOrder] = useState<'day' | 'month' | ''>(reading())
  const [off, setOff] = useState<readonly string[]>([])
  const [year, setYear] = useState(String(forms.year ?? ''))
  const list = order === 'month' ? forms.month : forms.day
  const chosen = list.filter(({ pattern }) => !off.includes(pattern))
  const rows = chosen.reduce((sum, { rows: n }) => sum + n, 0)
  const yearless = chosen.some(({ noYear }) => noYear)
  const given = /^[1-9]\d{3}$/.test(year.trim()) ? Number(year) : undefined
  const dateWords = () => {
    if (forms.type === 'date') return 'a date'
    if (forms.type === 'time') return 'a time'
    return 'a date and time'
  }
  return (
    <section
      aria-label={`Forms of ${noun[forms.type]}`}
      className="grid gap-2 rounded-lg bg-changed-tint px-3 py-2.5 text-[12.5px]"
    >
      <p>
        It holds <b>{noun[forms.type]}</b> as text, in {counted(list.length, 'form')}.
      </p>
      {question && questionBox(question, order, setOrder)}
      <ul>
        {list.map(({ pattern, rows: n, example }) => (
          <li key={pattern}>
            <label className="figures flex items-baseline gap-2 py-0.5">
              <input
                type="checkbox"
                checked={!off.includes(pattern)}
                onChange={() =>
                  setOff(off.includes(pattern) ? off.filter((one) => one !== pattern) : [...off, pattern])
                }
              />
              <span className="truncate" title={pattern}>
                {example}
              </span>
              <span className="ml-auto whitespace-nowrap text-ink-2">{counted(n, 'row')}</span>
            </label>
          </li>
        ))}
      </ul>
      {yearless && (
        <label className="flex items-center gap-2">
          Some have no year. It is
          <input
            className="field figures w-[70px]"
            aria-label="The missing year"
            inputMode="numeric"
            placeholder="year"
            value={year}
            onChange={(event) => setYear(event.target.value)}
          />
        </label>
      )}
      {forms.leftRows > 0 && (
        <details>
          <summary className="cursor-pointer">{counted(forms.leftRows, 'row')} read as none of these</summary>
          <ul className="figures max-h-[110px] overflow-auto pt-1" tabIndex={0}>
            {forms.left.map(({ text, count }) => (
              <li key={text} className="flex gap-2">
                <span className="truncate whitespace-pre">{dotted(text)}</span>
                <span className="ml-auto text-ink-2">{figure(count)}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      <Button
        look="link"
        className="justify-self-start py-0!"
        disabled={chosen.length === 0 || order === '' || (yearless && given === undefined)}
        onClick={() => story.begin(readingStep(column, forms.type, chosen, given))}
      >
        {`Read as ${dateWords()}`} ({figure(rows)})
      </Button>
    </section>
  )
}

function questionBox(
  question: NonNullable<DateForms['question']>,
  order: '' | 'day' | 'month',
  setOrder: Dispatch<SetStateAction<'' | 'day' | 'month'>>,
) {
  return (
    <div className="grid gap-1.5">
      <p>
        Is <b className="figures">{question.eitherExample}</b> {readings(question.eitherExample)}?{' '}
        {counted(question.either, 'row')} can be either.{' '}
        {question.dayFirst > 0 &&
          `${figure(question.dayFirst)} can only have the day first, such as ${question.dayExample ?? ''}. `}
        {question.monthFirst > 0 &&
          `${figure(question.monthFirst)} can only have the month first, such as ${question.monthExample ?? ''}. `}
        {question.dayFirst + question.monthFirst === 0 && 'Nothing in the column tells.'}
      </p>
      <Segments
        label="Day or month first"
        value={order}
        of={[
          ['day', 'day first'],
          ['month', 'month first'],
        ]}
        onChange={setOrder}
      />
    </div>
  )
}
