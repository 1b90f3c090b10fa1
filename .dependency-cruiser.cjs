// The rules of the rooms (docs/architecture.md): imports run downward only, no cycles of files or folders, no deep imports.
const only = (name, from, not, comment) => ({
  name,
  severity: 'error',
  comment,
  from: { path: from },
  to: { path: not },
})

/** The rooms of the core from the floor up; each may import those before it. */
const coreRooms = [
  'kernels',
  'table',
  'messages',
  'reading',
  'codegen',
  'formula',
  'steps',
  'recipe',
  'engine',
  'dialects',
  'replay',
  'profile',
  'api',
]
const coreRules = coreRooms.flatMap((room, at) => {
  const above = [...coreRooms.slice(at + 1), 'testing'].join('|')
  return room === 'api'
    ? []
    : [
        only(
          `core-${room}`,
          `^core/src/${room}/(?!.*\\.(test|examples)\\.ts$)`,
          `^core/src/(${above})/`,
          `${room} imports only the rooms below it`,
        ),
      ]
})

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'no-folder-cycles', severity: 'error', scope: 'folder', from: {}, to: { circular: true } },
    only('core-imports-nothing-of-ours', '^core/', '^(formats|server|web|cli|e2e)/', 'the core stands alone'),
    { name: 'core-is-pure', severity: 'error', from: { path: '^core/' }, to: { dependencyTypes: ['core'] } },
    only('formats-imports-core-only', '^formats/', '^(server|web|cli|e2e)/', 'formats imports core'),
    only('cli-below', '^cli/', '^(server|web|e2e)/', 'the command line imports core and formats'),
    only('server-below', '^server/', '^(web|cli|e2e)/', 'the server imports core and formats'),
    only('web-over-http', '^web/', '^(formats|server|cli|e2e)/', 'the page speaks to the server over HTTP'),
    ...coreRules,
    {
      name: 'testing-is-for-tests',
      severity: 'error',
      from: { pathNot: '(\\.test\\.ts$|\\.examples\\.ts$|^(core|formats)/src/testing/|^e2e/)' },
      to: { path: '^(core|formats)/src/testing/' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    // tests may look at everything: they are no part of the rooms
    exclude: { path: '(dist/|node_modules/|\\.test\\.tsx?$)' },
  },
}
