import { closeSync, existsSync, fchmodSync, fstatSync, fsyncSync, openSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { NodeFS } from '@electric-sql/pglite/nodefs'

/** What of Emscripten's node file system is used here: open files have the number `nfd`, folders none. */
type FileStream = { readonly nfd?: number; readonly node: unknown }
type FileAttributes = { mode?: number }
type NodeModule = {
  readonly NODEFS: {
    readonly stream_ops: { fsync?: (stream: FileStream) => number }
    readonly node_ops: { setattr: (node: unknown, attributes: FileAttributes) => void }
    readonly realPath: (node: unknown) => string
  }
}
type MountOptions = { readonly emscriptenOpts: { readonly preRun?: readonly unknown[] } }

const syncPath = (path: string, owned = false): void => {
  const file = openSync(path, 'r')
  try {
    if (owned) fchmodSync(file, fstatSync(file).mode & ownerOnly & 0o777)
    fsyncSync(file)
  } finally {
    closeSync(file)
  }
}

/** File and folder bits, and those of the owner. */
const ownerOnly = ~0o077

/** Every file and folder below a path onto the disk, for its owner alone. */
export const syncTree = (path: string): void => {
  for (const entry of readdirSync(path, { withFileTypes: true }))
    if (entry.isDirectory()) syncTree(join(path, entry.name))
    else if (entry.isFile()) syncPath(join(path, entry.name), true)
  syncPath(path, true)
}

/** The embedded database's file system, whose `fsync` reaches the disk; as it ships, a sync does nothing. */
export class DurableFileSystem extends NodeFS {
  override async init(...args: Parameters<NodeFS['init']>): ReturnType<NodeFS['init']> {
    const made = await super.init(...args)
    const sync = ({ NODEFS }: NodeModule): void => {
      NODEFS.stream_ops.fsync = ({ nfd, node }) => {
        if (nfd === undefined) syncPath(NODEFS.realPath(node))
        else fsyncSync(nfd)
        return 0
      }
      // Emscripten sets the mode of a new file itself, past the umask
      const { setattr } = NODEFS.node_ops
      NODEFS.node_ops.setattr = (node, attributes) =>
        setattr(node, attributes.mode === undefined ? attributes : { ...attributes, mode: attributes.mode & ownerOnly })
    }
    const { emscriptenOpts } = made as MountOptions
    return {
      ...made,
      emscriptenOpts: { ...emscriptenOpts, preRun: [...(emscriptenOpts.preRun ?? []), sync] },
    } as typeof made
  }
}

/** PGlite starts PostgreSQL with `-F`, which leaves out every sync; these leave it in. */
const startParams = [
  ...PGlite.defaultStartParams.filter((word) => word !== '-F'),
  '-c',
  'fsync=on',
  '-c',
  'synchronous_commit=on',
  '-c',
  'wal_sync_method=fsync',
]

/** The embedded database in a folder: what a transaction has answered is on the disk, over power loss too. */
export const openDurably = async (folder: string): Promise<PGlite> => {
  const isNew = !existsSync(join(folder, 'PG_VERSION'))
  const database = await PGlite.create({ fs: new DurableFileSystem(folder), startParams, relaxedDurability: false })
  if (isNew) syncTree(folder)
  return database
}
