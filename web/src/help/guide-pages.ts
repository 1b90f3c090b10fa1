/** The user guide: the pages of docs/guide, in the order of their numbers. The same files are read in the repository. */
const files = import.meta.glob<string>('../../../docs/guide/*.md', { query: '?raw', import: 'default', eager: true })

export type GuidePage = { readonly id: string; readonly title: string; readonly text: string }

/** docs/guide/03-columns.md -> columns */
const idOf = (path: string): string => /\/\d+-([\w-]+)\.md$/.exec(path)?.[1] ?? path

export const guidePages: readonly GuidePage[] = Object.entries(files)
  .sort(([a], [b]) => a.localeCompare(b))
  .map(([path, text]) => ({ id: idOf(path), title: /^# (.+)$/m.exec(text)?.[1] ?? idOf(path), text }))
