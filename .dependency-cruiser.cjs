// The house rules: imports run downward only, no cycles at run time, no deep imports.
const only = (name, from, not, comment) => ({
  name,
  severity: 'error',
  comment,
  from: { path: from },
  to: { path: not },
})
module.exports = {
  forbidden: [
    {
      name: 'no-cycles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    only('core-imports-nothing-of-ours', '^core/', '^(formats|server|web|cli|e2e)/', 'the core stands alone'),
    { name: 'core-is-pure', severity: 'error', from: { path: '^core/' }, to: { dependencyTypes: ['core'] } },
    only('formats-imports-core-only', '^formats/', '^(server|web|cli|e2e)/', 'formats imports core'),
    only('cli-below', '^cli/', '^(server|web|e2e)/', 'the command line imports core and formats'),
    only('server-below', '^server/', '^(web|cli|e2e)/', 'the server imports core and formats'),
    only('web-over-http', '^web/', '^(formats|server|cli|e2e)/', 'the page speaks to the server over HTTP'),
    only(
      'table-is-the-floor',
      '^core/src/table/',
      '^core/src/(formula|generate|steps|recipe|profile|api|testing)/',
      'table is the floor',
    ),
    only(
      'formula-below-steps',
      '^core/src/formula/',
      '^core/src/(steps|recipe|profile|api)/',
      'steps stand on formulas',
    ),
    only(
      'steps-below-recipe',
      '^core/src/steps/',
      '^core/src/(recipe|profile|api)/',
      'the recipe knows steps, not the other way',
    ),
    {
      name: 'testing-is-for-tests',
      severity: 'error',
      from: { pathNot: '(\\.test\\.ts$|\\.examples\\.ts$|^core/src/testing/|^e2e/)' },
      to: { path: '^core/src/testing/' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(dist/|node_modules/)' },
  },
}
