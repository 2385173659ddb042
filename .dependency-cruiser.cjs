/** Dependencies point one way: web → contract → core ← server, server → contract. */
const ours = (...names) => `^(${names.join('|')})/`;
const never = (name, from, to, comment) => ({
  name,
  comment,
  severity: 'error',
  from: { path: from },
  to: { path: to },
});

/**
 * The folders of the server by layers, the lowest first: each knows only those before it, also within a layer, so that
 * there are no cycles.
 */
const serverLayers = [
  ['db', 'connectors'],
  ['modules/steps', 'modules/audit', 'modules/session'],
  ['modules/books', 'modules/decisions', 'modules/ledger'],
  [
    'modules/journals',
    'modules/documents',
    'modules/lines',
    'modules/pairing',
    'modules/proof',
    'modules/tax',
  ],
  ['modules/habits', 'modules/rules', 'modules/proposals'],
  [
    'modules/questions',
    'modules/intake',
    'modules/feeds',
    'modules/board',
    'modules/reports',
    'modules/currencies',
    'modules/statements',
    'modules/closing',
    'modules/overview',
    'modules/handover',
    'modules/people',
  ],
  ['modules/jobs', 'commands'],
  ['jobs', 'http'],
];
const serverFolders = serverLayers.flat();
const notTests = '(?!.*\\.test\\.ts$)';
const serverOrder = serverFolders
  .slice(0, -1)
  .map((folder, at) =>
    never(
      `server-order-${folder.replace('modules/', '')}`,
      `^server/src/${folder}/${notTests}`,
      `^server/src/(${serverFolders.slice(at + 1).join('|')})/`,
      `${folder} does not know what is built on it`,
    ),
  );

module.exports = {
  forbidden: [
    never(
      'core-alone',
      ours('core'),
      ours('contract', 'server', 'practice-bank', 'web', 'demo', 'cli', 'e2e', 'bench'),
      'core imports nothing of ours',
    ),
    never(
      'core-pure',
      '^core/(?!.*\\.test\\.ts$)',
      '^(node:|fs$|path$|crypto$|os$|http$|child_process$)',
      'core does no input or output',
    ),
    never(
      'contract-on-core',
      ours('contract'),
      ours('server', 'practice-bank', 'web', 'demo', 'cli', 'e2e', 'bench'),
      'contract knows core only',
    ),
    never(
      'server-without-web',
      '^server/(?!.*\\.test\\.ts$)',
      ours('practice-bank', 'web', 'demo', 'cli', 'e2e', 'bench'),
      'server knows core and contract; its tests have the practice bank',
    ),
    never(
      'practice-bank-on-core',
      ours('practice-bank'),
      ours('contract', 'server', 'web', 'demo', 'cli', 'e2e', 'bench'),
      'the practice bank stands for the outside world: it knows core only',
    ),
    never(
      'web-without-server',
      '^web/',
      ours('server', 'practice-bank', 'demo', 'cli', 'e2e', 'bench'),
      'web knows core and contract',
    ),
    never(
      'cli-on-core',
      '^cli/',
      ours('contract', 'server', 'practice-bank', 'web', 'demo', 'e2e', 'bench'),
      'cli knows core',
    ),
    never(
      'routes-without-sql',
      '^server/src/http/routes/',
      '^node_modules/drizzle-orm',
      'routes speak HTTP; SQL is in queries and services',
    ),
    ...serverOrder,
    {
      name: 'no-server-folder-without-a-layer',
      comment: 'every folder of the server has its place in the order above',
      severity: 'error',
      from: {
        path: '^server/src/[^/]+/',
        pathNot: `^server/src/(${[...serverFolders, 'build', 'operate', 'testing'].join('|')})/`,
      },
      to: {},
    },
    {
      name: 'no-cycles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    { name: 'resolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.scss$|\\.css$' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.mjs', '.js'],
    },
  },
};
