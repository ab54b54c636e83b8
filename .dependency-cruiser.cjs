/** Who may import whom. core is pure; web and server meet only in contract. */
module.exports = {
  forbidden: [
    {
      name: 'no-cycles',
      comment: 'Types included.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      name: 'core-is-pure',
      comment: 'core has no interface and no I/O: nothing of Node, nothing of the other parts.',
      severity: 'error',
      from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
      to: { path: '^(server|web|demo|contract|e2e|bench)/' },
    },
    {
      name: 'core-without-node',
      severity: 'error',
      from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-packages',
      comment: 'Pure packages only; mjml stays in build, which browsers never load.',
      severity: 'error',
      from: { path: '^core/src', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm'],
        pathNot:
          'node_modules/(zod|immer|htmlparser2|csv-parse|fast-xml-parser|sanitize-html|fastest-levenshtein|lossless-json|mjml|croner)/',
      },
    },
    {
      name: 'mjml-in-build',
      severity: 'error',
      from: { path: '^(core/src/(?!build/(?:build\.ts|[a-z]+\.test\.ts))|web|contract|demo)' },
      to: { path: 'node_modules/mjml' },
    },
    {
      name: 'web-without-build',
      severity: 'error',
      from: { path: '^web/' },
      to: { path: '^core/src/build/build', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'web-not-server',
      severity: 'error',
      from: { path: '^web/' },
      to: { path: '^(server|demo)/' },
    },
    {
      name: 'server-not-web',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^web/' },
    },
    {
      name: 'contract-alone',
      severity: 'error',
      from: { path: '^contract/' },
      to: { path: '^(server|web|demo)/' },
    },
    {
      name: 'demo-on-core',
      severity: 'error',
      from: { path: '^demo/' },
      to: { path: '^(server|web|contract)/' },
    },
    {
      name: 'formula-alone',
      comment: 'The language knows the shape of data, and nothing of templates.',
      severity: 'error',
      from: { path: '^core/src/formula' },
      to: { path: '^core/src/(?!formula|shape)' },
    },
    {
      name: 'render-without-build',
      severity: 'error',
      from: { path: '^core/src/render', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/build/(?!program|placeholders)' },
    },
    {
      name: 'no-orphans',
      severity: 'error',
      from: {
        orphan: true,
        pathNot: ['\\.d\\.ts$', '\\.test\\.tsx?$', '(^|/)vite\\.config\\.ts$', '^web/src/testing/'],
      },
      to: {},
    },
    {
      name: 'not-unresolved',
      severity: 'error',
      from: {},
      to: { couldNotResolve: true, pathNot: '^@fontsource|\\.css$' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)dist/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json', '.css'],
    },
  },
};
