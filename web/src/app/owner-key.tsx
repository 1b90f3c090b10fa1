import { useState } from 'react'
import { ownerReply } from '@fabula/core/api'
import { ask, type ServerError } from '../api/client.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { Mark } from '../ui/site-header.tsx'

/** Gives the owner's key to the server, which answers with a cookie that this page cannot read. */
export const giveKey = (key: string) => ask(ownerReply, 'POST', '/api/owner', { key })

/** The address printed at the first start ends in `#key=…`: the key is given and taken out of the address, so that it is not bookmarked or shown. */
export const takeKeyFromAddress = async (): Promise<void> => {
  const key = /^#key=(.+)$/.exec(location.hash)?.[1]
  if (key === undefined) return
  history.replaceState(null, '', `${location.pathname}${location.search}`)
  await giveKey(decodeURIComponent(key)).catch(() => undefined)
}

/** Asks for the owner's key where a page needs it. */
export const OwnerKeyPage = () => {
  const [key, setKey] = useState('')
  const [problem, setProblem] = useState<string>()
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-[52px] items-center border-b border-line px-[18px]">
        <Mark />
      </header>
      <main className="mx-auto w-full max-w-[520px] px-6 py-16">
        <h1 className="font-serif text-[26px] leading-tight font-semibold">Whose stories are these?</h1>
        <p className="mt-2 mb-6 font-serif text-[15px] text-ink-2">
          This server keeps the stories of one owner. If that is you, give the key that was printed when it was started
          for the first time; this browser then remembers it. If a colleague sent you a link, open that link instead.
        </p>
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault()
            giveKey(key).then(
              () => location.reload(),
              (error: ServerError) => setProblem(error.message),
            )
          }}
        >
          <label className="grid gap-1 text-[12.5px] text-ink-2">
            The owner’s key
            <input
              className="field font-mono text-[13px]"
              type="password"
              autoComplete="current-password"
              autoFocus
              value={key}
              onChange={(event) => setKey(event.target.value)}
            />
          </label>
          {problem && <Notice kind="removed">{problem}</Notice>}
          <div>
            <Button look="main" type="submit" disabled={key.trim() === ''}>
              Open my stories
            </Button>
          </div>
          <p className="text-[12.5px] text-ink-3">
            The key also stands in the file owner.key of the server’s data folder.
          </p>
        </form>
      </main>
    </div>
  )
}
