import { checkFormula, everyFunction, type Parameter, type Schema } from '@fabula/core'
import { useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { callAt, offersFor, wordAt, type Offer } from './formula-completion.ts'

/** The text of a formula and the caret in it; `insert` puts a piece in at the caret in place of the characters before it. */
const useFormulaText = (value: string, set: (value: string) => void) => {
  const box = useRef<HTMLTextAreaElement>(null)
  const [text, setText] = useState(value)
  const [caret, setCaret] = useState(value.length)
  /** Where the caret goes once what was put in stands in the box. */
  const settle = useRef<number>(undefined)
  const change = (next: string, at: number): void => {
    setText(next)
    setCaret(at)
    if (next.trim() !== '') set(next)
  }
  const insert = (piece: string, replace: number): void => {
    const at = box.current?.selectionStart ?? text.length
    const next = at - replace + piece.length
    settle.current = next
    change(text.slice(0, at - replace) + piece + text.slice(at), next)
  }
  useLayoutEffect(() => {
    if (settle.current === undefined) return
    box.current?.focus()
    box.current?.setSelectionRange(settle.current, settle.current)
    settle.current = undefined
  }, [text])
  return { box, text, caret, setCaret, change, insert }
}

/** The key strokes of the list of offers; another Enter than Ctrl+Enter stays in the field. */
const useOfferKeys = (
  offers: readonly Offer[],
  list: { readonly chosen: number; readonly choose: (at: number) => void; readonly close: () => void },
  take: (offer: Offer) => void,
) => {
  const { chosen, choose, close } = list
  return (event: KeyboardEvent): void => {
    const { key } = event
    const offer = offers[chosen]
    if (!offer || (key === 'Enter' && event.ctrlKey)) {
      if (key === 'Enter' && !event.ctrlKey) event.stopPropagation()
      return
    }
    if (key === 'ArrowDown' || key === 'ArrowUp') {
      event.preventDefault()
      choose((chosen + (key === 'ArrowDown' ? 1 : offers.length - 1)) % offers.length)
    }
    if (key === 'Enter' || (key === 'Tab' && !event.ctrlKey)) {
      event.preventDefault()
      event.stopPropagation()
      take(offer)
    }
    if (key === 'Escape') {
      event.stopPropagation()
      close()
    }
  }
}

/** The state of the formula editor: its text, what may be completed, the function at the caret, and what is wrong. */
export const useFormula = (
  value: string,
  schema: Schema,
  parameters: readonly Parameter[],
  set: (value: string) => void,
) => {
  const { insert, change, ...field } = useFormulaText(value, set)
  const { text, caret } = field
  const [chosen, choose] = useState(0)
  const [closed, setClosed] = useState(true)
  const checked = useMemo(
    () => checkFormula(text, schema, Object.fromEntries(parameters.map(({ name, type }) => [name, type]))),
    [text, schema, parameters],
  )
  const word = wordAt(text, caret)
  const offers = closed || word === '' ? [] : offersFor(word, schema, parameters)
  const call = callAt(text, caret)
  const put = (piece: string, replace = 0): void => {
    insert(piece, replace)
    choose(0)
    setClosed(true)
  }
  const take = (offer: Offer): void => put(offer.put, word.length)
  return {
    ...field,
    schema,
    parameters,
    type: (next: string, at: number): void => {
      setClosed(false)
      choose(0)
      change(next, at)
    },
    put,
    take,
    offers,
    chosen,
    keys: useOfferKeys(offers, { chosen, choose, close: () => setClosed(true) }, take),
    call,
    /** The function whose argument the caret stands in. */
    help: call && everyFunction.find(({ name }) => name === call.name),
    checked,
    problem: 'problem' in checked ? checked.problem : undefined,
  }
}
export type FormulaModel = ReturnType<typeof useFormula>
