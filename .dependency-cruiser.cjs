// The borders between packages and between the core's capability folders. scripts/borders.test.ts plants a
// violation of each and expects it to be found.
const core = 'packages/core/src';
const notTest = '\\.test\\.tsx?$';
/** Imports inside the core run one way; a folder may import itself and what stands left of it. */
const coreLayers = {
  base: ['base'],
  grammar: ['grammar'],
  // The forms of features are read by whoever knows the piece as a whole.
  model: ['base', 'grammar', 'model', 'features/[^/]+/(schema|record|lengths)\\.ts$'],
  anim: ['base', 'model', 'anim'],
  logic: ['base', 'model', 'logic'],
  world: ['base', 'model', 'world'],
  run: ['base', 'model', 'anim', 'logic', 'world', 'run'],
  features: ['base', 'grammar', 'model', 'anim', 'logic', 'world', 'run', 'features'],
  runtime: ['model', 'run', 'features', 'runtime'],
  check: ['base', 'grammar', 'model', 'run', 'check'],
  formats: ['base', 'model', 'check', 'formats'],
};
/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    {
      name: 'no-circular',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-without-any-circle',
      severity: 'error',
      comment: 'in the engine not even types go in a circle',
      from: { path: `${core}/` },
      to: { circular: true },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      comment: 'core: itself and packages that need neither a page nor Node',
      from: { path: `${core}/`, pathNot: notTest },
      to: {
        pathNot: [
          `${core}/`,
          'node_modules/(zod|fractional-indexing|jsonc-parser)/',
          // Readers of files.
          'node_modules/(saxes|svgpath|sanitize-html|css-tree|color-string|fflate|@gltf-transform/(core|extensions)|meshoptimizer)/',
        ],
      },
    },
    ...Object.entries(coreLayers).map(([layer, allowed]) => ({
      name: `core-${layer}-imports`,
      severity: 'error',
      from: { path: `${core}/${layer}/`, pathNot: notTest },
      to: {
        path: `${core}/`,
        pathNot: allowed.map((a) => (a.endsWith('$') ? `${core}/${a}` : `${core}/${a}/`)),
      },
    })),
    {
      name: 'core-forms-below-runs',
      severity: 'error',
      comment: 'the forms of a feature are data: nothing that runs comes along with them',
      from: { path: `${core}/features/[^/]+/(schema|record|lengths)\\.ts$` },
      to: {
        path: `${core}/`,
        pathNot: [`${core}/(base|grammar|model)/`, `${core}/features/[^/]+/schema\\.ts$`],
      },
    },
    {
      name: 'core-features-apart',
      severity: 'error',
      comment: 'a feature imports the spine, never another feature; what two of them need is in the spine',
      from: { path: `${core}/features/([^/]+)/` },
      to: { path: `${core}/features/`, pathNot: `${core}/features/$1/` },
    },
    {
      name: 'player-stays-small',
      severity: 'error',
      comment: 'what people embed takes core/runtime, core/model, core/world and painter only',
      from: { path: 'packages/player/src', pathNot: notTest },
      to: { path: `${core}/`, pathNot: [`${core}/runtime/`, `${core}/model/`, `${core}/world/`] },
    },
    {
      name: 'server-cli-not-desk',
      severity: 'error',
      from: { path: 'packages/(server|cli)/' },
      to: { path: 'packages/desk/' },
    },
    {
      name: 'desk-not-server',
      severity: 'error',
      from: { path: 'packages/desk/' },
      to: { path: 'packages/(server|cli)/' },
    },
    {
      name: 'desk-features-apart',
      severity: 'error',
      comment: 'of another feature one takes what is done to its records, and no part of the screen',
      from: { path: 'packages/desk/src/features/([^/]+)/', pathNot: notTest },
      to: {
        path: 'packages/desk/src/features/([^/]+)/',
        pathNot: ['packages/desk/src/features/$1/', 'packages/desk/src/features/[^/]+/edit\\.ts$'],
      },
    },
    {
      name: 'desk-screens-apart',
      severity: 'error',
      comment: 'screens meet in session and commands, never directly',
      from: { path: 'packages/desk/src/screens/([^/]+)/' },
      to: { path: 'packages/desk/src/screens/([^/]+)/', pathNot: 'packages/desk/src/screens/$1/' },
    },
    {
      name: 'desk-parts-below-screens',
      severity: 'error',
      from: { path: 'packages/desk/src/(session|commands|ui|sentences|features)/', pathNot: notTest },
      to: { path: 'packages/desk/src/(screens|app)/' },
    },
    {
      name: 'desk-features-by-their-edits',
      severity: 'error',
      comment:
        'below the screens a feature is known by what is done to its records; sentences take its parts, too',
      from: { path: 'packages/desk/src/(session|commands|ui)/', pathNot: notTest },
      to: {
        path: 'packages/desk/src/features/',
        pathNot: 'packages/desk/src/features/[^/]+/edit\\.ts$',
      },
    },
    {
      name: 'no-deep-cross-package',
      severity: 'error',
      comment: 'cross packages by name only',
      from: { path: 'packages/([^/]+)/src' },
      to: { path: 'packages/([^/]+)/', pathNot: 'packages/$1/', dependencyTypes: ['local'] },
    },
    {
      name: 'not-to-test',
      severity: 'error',
      from: { pathNot: '\\.test\\.tsx?$' },
      to: { path: '\\.test\\.tsx?$' },
    },
    { name: 'no-unresolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|\\.tsbuild)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
  },
};
