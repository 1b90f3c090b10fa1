import { useEffect, useState } from 'react'
import { useLocation } from 'react-router'
import { capital, everyFunction } from '@fabula/core'

const groups = ['logic', 'number', 'text', 'date and time', 'list'] as const
const operators: readonly (readonly [string, string])[] = [
  ["'Visit date'", 'a column, in single quotes; Fee needs none, as it is one plain word'],
  ["$'As of'", 'a value asked at replay'],
  ['"dog"', 'text'],
  ['TRUE FALSE EMPTY', 'yes, no, nothing'],
  ['+ - * / ^ %', 'arithmetic; date + 30 is thirty days later, date − date the days between'],
  ['&', 'joins text; what is empty counts as no text'],
  ['= <> < <= > >=', 'compares like with like'],
  ['/* … */', 'a remark'],
]

/** Every function with its examples: the same table that is run by the engine, in SQL and in Python. */
export const HelpFormulas = () => {
  const [find, setFind] = useState('')
  const { hash } = useLocation()
  useEffect(() => void document.getElementById(hash.slice(1))?.scrollIntoView({ block: 'start' }), [hash])
  const sought = find.trim().toLowerCase()
  const found = everyFunction.filter(
    ({ name, about }) => sought === '' || name.toLowerCase().includes(sought) || about.toLowerCase().includes(sought),
  )
  return (
    <div className="mx-auto max-w-[900px] px-8 py-7">
      <title>Formulas – Help – Fabula</title>
      <h1 className="font-serif text-[24px] font-semibold">Formulas</h1>
      <p className="mt-1 mb-4 max-w-[620px] font-serif text-[14.5px] text-ink-2">
        What no sentence says by itself, a formula computes: one value for each row, from its columns. Each example
        below is run by the engine, in SQL and in Python whenever Fabula is built, and gives just what stands beside it.
      </p>
      <input
        className="field mb-5 w-[320px]"
        type="search"
        aria-label="Find a function"
        placeholder="Find a function, by its name or what it does"
        value={find}
        onChange={(event) => setFind(event.target.value)}
      />
      {sought === '' && (
        <section aria-label="Signs" className="mb-6">
          <h2 className="mb-1 font-serif text-[16px] font-semibold">Signs</h2>
          <dl className="grid grid-cols-[170px_1fr] gap-y-1">
            {operators.map(([sign, about]) => (
              <div key={sign} className="contents">
                <dt className="font-mono text-[12.5px]">{sign}</dt>
                <dd className="text-ink-2">{about}</dd>
              </div>
            ))}
          </dl>
        </section>
      )}
      {groups.map((group) => {
        const here = found.filter((one) => one.group === group)
        if (here.length === 0) return null
        return (
          <section key={group} aria-label={group} className="mb-6">
            <h2 className="mb-1 font-serif text-[16px] font-semibold">{capital(group)}</h2>
            {here.map(({ name, about, args, examples }) => (
              <article
                key={name}
                id={name}
                className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-6 border-t border-line py-2.5"
              >
                <div>
                  <h3 className="font-mono text-[12.5px] font-semibold break-words">
                    {name}({args.map((arg) => arg.name).join('; ')})
                  </h3>
                  <p className="text-ink-2">{about}</p>
                </div>
                <ul className="grid content-start gap-0.5">
                  {examples.slice(0, 4).map(([formula, gives]) => (
                    <li key={formula} className="flex flex-wrap gap-x-2 font-mono text-[12px]">
                      <span className="break-all">{formula}</span>
                      <span aria-hidden className="text-ink-3">
                        →
                      </span>
                      {gives === '' ? (
                        <i className="font-sans text-ink-3">empty</i>
                      ) : (
                        <b className="font-medium break-all">{gives}</b>
                      )}
                    </li>
                  ))}
                </ul>
              </article>
            ))}
          </section>
        )
      })}
      {found.length === 0 && <p className="font-serif text-ink-3 italic">No function is found by that word.</p>}
    </div>
  )
}
