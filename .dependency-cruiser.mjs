/**
 * The borders of docs/house.md. Types count as imports here: a type that comes
 * from above ties the house as much as a function does.
 */

/** The layers of src/core from the ground up; folders of one layer do not know each other. */
const CORE_LAYERS = [
  ['quantity', 'numeric'],
  ['schema', 'topology'],
  ['parts', 'magnetics'],
  ['drive', 'load'],
  ['design'],
  ['ladder'],
  ['output'],
  ['stress'],
  ['operating'],
  ['predict'],
  ['transient', 'winding', 'drawer'],
  ['choose', 'dead', 'bench', 'exchange'],
  ['build'],
  ['workshop'],
];

const TEST = '\\.test\\.tsx?$';

const coreRules = CORE_LAYERS.flatMap((layer, floor) =>
  layer.map((folder) => {
    const below = CORE_LAYERS.slice(0, floor).flat();
    const packages = ['fast-deep-equal', ...(folder === 'bench' ? ['ml-levenberg-marquardt', 'ml-matrix'] : [])];
    return {
      name: `core-${folder}`,
      comment: `src/core/${folder} imports itself, ${below.join(', ') || 'nothing else'}, zod and ${packages.join(', ')}.`,
      severity: 'error',
      from: { path: `^src/core/${folder}/`, pathNot: TEST },
      to: {
        pathNot: `^(src/core/(zod\\.ts$|(${[folder, ...below].join('|')})/)|(node_modules/)?(${packages.join('|')})(/|$))`,
      },
    };
  }),
);

/** What each folder above the core may import from ours. */
const above = (name, path, allowed) => ({
  name,
  severity: 'error',
  from: { path, pathNot: TEST },
  to: { path: '^(src|tests|setup|bench|command-line)/', pathNot: `${path}|${allowed}` },
});

const SCREENS = [
  'shelf',
  'design',
  'drawer',
  'choose',
  'compare',
  'look',
  'training',
  'workshop',
  'enter',
  'telephone',
];

/** @type {import('dependency-cruiser').IConfiguration} */
const config = {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    ...coreRules,
    {
      name: 'core-tests',
      severity: 'error',
      from: { path: '^src/core/' },
      to: { path: '^src/', pathNot: '^src/core/' },
    },
    above('worker', '^src/worker/', '^src/core/'),
    above('server', '^src/server/', '^src/core/'),
    above('client', '^src/client/', '^src/(core|worker)/'),
    above('ui', '^src/ui/', '^src/core/quantity/'),
    above('climb', '^src/climb/', '^src/(core|ui)/'),
    ...SCREENS.map((screen) =>
      above(`screen-${screen}`, `^src/screens/${screen}/`, '^src/(core|ui|climb|client|worker)/'),
    ),
    above('app', '^src/(app/|proxy)', '^src/'),
    {
      name: 'computed-beside-requests',
      comment: 'What takes long is computed in the thread of src/server/thread, or every other request waits for it.',
      severity: 'error',
      from: { path: '^src/(server|app)/', pathNot: `^src/server/thread/|${TEST}` },
      to: {
        path: '^src/(core/(predict/(predict|optimum-stages|shelf-row)|transient/.*|choose/.*)\\.ts|server/thread/work\\.ts)$',
        dependencyTypesNot: ['type-only'],
      },
    },
    {
      name: 'only-app-reaches-the-server',
      severity: 'error',
      from: { path: '^src/', pathNot: `^src/((app|server)/|proxy)|${TEST}` },
      to: { path: '^src/server/' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.mjs', '.js', '.json', '.css'] },
  },
};

export default config;
