import { readFileSync, writeFileSync } from 'node:fs'
import type { PGlite } from '@electric-sql/pglite'
import type { ScriptCommand } from '@fabula/core'

type PsqlWord = Extract<ScriptCommand, { kind: 'command' }>['words'][number]
type SqlPart = Extract<ScriptCommand, { kind: 'sql' }>['parts'][number]

/** What a quoted word of a command says. */
const unquoted = (text: string): string =>
  text.startsWith("'")
    ? text
        .slice(1, -1)
        .replaceAll("''", "'")
        .replace(/\\(.)/g, (_, sign: string) => {
          if (sign === 'n') return '\n'
          if (sign === 'r') return '\r'
          return sign
        })
    : text

/** The lines of a file as the shell command of a script's \copy gives them. @throws TypeError where it is not in its encoding */
const fileLines = (path: string, stated: string): string[] => {
  const bytes = readFileSync(path)
  const encoding = { fffe: 'utf-16le', feff: 'utf-16be' }[bytes.toString('hex', 0, 2)] ?? stated
  const lines = new TextDecoder(encoding, { fatal: true, ignoreBOM: true })
    .decode(bytes)
    .replace(/[\r\x01\x02]/g, (sign) => ({ '\r': '\x03', '\x01': '\x04' })[sign] ?? '\x05')
    .split('\n')
  return lines.slice(0, lines.at(-1) === '' ? -1 : undefined).map((line) => `|${line}`)
}

/**
 * Carries out a script's commands in the embedded database as psql would: \set, \if, \setenv, \copy of a file's lines, \o, \gset; what only changes
 * how psql shows things is passed over. It is given the list of commands the script was made as and never looks for one in
 * text, so no name, value, note or formula can become a command. Throws at the first error, as ON_ERROR_STOP does.
 * `progress` is told before each command how much of the script is behind, 0 to 1.
 */
export const runPsql = async (
  db: PGlite,
  script: readonly ScriptCommand[],
  given: Readonly<Record<string, string>>,
  progress: (share: number) => void = () => undefined,
  // eslint-disable-next-line complexity, max-lines-per-function -- the few commands of psql that scripts use, with one set of variables
): Promise<void> => {
  const variables = new Map(Object.entries(given))
  const branches: boolean[] = []
  const environment = new Map<string, string>()
  let output: { readonly path: string; text: string } | undefined
  const wordOf = ({ parts }: PsqlWord): string =>
    parts
      .map((part) => {
        if (typeof part === 'string') return unquoted(part)
        if ('variable' in part) return variables.get(part.variable) ?? ''
        return ''
      })
      .join('')
  const sqlOf = (parts: readonly SqlPart[]): string =>
    parts
      .map((part) => {
        if (typeof part === 'string') return part
        const value = variables.get(part.variable) ?? ''
        return part.quoted ? `'${value.replaceAll("'", "''")}'` : value
      })
      .join('')
  const query = async (parts: readonly SqlPart[], into: boolean): Promise<void> => {
    for (const result of await db.exec(sqlOf(parts))) {
      if (into)
        for (const row of result.rows)
          // eslint-disable-next-line max-depth -- the few commands of psql that scripts use, with one set of variables
          for (const [name, value] of Object.entries(row)) variables.set(name, String(value))
      else if (output)
        for (const row of result.rows)
          output.text += `${Object.values(row)
            .map((value) => String(value ?? ''))
            .join('|')}\n`
    }
  }
  const command = async (name: string, [first, second]: readonly PsqlWord[]): Promise<void> => {
    if (name === 'set' && first && second) variables.set(wordOf(first), wordOf(second))
    else if (name === 'setenv' && first && second) environment.set(wordOf(first), wordOf(second))
    else if (name === 'copy')
      await db.query(
        'insert into sheet_text (t) select t from unnest($1::text[]) with ordinality as l(t, n) order by n',
        [fileLines(environment.get('FILE') ?? '', environment.get('ENCODING') ?? '')],
      )
    else if (name === 'o') {
      if (output) writeFileSync(output.path, output.text)
      output = first && { path: wordOf(first), text: '' }
    }
  }
  for (const [i, one] of script.entries()) {
    if (one.kind === 'command' && one.name === 'if')
      branches.push(variables.has(/^:\{\?(\w+)\}$/.exec(one.words[0]?.text ?? '')?.[1] ?? ''))
    else if (one.kind === 'command' && one.name === 'else') branches.push(!branches.pop())
    else if (one.kind === 'command' && one.name === 'endif') branches.pop()
    else if (branches.every(Boolean)) {
      progress(i / script.length)
      const next = script[i + 1]
      if (one.kind === 'sql') await query(one.parts, next?.kind === 'command' && next.name === 'gset')
      else await command(one.name, one.words)
    }
  }
}
