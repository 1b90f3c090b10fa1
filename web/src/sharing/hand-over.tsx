import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { counted, fileStem, formatInfo, inputFormat, writeRecipe, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import { ask } from '../api/client.ts'
import { scriptsQuery, type Endpoint } from '../api/queries.ts'
import { Editions } from './editions.tsx'
import { Links } from './links.tsx'
import { Proof } from './proof.tsx'
import { ScriptView, type ScriptTab } from './script-view.tsx'
import { Button, Notice, Segments } from '../ui/parts.tsx'
import { useFlow } from '../story/flow-context.ts'

type HandOverView = 'script' | 'editions'

/** The scripts of the flow, and the one of a language; none for the recipe. */
const useScripts = (language: ScriptTab) => {
  const { flow, endpoint } = useFlow()
  const scripts = useQuery(scriptsQuery(endpoint, flow.edit)).data?.scripts ?? []
  return { scripts, script: scripts.find(({ dialect }) => dialect === language) }
}

/** A colleague's own copy of the story, with its files. */
const Copy = ({ endpoint }: { endpoint: Endpoint }) => {
  const navigate = useNavigate()
  const copy = useMutation({
    mutationFn: () => ask(api.createReply, 'POST', `${endpoint.base}/copy`),
    onSuccess: ({ id, link }) => navigate(link ? `/r/${link}` : `/flows/${id}`),
  })
  return (
    <section aria-label="A copy">
      <h2 className="mb-1.5 font-serif text-[14.5px] font-semibold">A copy of your own</h2>
      <p className="mb-2 text-[12.5px] text-ink-2">
        The story with its files, to change as you like; this one stays as it is. Or take the recipe with you as a file
        and bring it into your own Fabula.
      </p>
      <Button look="main" onClick={() => copy.mutate()}>
        Take a copy
      </Button>
      {copy.error && <Notice kind="removed">{copy.error.message}</Notice>}
    </section>
  )
}

/** The choice of what is shown, and the script to copy or download. */
const HandOverBar = ({
  shown,
  setShown,
  language,
  setLanguage,
}: {
  shown: HandOverView
  setShown: (view: HandOverView) => void
  language: ScriptTab
  setLanguage: (language: ScriptTab) => void
}) => {
  const { flow, endpoint } = useFlow()
  const [message, setMessage] = useState('')
  const { scripts, script } = useScripts(language)
  const stem = fileStem(flow.recipe.name, 'flow')
  const copy = async (): Promise<void> => {
    const parts = (script?.parts ?? []).map(({ text }) => text).join('\n')
    await navigator.clipboard.writeText(language === 'recipe' ? writeRecipe(flow.recipe) : parts)
    setMessage('copied')
  }
  return (
    <div className="flex items-center gap-2.5 border-b border-line px-[18px] py-3">
      <h1 className="sr-only">Hand it over</h1>
      {flow.rights !== 'copy' && (
        <Segments
          label="Shown"
          value={shown}
          of={[
            ['script', 'The story and its script'],
            ['editions', 'Editions'],
          ]}
          onChange={setShown}
        />
      )}
      {shown === 'script' && (
        <Segments
          label="Language"
          value={language}
          of={[...scripts.map(({ dialect, label }) => [dialect, label] as const), ['recipe', 'Recipe']]}
          onChange={setLanguage}
        />
      )}
      <span role="status" className="text-ink-3">
        {message}
      </span>
      {shown === 'script' && (
        <span className="ml-auto flex gap-2">
          <Button onClick={() => void copy()}>Copy</Button>
          <a
            className="rounded-md border border-line-strong bg-sheet px-3 py-1.5 text-ink-2 hover:text-ink"
            href={`${endpoint.base}/download/${language}`}
            download
          >
            Download {stem}
            {script?.fileEnding ?? '.fabula.json'}
          </a>
        </span>
      )}
    </div>
  )
}

/** What a colleague's files must be, and the command that runs the recipe on them. */
const Needs = ({ recipe }: { recipe: Recipe }) => (
  <>
    <div>
      <h2 className="mb-1.5 font-serif text-[14.5px] font-semibold">What they need</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-3 gap-y-1 text-[12.5px] text-ink-2">
        {recipe.inputs.map(({ id, name, columns }) => (
          <div key={id} className="contents">
            <dt>{name}</dt>
            <dd className="figures">
              {formatInfo[inputFormat(recipe, id)].short}, {counted(columns?.length ?? 0, 'column')}
            </dd>
          </div>
        ))}
      </dl>
    </div>
    <div>
      <h2 className="mb-1.5 font-serif text-[14.5px] font-semibold">By the command line</h2>
      <p className="font-mono text-[12px] break-words text-ink-2">
        npx fabula run {fileStem(recipe.name, 'flow')}.fabula.json{' '}
        {recipe.inputs.map(({ id }) => `--input ${id}=FILE`).join(' ')}
      </p>
    </div>
  </>
)

/** The recipe and its scripts for colleagues: read, proven, frozen, and shared by links. */
export const HandOver = () => {
  const { flow, endpoint } = useFlow()
  const [shown, setShown] = useState<HandOverView>('script')
  const [language, setLanguage] = useState<ScriptTab>('python')
  const { script } = useScripts(language)
  return (
    <main className="grid min-h-0 grid-cols-[minmax(0,1fr)_320px] max-[900px]:block max-[900px]:overflow-auto">
      <section aria-label="The story and its script" className="grid min-h-0 grid-rows-[auto_1fr] border-r border-line">
        <HandOverBar shown={shown} setShown={setShown} language={language} setLanguage={setLanguage} />
        {shown === 'editions' ? (
          <Editions flow={flow} endpoint={endpoint} />
        ) : (
          <ScriptView recipe={flow.recipe} script={script} language={language} />
        )}
      </section>
      <aside className="flex flex-col gap-5 overflow-auto p-[18px]" aria-label="Sharing">
        {flow.rights === 'all' && <Links endpoint={endpoint} />}
        {flow.rights === 'all' && <Proof flow={flow} endpoint={endpoint} />}
        {flow.rights !== 'all' && <Copy endpoint={endpoint} />}
        <Needs recipe={flow.recipe} />
      </aside>
    </main>
  )
}
