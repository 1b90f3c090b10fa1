import {
  useId,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type SetStateAction,
  type RefObject,
  type Dispatch,
} from 'react'
import { Link } from 'react-router'
import {
  checkFormula,
  everyFunction,
  maybeTokens,
  writeColumn,
  writeParameter,
  type Parameter,
  type Schema,
  type Token,
  type ColumnType,
} from '@fabula/core'

type Offer = {
  readonly label: string
  readonly put: string
  readonly about: string
  readonly kind: 'function' | 'column' | 'parameter'
}

const functionNames = new Set(everyFunction.map(({ name }) => name))
const tone: Readonly<Record<Token['kind'], string>> = {
  number: 'text-changed',
  text: 'text-added',
  column: 'text-token',
  parameter: 'text-rubric',
  name: '',
  sign: 'text-ink-2',
  end: '',
}

/** The formula's text in pieces, each with its colour; what lies between tokens (spaces, comments) is faint. */
const pieces = (
  text: string,
  schema: Schema,
  problem: { from: number; to: number } | undefined,
): { text: string; look: string }[] => {
  const names = new Set(schema.map(({ name }) => name))
  const found: { text: string; look: string }[] = []
  let at = 0
  const push = (from: number, to: number, look: string): void => {
    const wrong = problem && from < problem.to && to > problem.from
    if (to > from)
      found.push({
        text: text.slice(from, to),
        look: wrong ? `${look} underline decoration-removed decoration-wavy underline-offset-3` : look,
      })
  }
  for (const token of maybeTokens(text)) {
    push(at, token.from, 'text-ink-3')
    const toneOf = () => {
      if (token.kind === 'name') {
        if (functionNames.has(token.value.toUpperCase())) return 'font-semibold text-ink'
        if (names.has(token.value)) return 'text-token'
        return 'text-ink'
      }
      return tone[token.kind]
    }
    push(token.from, token.to, toneOf())
    at = token.to
  }
  push(at, text.length, 'text-ink-3')
  return found
}

/** The word that is being typed at the caret: a name, a quoted column, or a parameter. */
const wordAt = (text: string, caret: number): string =>
  /(?:\$?'[^']*|\$?[\p{L}_][\p{L}\p{N}_]*|\$)$/u.exec(text.slice(0, caret))?.[0] ?? ''

/** What the caret stands in: the innermost function whose brackets are open, and which of its arguments. */
const callAt = (text: string, caret: number): { name: string; at: number } | undefined => {
  const open: { name: string; at: number }[] = []
  let last: Token | undefined
  for (const token of maybeTokens(text.slice(0, caret))) {
    if (token.value === '(' && token.kind === 'sign')
      open.push({ name: last?.kind === 'name' ? last.value.toUpperCase() : '', at: 0 })
    else if (token.value === ')' && token.kind === 'sign') open.pop()
    else if (token.kind === 'sign' && (token.value === ';' || token.value === ',')) {
      const inner = open.at(-1)
      if (inner) inner.at++
    }
    last = token
  }
  return open.at(-1)
}

const offersFor = (word: string, schema: Schema, parameters: readonly Parameter[]): Offer[] => {
  const sought = word.replace(/^\$?'?/, '').toLowerCase()
  const asked = parameters
    .filter(({ name }) => name.toLowerCase().includes(sought))
    .map(({ name, type }): Offer => ({
      label: `$${name}`,
      put: writeParameter(name),
      about: `asked at replay, ${type}`,
      kind: 'parameter',
    }))
  if (word.startsWith('$')) return asked
  const columns = schema
    .filter(({ name }) => name.toLowerCase().includes(sought))
    .map(({ name, type }): Offer => ({ label: name, put: writeColumn(name), about: type, kind: 'column' }))
  if (word.startsWith("'")) return columns.slice(0, 8)
  const functions = everyFunction
    .filter(({ name }) => name.startsWith(sought.toUpperCase()))
    .map(({ name, about, args }): Offer => ({
      label: `${name}(${args.map((arg) => arg.name).join('; ')})`,
      put: `${name}(`,
      about,
      kind: 'function',
    }))
  return [...columns.slice(0, 4), ...functions.slice(0, 5), ...asked.slice(0, 2)].slice(0, 8)
}

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
  // eslint-disable-next-line max-lines-per-function -- one flat piece of markup
}) => {
  const box = useRef<HTMLTextAreaElement>(null)
  const [text, setText] = useState(value)
  const [caret, setCaret] = useState(value.length)
  const [chosen, setChosen] = useState(0)
  const [closed, setClosed] = useState(true)
  const listId = useId()
  /** Where the caret goes once what was put in stands in the box. */
  const settle = useRef<number>(undefined)
  const checked = useMemo(
    () => checkFormula(text, schema, Object.fromEntries(parameters.map(({ name, type }) => [name, type]))),
    [text, schema, parameters],
  )
  const problem = 'problem' in checked ? checked.problem : undefined
  const word = wordAt(text, caret)
  const offers = closed || word === '' ? [] : offersFor(word, schema, parameters)
  const call = callAt(text, caret)
  const help = call ? everyFunction.find(({ name }) => name === call.name) : undefined
  const change = (next: string, at: number): void => {
    setText(next)
    setCaret(at)
    setChosen(0)
    if (next.trim() !== '') set(next)
  }
  const insert = (piece: string, replace = 0): void => {
    const at = box.current?.selectionStart ?? text.length
    const next = at - replace + piece.length
    settle.current = next
    change(text.slice(0, at - replace) + piece + text.slice(at), next)
    setClosed(true)
  }
  useLayoutEffect(() => {
    if (settle.current === undefined) return
    box.current?.focus()
    box.current?.setSelectionRange(settle.current, settle.current)
    settle.current = undefined
  }, [text])
  const keys = (event: React.KeyboardEvent): void => {
    if (offers.length > 0 && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      event.preventDefault()
      setChosen((chosen + (event.key === 'ArrowDown' ? 1 : offers.length - 1)) % offers.length)
    } else if (offers.length > 0 && (event.key === 'Tab' || event.key === 'Enter') && !event.ctrlKey) {
      event.preventDefault()
      event.stopPropagation()
      insert(offers[chosen]?.put ?? '', word.length)
    } else if (offers.length > 0 && event.key === 'Escape') {
      event.stopPropagation()
      setClosed(true)
    } else if (event.key === 'Enter' && !event.ctrlKey) event.stopPropagation()
  }
  const look = 'min-h-[74px] px-2 py-1.5 font-mono text-[12.5px] leading-[20px] whitespace-pre-wrap break-words'
  const verdict = () => {
    if (problem) return problem.sentence
    if ('type' in checked) return `gives ${resultWords[checked.type]}`
    return ''
  }
  return (
    <div className={`grid gap-2 ${wide ? 'w-[520px]' : ''}`}>
      <label className="grid gap-1">
        <span className="flex text-ink-2">
          Formula
          <Link to="/help/formulas" target="_blank" className="ml-auto text-[12px] text-token hover:underline">
            every function, with examples
          </Link>
        </span>
        {formulaField(look, text, schema, problem, box, listId, setClosed, change, setCaret, keys)}
      </label>
      <p id={`${listId}-says`} role="status" className={`min-h-5 ${problem ? 'text-removed' : 'text-ink-3'}`}>
        {verdict()}
      </p>
      {offers.length > 0 && offerList(offers, chosen, insert, word)}
      {help && offers.length === 0 && (
        <p className="rounded-md bg-sunk px-2 py-1.5 text-[12.5px]">
          <span className="font-mono text-[12px]">
            {help.name}(
            {help.args.map((arg, i) => (
              <span
                key={i}
                className={i === Math.min(call?.at ?? 0, help.args.length - 1) ? 'font-bold text-rubric' : ''}
              >
                {i > 0 ? '; ' : ''}
                {arg.name}
              </span>
            ))}
            )
          </span>{' '}
          <span className="text-ink-2">{help.about}</span>
          {help.examples[0] && (
            <span className="block text-ink-3">
              <span className="font-mono text-[12px]">{help.examples[0][0]}</span> gives{' '}
              {help.examples[0][1] === '' ? 'empty' : help.examples[0][1]}
            </span>
          )}
        </p>
      )}
      {nameButtons(schema, insert, parameters)}
    </div>
  )
}

function formulaField(
  look: string,
  text: string,
  schema: Schema,
  problem: { readonly from: number; readonly to: number } | undefined,
  box: RefObject<HTMLTextAreaElement | null>,
  listId: string,
  setClosed: Dispatch<SetStateAction<boolean>>,
  change: (next: string, at: number) => void,
  setCaret: Dispatch<SetStateAction<number>>,
  keys: (event: React.KeyboardEvent) => void,
) {
  return (
    <span className="relative grid rounded-md border border-line-strong bg-sheet">
      <span aria-hidden className={`pointer-events-none col-start-1 row-start-1 ${look}`}>
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
        aria-describedby={`${listId}-says`}
        aria-invalid={problem !== undefined}
        spellCheck={false}
        value={text}
        className={`col-start-1 row-start-1 resize-none overflow-hidden rounded-md bg-transparent text-transparent caret-ink ${look}`}
        onChange={(event) => (setClosed(false), change(event.target.value, event.target.selectionStart))}
        onSelect={(event) => setCaret(event.currentTarget.selectionStart)}
        onKeyDown={keys}
      />
    </span>
  )
}

function offerList(offers: Offer[], chosen: number, insert: (piece: string, replace?: number) => void, word: string) {
  return (
    <ul role="listbox" aria-label="What may stand here" className="border-t border-line">
      {offers.map(({ label, put, about, kind }, i) => {
        const tone = () => {
          if (kind === 'column') return 'text-token'
          if (kind === 'parameter') return 'text-rubric'
          return ''
        }
        return (
          <li key={label} role="option" aria-selected={i === chosen}>
            <button
              type="button"
              tabIndex={-1}
              className={`w-full rounded px-1 py-1 text-left hover:bg-sunk ${i === chosen ? 'bg-token-tint' : ''}`}
              onClick={() => insert(put, word.length)}
            >
              <b className={`font-mono text-[12px] ${tone()}`}>{label}</b> <span className="text-ink-2">{about}</span>
            </button>
          </li>
        )
      })}
    </ul>
  )
}

function nameButtons(
  schema: Schema,
  insert: (piece: string, replace?: number) => void,
  parameters: readonly Parameter[],
) {
  return (
    <div className="flex max-h-[90px] flex-wrap gap-1 overflow-auto" aria-label="Columns and what is asked at replay">
      {schema.map(({ name }) => (
        <button
          key={name}
          type="button"
          className="rounded border border-line px-1.5 font-data text-[12px] text-token hover:bg-token-tint"
          onClick={() => insert(writeColumn(name))}
        >
          {name}
        </button>
      ))}
      {parameters.map(({ name }) => (
        <button
          key={name}
          type="button"
          className="rounded border border-line px-1.5 font-data text-[12px] text-rubric hover:bg-rubric-tint"
          onClick={() => insert(writeParameter(name))}
        >
          {name}
        </button>
      ))}
    </div>
  )
}
