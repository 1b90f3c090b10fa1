import { Key } from '../ui/parts.tsx'
import { keyList } from './keys.ts'

/** The list of keys, in a corner of the page. */
export const KeysDialog = () => (
  <div
    role="dialog"
    aria-label="Keys"
    className="absolute right-6 bottom-6 z-50 rounded-lg border border-line-strong bg-sheet p-4"
  >
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
      {keyList.map(([key, words]) => (
        <div key={key} className="contents">
          <dt>
            <Key>{key}</Key>
          </dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
  </div>
)
