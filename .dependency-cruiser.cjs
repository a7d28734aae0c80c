/** Directions: core <- contract <- server, web. Rooms of core build on one another in one order; leaves are imported by nothing. */
const ROOMS = [
  'locales',
  'time',
  'values',
  'tables',
  'doors',
  'documents',
  'people',
  'rules',
  'pace',
  'messages',
  'sentence',
  'decide',
];

/** A room may know those before it. */
const roomRules = ROOMS.map((room, at) => ({
  name: `core-${room}-knows-only-earlier-rooms`,
  severity: 'error',
  from: { path: `^core/${room}/` },
  to: { path: '^core/', pathNot: `^core/(${ROOMS.slice(0, at + 1).join('|')}|testing)/` },
}));

/** Outsiders use a room's index, insiders never do. */
const doorRules = [
  ...ROOMS.map((room) => `core/${room}`),
  'server/kit',
  'server/store',
  'server/intake',
  'server/runner',
  'server/delivery',
  'server/access',
  'server/acts',
  'server/live',
  'server/replay',
  'server/standins',
  'server/reports',
  'server/signed-links',
  'server/signing-in',
  'server/http',
  'server/contents',
  'server/tables',
  'server/finding',
  'web/parts',
  'web/forms',
  'web/queries',
].flatMap((room) => [
  {
    name: `${room}-is-entered-by-its-index`,
    severity: 'error',
    from: { pathNot: `^(${room}/|.*\\.test\\.tsx?$|(core|server|web)/testing/)` },
    to: { path: `^${room}/`, pathNot: `^${room}/index\\.ts$` },
  },
  {
    name: `${room}-does-not-enter-itself`,
    severity: 'error',
    from: { path: `^${room}/`, pathNot: '\\.test\\.tsx?$' },
    to: { path: `^${room}/index\\.ts$` },
  },
]);

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-knows-nothing-else',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: '^(contract|server|web|demo|e2e|bench|bin)/' },
    },
    {
      name: 'core-does-no-io',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-packages',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm'],
        pathNot: 'node_modules/(temporal-polyfill|decimal\\.js|tinyqueue|intl-messageformat|liquidjs|chevrotain)/',
      },
    },
    {
      name: 'zones-only-in-time',
      severity: 'error',
      from: { pathNot: '^core/time/' },
      to: { path: 'node_modules/temporal-polyfill/' },
    },
    {
      name: 'contract-knows-only-core',
      severity: 'error',
      from: { path: '^contract/' },
      to: { path: '^(cli|server|web|demo|e2e|bench|bin)/' },
    },
    { name: 'server-does-not-know-web', severity: 'error', from: { path: '^server/' }, to: { path: '^web/' } },
    { name: 'web-does-not-know-server', severity: 'error', from: { path: '^web/' }, to: { path: '^server/' } },
    {
      name: 'leaves-are-imported-by-nothing',
      severity: 'error',
      from: { pathNot: '^(cli|demo|e2e|bench|bin)/' },
      to: { path: '^(cli|demo|e2e|bench|bin)/' },
    },
    {
      name: 'tests-are-imported-by-nothing',
      severity: 'error',
      from: { pathNot: '(\\.test\\.tsx?$|^(core|server|web)/testing/|^bench/|^vitest\\.config)' },
      to: { path: '(\\.test\\.tsx?$|^(core|server|web)/testing/)' },
    },
    { name: 'no-strays', severity: 'error', from: {}, to: { couldNotResolve: true } },
    ...roomRules,
    ...doorRules,
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
