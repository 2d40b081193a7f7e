// The floors of the house: a room imports only from floors below it. docs/architecture.md draws the same map.
const floors = [
  'math',
  'curve',
  'page',
  'guides',
  'ink',
  'rack',
  'shapes',
  'templates',
  'mend',
  'select',
  'tools',
  'formats',
];
const room = (name) => `^packages/core/src/${name}/`;

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    ...floors.map((name, k) => ({
      name: `${name}-imports-only-from-below`,
      severity: 'error',
      from: { path: room(name) },
      to: {
        path:
          floors
            .slice(k + 1)
            .map(room)
            .join('|') || '^$',
      },
    })),
    {
      name: 'core-knows-no-app',
      severity: 'error',
      from: { path: '^packages/core/src/' },
      to: { path: '^apps/|^node_modules/(react|expo|express|sequelize)' },
    },
    {
      name: 'core-knows-no-node',
      severity: 'error',
      from: { path: '^packages/core/src/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'rooms-have-faces',
      severity: 'error',
      from: { path: '^apps/' },
      to: { path: '^packages/core/src/[^/]+/(?!index\\.ts$)' },
    },
    {
      name: 'render-has-no-react',
      severity: 'error',
      from: { path: '^apps/web/src/render/' },
      to: { path: 'node_modules/react' },
    },
    {
      name: 'render-knows-no-screens',
      severity: 'error',
      from: { path: '^apps/web/src/render/' },
      to: { path: '^apps/web/src/(app|board|shelf|look|session|api)/' },
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
