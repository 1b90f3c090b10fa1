import {
  formulaSentence,
  writeColumn,
  writeParameter,
  type ColumnType,
  type Parameter,
  type Schema,
} from '@fabula/core'
import { useId } from 'react'
import { Link } from 'react-router'
import { pieces, type Offer } from './formula-completion.ts'
import { useFormula, type FormulaModel } from './use-formula.ts'

const resultWords: Readonly<Record<ColumnType, string>> = {
  text: 'text',
  integer: 'whole numbers',
  decimal: 'numbers',
  boolean: 'true or false',
  date: 'dates',
  datetime: 'dates and times',
  time: 'times',
  list: 'lists',
}

const textLook = 'min-h-[74px] px-2 py-1.5 font-mono text-[12.5px] leading-[20px] whitespace-pre-wrap break-words'

/** The text field, over the same text in colours. */
const FormulaField = ({ formula, says }: { formula: FormulaModel; says: string }) => {
  const { box, text, schema, problem, type, setCaret, keys } = formula
  return (
    <span className="relative grid rounded-md border border-line-strong bg-sheet">
      <span aria-hidden className={`pointer-events-none col-start-1 row-start-1 ${textLook}`}>
        {pieces(text, schema, problem).map((piece, i) => (
          <span key={i} className={piece.look}>
            {piece.text}
          </span>
        ))}{' '}
      </span>
      <textarea
        ref={box}
        autoFocus
        aria-label="Formula"
        aria-describedby={says}
        aria-invalid={problem !== undefined}
        spellCheck={false}
        value={text}
        className={`col-start-1 row-start-1 resize-none overflow-hidden rounded-md bg-transparent text-transparent caret-ink ${textLook}`}
        onChange={(event) => type(event.target.value, event.target.selectionStart)}
        onSelect={(event) => setCaret(event.currentTarget.selectionStart)}
        onKeyDown={keys}
      />
    </span>
  )
}

const offerTones: Readonly<Record<Offer['kind'], string>> = {
  column: 'text-token',
  parameter: 'text-rubric',
  function: '',
}

const OfferList = ({ formula: { offers, chosen, take } }: { formula: FormulaModel }) => (
  <ul role="listbox" aria-label="What may stand here" className="border-t border-line">
    {offers.map((offer, i) => (
      <li key={offer.label} role="option" aria-selected={i === chosen}>
        <button
          type="button"
          tabIndex={-1}
          className={`w-full rounded px-1 py-1 text-left hover:bg-sunk ${i === chosen ? 'bg-token-tint' : ''}`}
          onClick={() => take(offer)}
        >
          <b className={`font-mono text-[12px] ${offerTones[offer.kind]}`}>{offer.label}</b>{' '}
          <span className="text-ink-2">{offer.about}</span>
        </button>
      </li>
    ))}
  </ul>
)

/** The function the caret stands in, with the argument that is being written marked. */
const CallHelp = ({ help, at }: { help: NonNullable<FormulaModel['help']>; at: number }) => {
  const [example] = help.examples
  return (
    <p className="rounded-md bg-sunk px-2 py-1.5 text-[12.5px]">
      <span className="font-mono text-[12px]">
        {help.name}(
        {help.args.map((arg, i) => (
          <span key={i} className={i === Math.min(at, help.args.length - 1) ? 'font-bold text-rubric' : ''}>
            {i > 0 ? '; ' : ''}
            {arg.name}
          </span>
        ))}
        )
      </span>{' '}
      <span className="text-ink-2">{help.about}</span>
      {example && (
        <span className="block text-ink-3">
          <span className="font-mono text-[12px]">{example[0]}</span> gives {example[1] === '' ? 'empty' : example[1]}
        </span>
      )}
    </p>
  )
}

/** The columns and the values asked at replay, each put in at the caret by a click. */
const NameButtons = ({ formula: { schema, parameters, put } }: { formula: FormulaModel }) => (
  <div className="flex max-h-[90px] flex-wrap gap-1 overflow-auto" aria-label="Columns and what is asked at replay">
    {schema.map(({ name }) => (
      <button
        key={name}
        type="button"
        className="rounded border border-line px-1.5 font-data text-[12px] text-token hover:bg-token-tint"
        onClick={() => put(writeColumn(name))}
      >
        {name}
      </button>
    ))}
    {parameters.map(({ name }) => (
      <button
        key={name}
        type="button"
        className="rounded border border-line px-1.5 font-data text-[12px] text-rubric hover:bg-rubric-tint"
        onClick={() => put(writeParameter(name))}
      >
        {name}
      </button>
    ))}
  </div>
)

const verdictOf = ({ problem, checked }: FormulaModel): string => {
  if (problem) return formulaSentence(problem)
  return 'type' in checked ? `gives ${resultWords[checked.type]}` : ''
}

/** A formula with colours, completion, help on the arguments and its error underlined while it is typed. */
export const FormulaEditor = ({
  value,
  schema,
  parameters,
  set,
  wide = true,
}: {
  value: string
  schema: Schema
  parameters: readonly Parameter[]
  set: (value: string) => void
  wide?: boolean
}) => {
  const formula = useFormula(value, schema, parameters, set)
  const { offers, help, call, problem } = formula
  const says = useId()
  return (
    <div className={`grid gap-2 ${wide ? 'w-[520px]' : ''}`}>
      <label className="grid gap-1">
        <span className="flex text-ink-2">
          Formula
          <Link to="/help/formulas" target="_blank" className="ml-auto text-[12px] text-token hover:underline">
            every function, with examples
          </Link>
        </span>
        <FormulaField formula={formula} says={says} />
      </label>
      <p id={says} role="status" className={`min-h-5 ${problem ? 'text-removed' : 'text-ink-3'}`}>
        {verdictOf(formula)}
      </p>
      {offers.length > 0 && <OfferList formula={formula} />}
      {help && offers.length === 0 && <CallHelp help={help} at={call?.at ?? 0} />}
      <NameButtons formula={formula} />
    </div>
  )
}
