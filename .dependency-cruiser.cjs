// The arrows of the architecture: site, boards <- bench, ways <- image <- device <- trial; findings and outputs read
// from those; server, web and cli use core and never each other. A folder is entered through its index.ts.
const only = (folder, allowed) => ({
  name: `${folder}-looks-one-way`,
  severity: 'error',
  from: { path: `^core/${folder}/`, pathNot: '\\.(test|testkit)\\.ts$' },
  to: { path: '^core/', pathNot: `^core/(${[folder, ...allowed].join('|')})/` },
})
const faceOnly = (folder) => ({
  name: `${folder}-has-one-face`,
  severity: 'error',
  from: { pathNot: [`^core/${folder}/`, '\\.(test|testkit)\\.ts$'] },
  to: { path: `^core/${folder}/`, pathNot: `^core/${folder}/index\\.ts$` },
})
const folders = [
  'site',
  'boards',
  'topics',
  'infrared',
  'voice',
  'bench',
  'ways',
  'image',
  'device',
  'trial',
  'findings',
  'outputs',
  'imports',
]

module.exports = {
  forbidden: [
    only('site', ['boards']),
    only('boards', []),
    only('topics', []),
    only('infrared', []),
    only('voice', ['site']),
    only('bench', ['site', 'boards']),
    only('ways', ['site', 'boards', 'topics', 'infrared']),
    only('image', ['site', 'boards', 'bench', 'ways', 'topics']),
    only('device', ['image', 'topics', 'infrared']),
    only('trial', ['site', 'boards', 'bench', 'ways', 'image', 'device', 'topics', 'infrared', 'voice']),
    only('findings', ['site', 'boards', 'bench', 'ways', 'image', 'device', 'topics', 'infrared', 'voice']),
    only('outputs', ['site', 'boards', 'bench', 'ways', 'image', 'device', 'findings', 'topics', 'infrared', 'voice']),
    only('imports', ['site']),
    ...folders.map(faceOnly),
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.(test|testkit)\\.ts$' },
      to: { path: ['^(server|web|cli|e2e|tools)/', 'node_modules/(react|express|better-sqlite3|mqtt|aedes|ws)/'] },
    },
    {
      name: 'core-has-no-node',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.(test|testkit)\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    { name: 'server-stands-alone', severity: 'error', from: { path: '^server/' }, to: { path: '^(web|cli|e2e)/' } },
    { name: 'web-stands-alone', severity: 'error', from: { path: '^web/' }, to: { path: '^(server|cli|e2e)/' } },
    {
      name: 'cli-reaches-the-server-by-its-face',
      severity: 'error',
      from: { path: '^cli/' },
      to: { path: '^(web|e2e)/|^server/(?!index\\.ts)' },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    exclude: '^(dist|build|data)/',
  },
}
