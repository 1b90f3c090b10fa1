import { useState, type ReactNode } from 'react'
import type { FileRef, RowChoice } from '@fabula/core/api'
import { upload } from '../api/client.ts'
import { Dialog } from '../ui/dialog.tsx'
import { Button } from '../ui/parts.tsx'
import { RowChoiceFields, useRowChoice } from './row-choice.tsx'
import { cutRowSample, fairOneIn, isLargeText } from './row-sample.ts'

type Answer = RowChoice | 'whole'
type Asked = { readonly file: File; readonly answer: (answer: Answer | undefined) => void }

const gigabytes = ({ size }: File): string => `${(size / 1e9).toFixed(1)} GB`

/** Which rows of a large file are sent: its first, one in so many, or all. */
const SampleDialog = ({ asked: { file, answer } }: { asked: Asked }) => {
  const { choice, ...fields } = useRowChoice(fairOneIn(file.size), 'oneIn')
  return (
    <Dialog title={`${file.name} is large`} size="narrow" close={() => answer(undefined)}>
      <form
        className="grid gap-3 px-5 py-4"
        onSubmit={(event) => {
          event.preventDefault()
          if (choice) answer(choice)
        }}
      >
        <p className="text-ink-2">
          {gigabytes(file)}. To build a story some of its rows are enough. They are cut out here, only they are sent,
          and every figure says that it is of a sample. The whole file is then told by the script, the command line or a
          cluster.
        </p>
        <RowChoiceFields {...fields} />
        <p className="text-[12.5px] text-ink-3">The rows at the top, with titles and names, are in it either way.</p>
        <span className="flex gap-2">
          <Button type="submit" look="main" disabled={!choice}>
            Send these rows
          </Button>
          <Button onClick={() => answer('whole')}>Send all of it</Button>
        </span>
      </form>
    </Dialog>
  )
}

/** Sends files; of large ones it asks first whether a sample is enough. */
export const useFileSender = (): {
  /** The files as the server has them; undefined where nothing is sent after all. `report` is told what goes on. */
  readonly send: (files: readonly File[], report?: (words: string) => void) => Promise<FileRef[] | undefined>
  readonly dialog: ReactNode
} => {
  const [asked, setAsked] = useState<Asked>()
  const answerFor = (file: File): Promise<Answer | undefined> =>
    new Promise((resolve) => {
      const answer = (given: Answer | undefined): void => {
        setAsked(undefined)
        resolve(given)
      }
      setAsked({ file, answer })
    })
  const send = async (
    files: readonly File[],
    report: (words: string) => void = () => undefined,
  ): Promise<FileRef[] | undefined> => {
    const sent: FileRef[] = []
    for (const [at, file] of files.entries()) {
      const answer = (await isLargeText(file)) ? await answerFor(file) : 'whole'
      if (answer === undefined) return undefined
      const percent = (share: number): string => `${file.name}: ${Math.round(share * 100)} %`
      const sample =
        answer === 'whole'
          ? undefined
          : await cutRowSample(file, answer, (share) => report(`Reading ${percent(share)}`))
      const place = files.length > 1 ? `, ${at + 1} of ${files.length}` : ''
      const sending = (share: number): void => report(`Sending ${percent(share)}${place}`)
      sent.push(await upload(sample?.file ?? file, sending, sample?.words))
    }
    return sent
  }
  return { send, dialog: asked && <SampleDialog asked={asked} /> }
}
