// Compiles the kernels of core/compiled (AssemblyScript) to WebAssembly and makes a TypeScript module of it, as the core
// reads no files. Run by `npm install`, build and tests; does nothing where the sources are those of the last time.
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))
const folder = join(root, 'core/compiled')
const target = join(root, 'core/src/kernels/module.generated.ts')
const options = [
  ...['--optimizeLevel', '3', '--shrinkLevel', '0', '--converge', '--noAssert'],
  ...['--runtime', 'stub', '--enable', 'simd', '--enable', 'bulk-memory'],
]

export const writeKernels = async () => {
  const hash = createHash('sha256').update(options.join(' '))
  const { version } = JSON.parse(readFileSync(join(root, 'node_modules/assemblyscript/package.json'), 'utf8'))
  hash.update(version)
  for (const file of readdirSync(folder).sort()) hash.update(readFileSync(join(folder, file)))
  const mark = `// Made by scripts/write-kernels.mjs of core/compiled, ${hash.digest('hex')}. Not in version control.`
  if (existsSync(target) && readFileSync(target, 'utf8').startsWith(mark)) return
  const { default: asc } = await import('assemblyscript/asc')
  let binary
  const { error, stderr } = await asc.main(['index.ts', '--outFile', 'kernels.wasm', ...options], {
    readFile: (name, base) => {
      const path = join(base === '.' ? folder : base, name)
      return existsSync(path) ? readFileSync(path, 'utf8') : null
    },
    writeFile: (_, content) => (binary = content),
    listFiles: () => [],
  })
  if (error) throw new Error(`The kernels cannot be compiled:\n${stderr.toString()}`)
  const text = [
    mark,
    `/** The WebAssembly module of ${binary.length} bytes, in Base64. */`,
    `export const kernelBytes =\n  '${Buffer.from(binary).toString('base64')}'`,
    ``,
  ].join('\n')
  writeFileSync(target, text)
}
if (process.argv[1] === fileURLToPath(import.meta.url)) await writeKernels()
