// Makes TypeScript modules of the helper files (.py, .sql) that generated scripts carry, as the core reads no files. Run by `npm install`, build and tests.
import { readdirSync, readFileSync, writeFileSync, existsSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')

/** Lines that end so are only in scripts that follow rows to their sources. */
const traceMark = '  # trace'
/** A Python helper; `traced` is how it stands in a script that follows rows to their sources, where that differs. */
const readPython = (text) => {
  const lines = text.split('\n')
  const plain = lines.filter((line) => !line.endsWith(traceMark))
  const parts = pythonParts(plain.join('\n'))
  if (plain.length === lines.length) return parts
  const marked = lines.map((line) => (line.endsWith(traceMark) ? line.slice(0, -traceMark.length) : line))
  const { needs, source } = pythonParts(marked.join('\n'))
  return { ...parts, traced: { needs, source } }
}

/** Python: what a helper needs is what it imports from its siblings; other imports stand at the script's head. */
const pythonParts = (text) => {
  const lines = text.split('\n')
  const last = lines.findLastIndex((line) => /^(?:import|from) \S/.test(line))
  const head = lines.slice(0, last + 1).join('\n')
  const source = lines
    .slice(last + 1)
    .join('\n')
    .trim()
  return {
    needs: [...head.matchAll(/^from \.(\w+) import /gm)].map(([, name]) => name),
    defines: [...source.matchAll(/^(?:def |class )?([A-Za-z_]\w*)(?=[ (:]| =)/gm)]
      .map(([, name]) => name)
      .filter((name) => !['for', 'if', 'try', 'with'].includes(name)),
    source,
  }
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
    for (const name of helper.traced?.needs ?? helper.needs) {
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

const write = (dialect, ending, read, change = (helpers) => helpers, elsewhere = []) => {
  const folder = join(root, 'core/src/codegen', dialect, 'helpers')
  const files = readdirSync(folder)
    .filter((file) => file.endsWith(ending) && !file.startsWith('__'))
    .sort()
  const helpers = inOrder(
    change(files.map((file) => ({ name: basename(file, ending), ...read(readFileSync(join(folder, file), 'utf8')) }))),
    elsewhere,
  )
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
  return helpers.map(({ name }) => name)
}

export const writeHelpers = () => {
  const python = write('python', '.py', readPython)
  write('spark', '.py', readPython, undefined, python)
  write('sql', '.sql', readSql, inTemporarySchema)
}
if (process.argv[1] === fileURLToPath(import.meta.url)) writeHelpers()
