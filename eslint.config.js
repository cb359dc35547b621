import tseslint from 'typescript-eslint';

/** Arrows point one way: cli → project, pictures, mail, standin → core. */
const outside = (...folders) =>
  folders.flatMap((folder) => (folder.startsWith('../') ? [`${folder}/*`, `../${folder}/*`] : [`**/${folder}/**`]));

function boundary(files, folders, modules, reason) {
  const patterns = [
    { group: outside(...folders), message: reason },
    ...(modules.length > 0 ? [{ group: modules, message: reason }] : []),
  ];
  return { files, rules: { 'no-restricted-imports': ['error', { patterns }] } };
}

const impure = [
  'fs',
  'fs/*',
  'net',
  'http',
  'https',
  'child_process',
  'os',
  'path',
  'process',
  'timers',
  'timers/*',
  'crypto',
  'tty',
  'worker_threads',
];
const impureModules = [
  ...impure,
  ...impure.map((name) => `node:${name}`),
  'sharp',
  'joi',
  'commander',
  'fflate',
  'yaml',
  'csv-parse',
  'chokidar',
];
const borrowedParsers = {
  parse5: ['src/core/html/parse.ts', 'src/core/html/markup.ts'],
  'css-tree': 'src/core/css/css-tree.ts',
  'css-tree/dist/csstree.esm': 'src/core/css/css-tree.ts',
  'markdown-it': 'src/core/template/markdown.ts',
  'csv-parse/sync': 'src/project/data-files.ts',
  chokidar: 'src/project/watch-project.ts',
  'postal-mime': 'src/mail/read-mail.ts',
  nodemailer: 'src/mail/send-mails.ts',
  'nodemailer/lib/mime-node': 'src/mail/compose-mail.ts',
  'nodemailer/lib/mime-funcs': 'src/mail/compose-mail.ts',
  imapflow: 'src/mail/put-draft.ts',
  'smtp-server': 'src/standin/mailbox.ts',
};

export default tseslint.config(
  { ignores: ['dist', 'build', 'out', 'node_modules'] },
  ...tseslint.configs.recommended,
  {
    files: ['src/**/*.ts', 'test/**/*.ts'],
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
  boundary(
    ['src/core/**/*.ts'],
    ['project', 'pictures', 'mail', 'standin', 'cli'],
    impureModules,
    'The core is pure: no files, network, process, clock or terminal, and nothing from the layers above.',
  ),
  {
    files: ['src/core/**/*.ts'],
    rules: {
      'no-restricted-globals': ['error', 'process', 'console', 'Buffer', 'setTimeout', 'setInterval', 'fetch'],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date']", message: 'The core has no clock.' },
      ],
    },
  },
  ...coreBoundaries(),
  boundary(
    ['src/project/**/*.ts', 'src/pictures/**/*.ts'],
    ['cli', 'standin'],
    ['commander'],
    'Only the command line knows the terminal.',
  ),
  boundary(
    ['src/mail/**/*.ts', 'src/standin/**/*.ts'],
    ['cli', 'project', 'pictures'],
    ['commander'],
    'Mail and stand-ins know no project and no terminal.',
  ),
  ...Object.entries(borrowedParsers).map(([name, owner]) => ({
    files: ['src/**/*.ts'],
    ignores: [owner].flat(),
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        { paths: [{ name, message: `Only ${[owner].flat().join(' and ')} knows this package.` }] },
      ],
    },
  })),
  { files: ['scripts/**/*.mjs', 'bench/**/*.mjs', 'demo/**/*.mjs'], rules: { 'no-console': 'off' } },
);

/** Inside the core: source → template, layout, inline, plain text, packages; html, css and merge below; text and findings at the bottom. */
function coreBoundaries() {
  const above = {
    text: ['html', 'css', 'merge', 'inline', 'layout', 'plaintext', 'package', 'source', 'template'],
    html: ['css', 'merge', 'inline', 'layout', 'plaintext', 'package', 'source', 'template'],
    css: ['merge', 'inline', 'layout', 'plaintext', 'package', 'source', 'template'],
    merge: ['css', 'inline', 'layout', 'plaintext', 'package', 'source', 'template'],
    template: ['css', 'inline', 'layout', 'plaintext', 'package', 'source'],
    layout: ['inline', 'plaintext', 'package', 'source', 'template'],
    inline: ['layout', 'plaintext', 'package', 'source', 'template'],
    plaintext: ['layout', 'inline', 'package', 'source', 'template'],
    package: ['layout', 'inline', 'plaintext', 'source', 'template'],
  };
  // What works on finished HTML alone stands beside all this, and below the compilation of messages.
  const beside = ['region', 'learn', 'adopt', 'picture', 'slice'];
  for (const folder of ['text', 'html', 'css', 'merge', 'template', 'layout', 'inline', 'plaintext', 'package'])
    above[folder].push(...beside);
  const compilation = ['css', 'inline', 'layout', 'plaintext', 'package', 'source'];
  Object.assign(above, {
    picture: ['merge', 'layout', 'plaintext', 'package', 'source', 'template', 'region', 'learn', 'adopt', 'slice'],
    slice: [...compilation, 'merge', 'template', 'region', 'learn', 'adopt', 'picture'],
    region: [...compilation, 'learn', 'adopt', 'picture', 'slice'],
    learn: [...compilation, 'template', 'region', 'adopt', 'picture', 'slice'],
    adopt: [...compilation, 'template', 'region', 'learn', 'slice'],
  });
  return Object.entries(above).map(([folder, forbidden]) =>
    boundary(
      [`src/core/${folder}/**/*.ts`],
      [...forbidden.map((name) => `../${name}`), 'project', 'pictures', 'mail', 'standin', 'cli'],
      impureModules,
      `core/${folder} stands below these folders.`,
    ),
  );
}
