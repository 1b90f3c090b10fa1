import { Dialog } from '../ui/dialog.tsx'
import { Key } from '../ui/parts.tsx'
import { keyList } from './keys.ts'

/** The list of keys; Escape closes it. */
export const KeysDialog = ({ close }: { close: () => void }) => (
  <Dialog title="Keys" size="narrow" close={close}>
    <div className="overflow-auto px-5 py-4" role="region" tabIndex={0} aria-label="All keys">
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
  </Dialog>
)
