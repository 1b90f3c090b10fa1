// npm start: installs, builds and serves. The second time it does only the last.
import { install, root } from './install.mjs'

install()
const { build } = await import('./build.mjs')
if (await build()) process.stdout.write('Built.\n')
await import(new URL('server/dist/main.js', `file://${root}`).href)
