import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Button } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'
import { tablesOfFiles } from './add-files.ts'

/** Where a story has one table: the files or sheets that are to lie under it are chosen first. */
export const UnionFiles = ({ story }: { story: Story }) => {
  const client = useQueryClient()
  const chooser = useRef<HTMLInputElement>(null)
  const [doing, setDoing] = useState('')
  const take = async (files: readonly File[]): Promise<void> => {
    try {
      const { ids, doubled } = await tablesOfFiles(story, client, files, () => false, setDoing)
      if (ids.length > 0) story.begin({ kind: 'union', with: ids, origin: 'Table' }, ids.length)
      else
        story.setProblem(
          `${doubled.map(({ name }) => name).join(', ')} is what this table opens already. Choose another file or sheet.`,
        )
    } catch (error) {
      story.setProblem((error as Error).message)
    } finally {
      setDoing('')
    }
  }
  return (
    <section aria-label="Lay files underneath" className="grid gap-2">
      <h3 className="font-serif text-[14px] font-semibold">Lay other tables underneath</h3>
      <p className="text-ink-2">
        There is no other table in this story yet. Choose the files, or a workbook with a sheet for each: every one
        becomes a table, and they are laid together on a bench.
      </p>
      <span>
        <Button look="main" disabled={doing !== ''} onClick={() => chooser.current?.click()}>
          Choose files
        </Button>
      </span>
      <input
        ref={chooser}
        type="file"
        multiple
        aria-label="Files to lay underneath"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => event.target.files && event.target.files.length > 0 && void take([...event.target.files])}
      />
      {doing !== '' && <p className="text-[12.5px] text-ink-3">{doing}…</p>}
    </section>
  )
}
