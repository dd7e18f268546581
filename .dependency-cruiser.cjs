// Dependencies point one way only: a folder may import those listed after it, never before.
const LAYERS = [
  'release',
  'rebuild',
  'ops',
  'gauges',
  'limits',
  'workpiece',
  'turned',
  'exact',
  'refs',
  'profile',
  'letters',
  'path',
  'cage',
  'kernel',
  'flow',
  'surface',
  'curve',
  'mesh',
  'math',
]
const upward = LAYERS.map((layer, i) => ({
  name: `${layer}-looks-down-only`,
  severity: 'error',
  from: { path: `^core/src/${layer}/` },
  to: {
    path:
      LAYERS.slice(0, i)
        .map((l) => `^core/src/${l}/`)
        .join('|') || '^$',
  },
}))
module.exports = {
  forbidden: [
    ...upward,
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-has-no-interface-code',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: '^(web|server|cli|demo|e2e|bench)/|node_modules/(react|three|express)' },
    },
    {
      // The address of the WebAssembly file is no use of the kernel; the page has to say where it is.
      name: 'kernel-is-the-only-door-to-the-wasm',
      severity: 'error',
      from: { pathNot: '^core/src/kernel/' },
      to: { path: 'replicad-opencascadejs', pathNot: '/wasm\\?url$' },
    },
    {
      // Tests, and what only they use, may look inside.
      name: 'one-door-per-layer',
      severity: 'error',
      from: { path: '^core/src/([^/]+)/', pathNot: '\\.test(-data)?\\.ts$' },
      to: { path: '^core/src/([^/]+)/(?!index\\.ts$)', pathNot: '^core/src/$1/' },
    },
    {
      name: 'outsiders-use-doors',
      severity: 'error',
      from: { path: '^(web|server|cli|demo)/' },
      to: { path: '^core/src/[^/]+/(?!index\\.ts$)' },
    },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
}
