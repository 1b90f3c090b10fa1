import { once } from 'node:events'
import type { Readable, Writable } from 'node:stream'
import { Zip, ZipDeflate } from 'fflate'

/** Files into one zip, piece by piece: none of them is held whole. */
export const zipInto = async (
  out: Writable,
  files: readonly { readonly name: string; readonly read: () => Readable }[],
): Promise<void> => {
  let fault: Error | undefined
  const zip = new Zip((error, piece, last) => {
    if (error) fault = error
    else out.write(piece)
    if (last) out.end()
  })
  for (const { name, read } of files) {
    const entry = new ZipDeflate(name, { level: 6 })
    zip.add(entry)
    for await (const piece of read()) {
      entry.push(piece as Uint8Array)
      if (fault) throw fault
      if (out.writableNeedDrain) await once(out, 'drain')
    }
    entry.push(new Uint8Array(0), true)
  }
  zip.end()
}
