// Makes TypeScript modules of the helper files (.py, .sql) that generated scripts carry, as the core reads no files. Run by `npm install`, build and tests.
import { readdirSync, readFileSync, writeFileSync, existsSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')

/** Lines that end so are only in scripts that follow rows to their sources. */
const traceMark = '  # trace'
/** The definitions of a Python file; `traced` is how one stands in a script that follows rows to their sources, where that differs. */
const readPython = (text, file) => {
  const lines = text.split('\n')
  const plain = pythonParts(lines.filter((line) => !line.endsWith(traceMark)).join('\n'))
  const marked = pythonParts(
    lines.map((line) => (line.endsWith(traceMark) ? line.slice(0, -traceMark.length) : line)).join('\n'),
  )
  const tracedBy = new Map(marked.definitions.map((one) => [one.name, one]))
  const definitions = plain.definitions.map((one) => {
    const { needs, source } = tracedBy.get(one.name)
    const differs = source !== one.source || needs.length !== one.needs.length
    return { file, defines: [one.name], ...one, ...(differs ? { traced: { needs, source } } : {}) }
  })
  return { needs: marked.needs, definitions }
}

/** Names of Python code: its words outside of comments, documentation and texts that hold no code. */
const pythonWords = (source) =>
  new Set(
    source
      .replace(/"""[^]*?"""|#.*|([rbfu]{0,2})(?:"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*')/g, (found, prefix = '') =>
        prefix.includes('f') ? found : '""',
      )
      .match(/(?<!\.)\b[A-Za-z_]\w*/g),
  )

/** Python: the definitions of a file, each with the names that it needs of its own file and of those it imports; other imports stand at the script's head. */
const pythonParts = (text) => {
  const lines = text.split('\n')
  const lastImport = lines.findLastIndex((line) => /^(?:import|from) \S/.test(line))
  const last = lines[lastImport]?.endsWith('(') ? lines.indexOf(')', lastImport) : lastImport
  const head = lines.slice(0, last + 1).join('\n')
  const needs = [...head.matchAll(/^from \.(\w+) import /gm)].map(([, name]) => name)
  const imported = [...head.matchAll(/^from \.\w+ import (?:\(([^)]*)\)|(.*?)(?:  #.*)?$)/gm)].flatMap(
    ([, many, few]) =>
      (many ?? few)
        .split(',')
        .map((name) => name.trim())
        .filter((name) => name !== ''),
  )
  const parts = definitionsOf(lines.slice(last + 1))
  const known = new Set([...imported, ...parts.map(({ name }) => name)])
  const definitions = parts.map(({ name, source }) => ({
    name,
    needs: [...pythonWords(source)].filter((word) => word !== name && known.has(word)),
    source,
  }))
  return { needs, definitions }
}

/** The definitions that lines hold: each begins with a name at their start, the comments and decorators above it belong to it. */
const definitionsOf = (lines) => {
  const found = []
  let above = []
  for (const line of lines) {
    const name = /^(?:def |class )?([A-Za-z_]\w*)(?=[ (:]| =)/.exec(line)?.[1]
    if (name) {
      found.push({ name, lines: [...above, line] })
      above = []
    } else if (/^[#@]/.test(line)) above.push(line)
    else found.at(-1)?.lines.push(line)
  }
  return found.map((one) => ({ name: one.name, source: one.lines.join('\n').trim() }))
}

/** SQL: a first comment `-- needs: a, b` names the helpers that must stand before it. */
const readSql = (text) => {
  const needs = /^-- needs: (.*)\n/.exec(text)
  const source = text.slice(needs?.[0].length ?? 0).trim()
  return {
    needs: needs ? needs[1].split(', ') : [],
    defines: [...source.matchAll(/^create (?:function|temp table|aggregate|procedure) ([A-Za-z_]\w*)/gm)].map(
      ([, name]) => name,
    ),
    source,
  }
}

/** PostgreSQL looks for functions in the schema of temporary objects only where they are called by its name (documentation of search_path): it stands before each that is a helper. */
const inTemporarySchema = (helpers) => {
  const named = new Set(helpers.flatMap(({ defines }) => defines))
  const qualified = (source) =>
    source
      .replace(/(?<![\w.“])([a-z_]\w*)(?=\()/g, (name) => (named.has(name) ? `pg_temp.${name}` : name))
      .replace(/\b(sfunc|finalfunc) = (\w+)/g, '$1 = pg_temp.$2')
  return helpers.map((helper) => ({ ...helper, source: qualified(helper.source) }))
}

/** Each helper after those that it needs; what stands `elsewhere` need not be among them. */
const inOrder = (helpers, elsewhere = []) => {
  const byName = new Map(helpers.map((helper) => [helper.name, helper]))
  const done = new Set()
  const visit = (helper, above) => {
    if (done.has(helper)) return
    if (above.includes(helper.name)) throw new Error(`Helpers need each other: ${[...above, helper.name].join(', ')}`)
    for (const name of helper.needs) {
      const needed = byName.get(name)
      if (!needed && elsewhere.includes(name)) continue
      if (!needed) throw new Error(`The helper ${helper.name} needs ${name}, which is no file beside it.`)
      visit(needed, [...above, helper.name])
    }
    done.add(helper)
  }
  for (const helper of helpers) visit(helper, [])
  return [...done]
}

const filesOf = (dialect, ending, read) => {
  const folder = join(root, 'core/src/codegen', dialect, 'helpers')
  return readdirSync(folder)
    .filter((file) => file.endsWith(ending) && !file.startsWith('__'))
    .sort()
    .map((file) => ({
      name: basename(file, ending),
      ...read(readFileSync(join(folder, file), 'utf8'), basename(file, ending)),
    }))
}

const write = (dialect, helpers) => {
  const first = new Map(helpers.flatMap(({ file, defines }) => defines.map((name) => [name, file])).reverse())
  for (const { file, defines } of helpers)
    for (const name of defines)
      if (first.get(name) !== file) throw new Error(`${name} is defined in ${first.get(name)} and in ${file}.`)
  const names = [...new Set(helpers.flatMap(({ defines }) => defines))].sort()
  const text = [
    `// Made by scripts/write-helpers.mjs from the files in helpers/. Not in version control.`,
    `import type { Helper } from '../helper.ts'`,
    ``,
    `export type HelperName =\n${names.map((name) => `  | '${name}'`).join('\n')}`,
    ``,
    `/** In an order in which each stands after those it needs. */`,
    `export const helpers: readonly Helper[] = ${JSON.stringify(helpers, null, 2)}`,
    ``,
  ].join('\n')
  const target = join(root, 'core/src/codegen', dialect, 'helpers.generated.ts')
  if (!existsSync(target) || readFileSync(target, 'utf8') !== text) writeFileSync(target, text)
}

export const writeHelpers = () => {
  const python = inOrder(filesOf('python', '.py', readPython))
  const spark = inOrder(
    filesOf('spark', '.py', readPython),
    python.map(({ name }) => name),
  )
  write(
    'python',
    python.flatMap(({ definitions }) => definitions),
  )
  write(
    'spark',
    spark.flatMap(({ definitions }) => definitions),
  )
  write('sql', inOrder(inTemporarySchema(filesOf('sql', '.sql', readSql))))
}
if (process.argv[1] === fileURLToPath(import.meta.url)) writeHelpers()
