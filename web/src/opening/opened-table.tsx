import { ownValue, typeWords } from '@fabula/core'
import type { OpenReply } from '@fabula/core/api'

/** The first rows of the table that comes of it, with the types that were detected. */
export const OpenedTable = ({ opened }: { opened: OpenReply }) => (
  <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} aria-label="The first rows of the table">
    <table className="figures border-collapse text-[12.5px]">
      <thead>
        <tr>
          {opened.columns.map(({ name, type }) => (
            <th
              key={name}
              scope="col"
              className="sticky top-0 border-r border-b border-line bg-paper px-2.5 py-1.5 text-left"
            >
              <span className="block font-semibold whitespace-pre">{name}</span>
              <span className="block text-[12px] font-normal text-ink-3">
                {typeWords[type].replace(/^an? /, '')}
                {ownValue(opened.unreadable, name) ? ` · ${ownValue(opened.unreadable, name)} unreadable` : ''}
              </span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {opened.first.map((row, r) => (
          <tr key={r} className="h-[27px]">
            {row.map((cell, c) => (
              <td
                key={c}
                className={`max-w-[260px] truncate border-r border-b border-line px-2.5 ${['integer', 'decimal'].includes(opened.columns[c]?.type ?? '') ? 'text-right' : ''}`}
              >
                {cell ?? <span className="text-ink-3 italic">empty</span>}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  </div>
)
