// One natural direction: app → features → server → core. docs/architecture.md says why.
const CORE = [
  'steps',
  'maps',
  'decimal',
  'currency',
  'issue',
  'predicates',
  'rules',
  'limits',
  'catalogue',
  'access',
  'places',
  'buyers',
  'price',
  'tax',
  'promotions',
  'proofs',
  'store',
  'staff',
  'drafts',
  'notation',
  'engine',
  'cart',
  'order',
  'quote',
  'impact',
  'proving',
  'finding',
]

/** The rooms of the engine, each on those before it; what asks and prepares stands above them all. */
const ENGINE = ['items', 'lists', 'context', 'rules', 'amounts', 'price', 'column', 'promoted', 'explain']

const engineOrder = ENGINE.map((room, at) => ({
  name: `engine-${room}-looks-back`,
  severity: 'error',
  from: { path: `^src/core/engine/${room}/` },
  to: {
    path: `^src/core/engine/(${[...ENGINE.slice(at + 1).map((each) => `${each}/`), '[^/]+$'].join('|')})`,
  },
}))

/** Inside the core a folder imports only those listed before it. */
const coreOrder = CORE.slice(0, -1).map((folder, at) => ({
  name: `core-${folder}-looks-back`,
  severity: 'error',
  from: { path: `^src/core/${folder}/` },
  to: { path: `^src/core/(${CORE.slice(at + 1).join('|')})/` },
}))

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-knows-nobody',
      comment: 'The core has no interface, framework or database code, no clock and no input or output.',
      severity: 'error',
      from: { path: '^src/core' },
      to: { pathNot: ['^src/core', '^node_modules/(fastest-levenshtein|iso-3166|temporal-polyfill)'] },
    },
    {
      name: 'demo-imports-core-only',
      severity: 'error',
      from: { path: '^src/demo' },
      to: { pathNot: '^src/(core|demo)' },
    },
    {
      name: 'ui-imports-core-only',
      severity: 'error',
      from: { path: '^src/ui' },
      to: { path: '^src/(app|features|sheet|server|demo)' },
    },
    {
      name: 'server-looks-down',
      severity: 'error',
      from: { path: '^src/server' },
      to: { path: '^src/(app|features|sheet|ui)' },
    },
    {
      name: 'features-look-down',
      severity: 'error',
      from: { path: '^src/features' },
      to: { path: '^src/(app|demo)' },
    },
    {
      name: 'sheets-look-down',
      comment: 'What the sheets of all kinds share stands a floor below them.',
      severity: 'error',
      from: { path: '^src/sheet' },
      to: { path: '^src/(app|features|demo)' },
    },
    {
      name: 'features-stand-apart',
      comment: 'Features do not import each other: what two of them share goes down a floor.',
      severity: 'error',
      from: { path: '^src/features/([^/]+)/' },
      to: { path: '^src/features/', pathNot: '^src/features/$1/' },
    },
    ...coreOrder,
    ...engineOrder,
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
}
