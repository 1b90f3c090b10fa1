import hljs from 'highlight.js/lib/core'
import json from 'highlight.js/lib/languages/json'
import pythonLanguage from 'highlight.js/lib/languages/python'
import sqlLanguage from 'highlight.js/lib/languages/sql'
import { useState } from 'react'
import { counted, sentenceText, tableNames, writeRecipe, type DialectName, type Recipe } from '@fabula/core'
import type { ScriptReply } from '@fabula/core/api'
import { Notice } from '../ui/parts.tsx'

hljs.registerLanguage('python', pythonLanguage)
hljs.registerLanguage('spark', pythonLanguage)
hljs.registerLanguage('sql', sqlLanguage)
hljs.registerLanguage('json', json)

/** Code without empty lines around it, and without the indentation that all its lines have. */
const withoutIndent = (text: string): string => {
  const lines = text.replace(/^\s*\n|\s+$/g, '').split('\n')
  const indents = lines.filter((line) => line.trim() !== '').map((line) => line.length - line.trimStart().length)
  const least = Math.min(...indents)
  return lines.map((line) => line.slice(Number.isFinite(least) ? least : 0)).join('\n')
}

const Code = ({ text, language }: { text: string; language: DialectName | 'json' }) => (
  <pre
    className="m-0 min-w-0 bg-sheet px-4 py-[11px] font-mono text-[12px] leading-relaxed break-words whitespace-pre-wrap"
    dangerouslySetInnerHTML={{ __html: hljs.highlight(withoutIndent(text), { language }).value }}
  />
)

/** What stands around the story in a script is long and much the same for all; it folds, and is highlighted once it is open. */
const Folded = ({ text, language, holds }: { text: string; language: DialectName; holds: string }) => {
  const [open, setOpen] = useState(false)
  return (
    <details className="bg-sheet px-4 py-2" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-ink-2">
        {counted(text.trim().split('\n').length, 'line')}: {holds}
      </summary>
      {open && <Code text={text} language={language} />}
    </details>
  )
}

/** A dialect's script, or the recipe itself. */
export type ScriptTab = DialectName | 'recipe'
type DialectScript = ScriptReply['scripts'][number]

/** Each sentence beside what it is in the script; a click holds one of them up. */
const Sides = ({
  recipe,
  parts,
  language,
}: {
  recipe: Recipe
  parts: DialectScript['parts']
  language: DialectName
}) => {
  const [chosen, setChosen] = useState('')
  const steps = recipe.tables.flatMap((table) => table.steps.map((step, i) => ({ step, number: i + 1 })))
  return parts.map(({ step: id, text }, i) => {
    const found = steps.find(({ step }) => step.id === id)
    const sentence = () => {
      if (found) return sentenceText(found.step, tableNames(recipe))
      if (i === 0) return 'Who runs it gives the exports by name.'
      return 'The result is written as CSV, and what each sentence left is told.'
    }
    return (
      <div
        key={id ?? `part-${i}`}
        data-state={id !== undefined && id === chosen ? 'on' : 'off'}
        onClick={() => setChosen(id ?? '')}
        className="group grid grid-cols-[minmax(220px,330px)_minmax(0,1fr)] border-b border-line data-[state=on]:bg-rubric-tint"
      >
        <p className="grid grid-cols-[22px_1fr] py-[11px] pr-4 pl-[18px] font-serif text-[14px]">
          <span className="font-sans text-[12px] leading-[21px] text-ink-3">{found?.number}</span>
          <span className={found ? '' : 'text-ink-2'}>{sentence()}</span>
        </p>
        <div className="min-w-0 border-l border-line group-data-[state=on]:shadow-[inset_3px_0_0_var(--rubric)]">
          {id === undefined ? (
            <Folded
              text={text}
              language={language}
              holds={i === 0 ? 'how it is called, what it needs' : 'the end of the story, and the functions it uses'}
            />
          ) : (
            <Code text={text} language={language} />
          )}
        </div>
      </div>
    )
  })
}

/** The story as a script of a dialect, or as the recipe that all are made from. */
export const ScriptView = ({
  recipe,
  script,
  language,
}: {
  recipe: Recipe
  script: DialectScript | undefined
  language: ScriptTab
}) => (
  <div className="overflow-auto" tabIndex={0} role="region" aria-label="Script">
    {language === 'recipe' ? (
      <Code text={writeRecipe(recipe)} language="json" />
    ) : (
      <>
        {script?.problem && (
          <div className="p-4">
            <Notice kind="removed">{script.problem}</Notice>
          </div>
        )}
        <Sides recipe={recipe} parts={script?.parts ?? []} language={language} />
      </>
    )}
  </div>
)
