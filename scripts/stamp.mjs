// A number for the state of the sources, so that what is built is built again only when they changed.
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'

export const stampOf = (root, places) => {
  const sum = createHash('sha256')
  for (const place of places) {
    const path = join(root, place)
    if (!existsSync(path)) continue
    const files = statSync(path).isFile()
      ? [path]
      : readdirSync(path, { recursive: true, withFileTypes: true })
          .filter((entry) => entry.isFile())
          .map((entry) => join(entry.parentPath ?? entry.path, entry.name))
          .sort()
    for (const file of files) sum.update(file).update(readFileSync(file))
  }
  return sum.digest('hex')
}
