import tseslint from 'typescript-eslint';
import borders from './eslint/borders.js';

/** What a pure function cannot have: of these globals each reaches the process, its clock, its network or its terminal. */
const impureGlobals = [
  'process',
  'console',
  'Buffer',
  'global',
  'globalThis',
  'performance',
  'fetch',
  'setTimeout',
  'setInterval',
  'setImmediate',
  'queueMicrotask',
  'require',
];

const clock = [
  { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'The core has no clock.' },
  { selector: "CallExpression[callee.name='Date']", message: 'The core has no clock.' },
  {
    selector: "MemberExpression[object.name='Date'][property.name='now']",
    message: 'The core has no clock.',
  },
  {
    selector: "MemberExpression[object.name='Math'][property.name='random']",
    message: 'The core gives the same for the same.',
  },
];

const workingFolder = [
  {
    selector: "MemberExpression[object.name='process'][property.name=/^(?:cwd|chdir)$/]",
    message: 'Only the command line knows the folder that the user is in.',
  },
];

/** Modules that are programs: they are run, not imported. */
const programs = ['src/cli/bin.ts', 'src/preview/page/main.ts'];
const workers = ['src/project/build/build-worker.ts', 'src/project/editor/editor-worker.ts'];

const loading = [
  {
    selector: 'Program > :matches(ExpressionStatement, IfStatement, ForOfStatement, ForStatement, WhileStatement)',
    message: 'A module only declares: when it is loaded depends on who uses it first.',
  },
];

// One rule for each group of files: of a rule that is set twice, the last setting would win.
export default tseslint.config(
  { ignores: ['dist', 'build', 'out', 'node_modules'] },
  ...tseslint.configs.recommended,
  {
    files: ['src/**/*.{ts,cts}', 'test/**/*.ts'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { project: ['./tsconfig.test.json'] } },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/explicit-module-boundary-types': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      '@typescript-eslint/no-unnecessary-condition': 'off',
      eqeqeq: 'error',
      'no-console': 'error',
      'max-depth': ['error', 4],
    },
  },
  {
    files: ['src/**/*.{ts,cts}'],
    plugins: { borders },
    rules: { 'borders/house': 'error', 'borders/no-circle': 'error', 'max-params': ['error', 5] },
  },
  {
    files: ['src/core/**/*.ts'],
    rules: {
      'no-restricted-globals': ['error', ...impureGlobals],
      'no-restricted-syntax': ['error', ...clock, ...loading],
    },
  },
  {
    files: ['src/{mail,pictures,platforms,standins,project}/**/*.ts'],
    rules: { 'no-restricted-syntax': ['error', ...workingFolder, ...loading] },
  },
  { files: workers, rules: { 'no-restricted-syntax': ['error', ...workingFolder] } },
  {
    files: ['src/{browser,cli,editor,links,preview,start,web}/**/*.{ts,cts}'],
    ignores: programs,
    rules: { 'no-restricted-syntax': ['error', ...loading] },
  },
  {
    // A module of the older kind imports by this word.
    files: ['src/**/*.cts'],
    rules: { '@typescript-eslint/no-require-imports': ['error', { allowAsImport: true }] },
  },
  { files: ['scripts/**/*.mjs', 'bench/**/*.mjs', 'demo/**/*.mjs'], rules: { 'no-console': 'off' } },
);
