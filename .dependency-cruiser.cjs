// The floors of the house: a room imports only from floors below it. docs/architecture.md draws the same map.
const CORE = 'packages/core/src';
const WEB = 'apps/web/src';

/** From the ground up. */
const coreFloors = [
  'math',
  'curve',
  'gate',
  'nib',
  'kind',
  'hand',
  'stroke',
  'area',
  'dots',
  'panel',
  'balloon',
  'lettering',
  'tone',
  'guides',
  'set',
  'page',
  'wire',
  'tethers',
  'ink',
  'rack',
  'shapes',
  'templates',
  'staging',
  'drawn',
  'mend',
  'select',
  'tools',
  'regions',
  'texture',
  'trace',
  'comic',
  'typeset',
  'models',
  'audit',
  'formats',
];
const webFloors = [
  'base',
  'look',
  'api',
  'render',
  'session',
  'deliver',
  'board',
  'keys',
  'wash',
  'nibs',
  'guiding',
  'hand',
  'stack',
  'select',
  'stages/lettering',
  'stages/finish',
  'stages/mend',
  'stages/ink',
  'stages/blacks',
  'stages/press',
  'stages/texture',
  'stages/guides',
  'stages/depth',
  'stages/set',
  'stages/panels',
  'stages/trace',
  'stages/rough',
  'chrome',
  'open',
  'shelf',
  'app',
];

/** What runs in a worker, or before the app itself, takes others by name: a face would bring its whole room along. */
const BY_NAME = [
  `^${WEB}/render/`,
  `^${WEB}/session/transport\\.ts$`,
  `^${WEB}/open/(earlyPage|boardSize)\\.ts$`,
  '\\.worker\\.ts$',
];

const inRoom = (house, name) => `^${house}/${name}/`;
const onlyFromBelow = (house, floors) =>
  floors.slice(0, -1).map((name, k) => ({
    name: `${name.replace('/', '-')}-imports-only-from-below`,
    severity: 'error',
    from: { path: inRoom(house, name) },
    to: { path: [...floors.slice(k + 1).map((above) => inRoom(house, above)), `^${WEB}/stages/index\\.ts$`] },
  }));
const throughFaces = (house, floors, pathNot) =>
  floors.map((name) => ({
    name: `${name.replace('/', '-')}-has-a-face`,
    severity: 'error',
    from: { path: '^(apps|packages)/[^/]+/src/', pathNot: [inRoom(house, name), ...pathNot] },
    to: { path: `${inRoom(house, name)}(?!index\\.ts$)`, pathNot: '\\.css$' },
  }));

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    // Those of types alone included: whoever must read one file to understand the other reads a circle.
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...onlyFromBelow(CORE, coreFloors),
    ...onlyFromBelow(WEB, webFloors).map((rule) =>
      /^(chrome|open|shelf)-/.test(rule.name) ? { ...rule, to: { path: rule.to.path.slice(0, -1) } } : rule,
    ),
    ...throughFaces(CORE, coreFloors, []),
    ...throughFaces(WEB, webFloors, BY_NAME),
    {
      name: 'every-room-has-its-floor',
      severity: 'error',
      from: {},
      to: {
        path: `^(${CORE}|${WEB})/`,
        pathNot: [
          ...coreFloors.map((name) => inRoom(CORE, name)),
          ...webFloors.map((name) => inRoom(WEB, name)),
          `^${WEB}/stages/index\\.ts$`,
          '\\.d\\.ts$',
        ],
      },
    },
    {
      name: 'core-knows-no-app',
      severity: 'error',
      from: { path: `^${CORE}/` },
      to: { path: '^apps/|^node_modules/(react|expo|express|sequelize)' },
    },
    {
      name: 'core-knows-no-node',
      severity: 'error',
      from: { path: `^${CORE}/` },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'render-has-no-react',
      severity: 'error',
      from: { path: `^${WEB}/render/` },
      to: { path: 'node_modules/react' },
    },
    { name: 'apps-stay-apart', severity: 'error', from: { path: '^apps/web/' }, to: { path: '^apps/server/' } },
    { name: 'server-stays-apart', severity: 'error', from: { path: '^apps/server/' }, to: { path: '^apps/web/' } },
    {
      name: 'no-tests-in-the-product',
      severity: 'error',
      from: { path: '/src/' },
      to: { path: '\\.test\\.tsx?$|/tests/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|\\.expo|node_modules)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'types', 'default'] },
  },
};
