import { NumberSigns } from '../ui/number-signs.tsx'
import { type Opening } from './use-opening.ts'

export const Heading = ({ children }: { children: string }) => (
  <h2 className="mb-1 text-[12px] font-semibold text-ink-3">{children}</h2>
)

/** A sign that no text holds stands for “no quotes”. */
const noQuote = '\u0001'

/** How a text file is written; where encodings differ, what each makes of the same line. */
export const Writing = ({ opening }: { opening: Opening }) => {
  const look = opening.look.data
  if (look?.format !== 'csv') return null
  const encoding = opening.read.encoding ?? look.encoding
  return (
    <section className="grid grid-cols-[minmax(0,1fr)] gap-1.5">
      <Heading>How the text is written</Heading>
      <label className="flex items-center justify-between gap-2">
        Cells are separated by
        <select
          className="field"
          value={opening.read.delimiter ?? look.delimiter}
          onChange={(event) => opening.change({ delimiter: event.target.value })}
        >
          {[
            [',', 'commas'],
            [';', 'semicolons'],
            ['\t', 'tabs'],
            ['|', 'bars'],
            [' ', 'blanks'],
          ].map(([sign, words]) => (
            <option key={sign} value={sign}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center justify-between gap-2">
        Quotes around cells
        <select
          className="field"
          value={opening.read.quote ?? '"'}
          onChange={(event) =>
            event.target.value === '"' ? opening.drop('quote') : opening.change({ quote: event.target.value })
          }
        >
          <option value={'"'}>double</option>
          <option value="'">single</option>
          <option value={noQuote}>none</option>
        </select>
      </label>
      <label className="flex items-center justify-between gap-2">
        Numbers are written
        <NumberSigns
          value={opening.read.locale}
          set={(locale) => (locale ? opening.change({ locale }) : opening.drop('locale'))}
        />
      </label>
      {look.samples.length > 0 && (
        <fieldset className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-0.5">
          <legend className="text-ink-2">Which of these reads right?</legend>
          {look.samples.map((sample) => (
            <label key={sample.encoding} className="flex items-center gap-2 rounded px-1 py-0.5 hover:bg-sunk">
              <input
                type="radio"
                name="encoding"
                checked={sample.encoding === encoding}
                onChange={() => opening.change({ encoding: sample.encoding })}
              />
              <span className="w-[92px] flex-none text-[12px] text-ink-3">{sample.encoding}</span>
              <span className="figures truncate">{sample.text}</span>
            </label>
          ))}
        </fieldset>
      )}
    </section>
  )
}
