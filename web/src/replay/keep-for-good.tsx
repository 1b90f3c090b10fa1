import { answered, type Answer } from '@fabula/core'
import { Comparison } from '../sharing/editions.tsx'
import { useFlow } from '../story/flow-context.ts'
import { Dialog } from '../ui/dialog.tsx'
import { Button } from '../ui/parts.tsx'
import { answerWords } from './replay-model.ts'

/** What an answer changes in the story, shown before it is kept there. */
export const KeepForGood = ({
  answer,
  keep,
  close,
}: {
  answer: Answer
  keep: (answer: Answer) => void
  close: () => void
}) => {
  const { recipe } = useFlow().flow
  return (
    <Dialog size="narrow" title="What changes in the story" close={close}>
      <div className="min-h-0 overflow-auto px-5 py-4">
        <p className="mb-3">{answerWords(answer)} from now on.</p>
        <Comparison from={recipe} to={answered(recipe, answer, answer.offer)} />
        <p className="mt-2 text-[12.5px] text-ink-3">
          It is an edit like any other: Compose can undo it, and links that follow the story get it too.
        </p>
      </div>
      <footer className="flex justify-end gap-2 border-t border-line px-5 py-3">
        <Button look="quiet" onClick={close}>
          Leave it
        </Button>
        <Button
          look="main"
          onClick={() => {
            keep(answer)
            close()
          }}
        >
          Keep it in the story
        </Button>
      </footer>
    </Dialog>
  )
}
