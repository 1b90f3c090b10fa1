import { readFileSync, writeFileSync } from 'node:fs'
import type { PGlite } from '@electric-sql/pglite'

/**
 * Runs a psql script in the embedded database: the few commands of psql that our scripts use, done as its
 * manual says (\set, \if, \lo_import, \o, \gset, \pset, \warn). Throws at the first error, as ON_ERROR_STOP does.
 * `progress` is told before each statement how much of the script is behind, 0 to 1.
 */
export const runPsql = async (db: PGlite, script: string, variables: Readonly<Record<string, string>>, progress: (share: number) => void = () => undefined): Promise<void> => {
  const known: Record<string, string> = { ...variables }
  const branches: boolean[] = []
  const lines = script.split('\n')
  let at = 0
  let statement = ''
  let output: { path: string; text: string } | undefined
  const active = (): boolean => branches.every(Boolean)
  const run = async (into: boolean): Promise<void> => {
    const text = interpolate(statement, known)
    statement = ''
    if (text.trim() === '') return
    progress(at / lines.length)
    for (const result of await db.exec(text)) {
      if (into) for (const row of result.rows) Object.assign(known, row)
      else if (output) for (const row of result.rows) output.text += `${Object.values(row).map((value) => String(value ?? '')).join('|')}\n`
    }
  }
  for (const line of lines) {
    at++
    const command = /^\\(\w+)\s*(.*)$/.exec(line)
    const inline = /^(.*)\\gset\s*$/.exec(line)
    if (!command && !inline) {
      if (active()) statement += `${line}\n`
      continue
    }
    if (inline && !command) {
      if (active()) {
        statement += inline[1] ?? ''
        await run(true)
      }
      continue
    }
    const [, name = '', rest = ''] = command ?? []
    if (name === 'if') branches.push(Object.hasOwn(known, /^:\{\?(\w+)\}$/.exec(rest)?.[1] ?? ''))
    else if (name === 'else') branches.push(!branches.pop())
    else if (name === 'endif') branches.pop()
    else if (active()) {
      await run(false)
      const words = interpolate(rest, known)
      if (name === 'set') {
        const [, key = '', value = ''] = /^(\S+)\s*(?:'((?:[^']|'')*)')?/.exec(words) ?? []
        known[key] = value.replaceAll("''", "'")
      } else if (name === 'lo_import') {
        const { rows } = await db.query<{ id: number }>('select lo_from_bytea(0, $1::bytea) as id', [readFileSync(words)])
        known.LASTOID = String(rows[0]?.id)
      } else if (name === 'o') {
        if (output) writeFileSync(output.path, output.text)
        output = words === '' ? undefined : { path: words, text: '' }
      }
    }
  }
  await run(false)
}

/** :'name' as a literal, :name as it is; inside quotes nothing is put in. */
const interpolate = (text: string, known: Readonly<Record<string, string>>): string =>
  text.replace(/\$(\w*)\$[\s\S]*?\$\1\$|--[^\n]*|'(?:[^']|'')*'|"(?:[^"]|"")*"|::|:'(\w+)'|:(\w+)/g, (all: string, _tag?: string, quoted?: string, bare?: string) => {
    if (quoted && Object.hasOwn(known, quoted)) return `'${(known[quoted] as string).replaceAll("'", "''")}'`
    return bare && Object.hasOwn(known, bare) ? (known[bare] as string) : all
  })
