/** Which room may know which. Stations know each other only through the shared parts beside them. */
module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: { pathNot: 'node_modules' },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: '^(contract|server|web|demo|standins)/' },
    },
    {
      name: 'contract-on-core',
      severity: 'error',
      from: { path: '^contract/' },
      to: { path: '^(server|web|demo|standins)/' },
    },
    { name: 'web-never-server', severity: 'error', from: { path: '^web/' }, to: { path: '^(server|demo)/' } },
    { name: 'server-never-web', severity: 'error', from: { path: '^server/' }, to: { path: '^(web|demo)/' } },
    {
      name: 'stations-apart-in-core',
      severity: 'error',
      from: { path: '^core/src/([^/]+)/' },
      to: {
        path: '^core/src/([^/]+)/',
        pathNot: [
          '^core/src/$1/',
          '^core/src/[^/]+/index\\.ts$',
          '^core/src/quantity/number\\.ts$',
          '^core/src/temper/defaults\\.ts$',
        ],
      },
    },
    {
      name: 'stations-apart-on-every-floor',
      severity: 'error',
      comment:
        'A room knows another one only through its index, or through the parts shared beside the rooms.',
      from: { path: '^(contract|server|web)/src/stations/([^/]+)/' },
      to: { path: '^$1/src/stations/([^/]+)/', pathNot: ['^$1/src/stations/$2/', '/index\\.ts$'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
  },
};
