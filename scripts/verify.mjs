// Everything that has to hold before a change may stand: installs what the tests need, then checks and tests.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync } from 'node:fs';

/** Programs that tests judge with, and the Debian packages that bring them. */
const needed = [
  { program: 'unzip', packages: ['unzip'] },
  { program: 'python3', packages: ['python3'] },
  { program: 'apache2', packages: ['apache2-bin'] },
  { program: 'openssl', packages: ['openssl'] },
  { program: 'dovecot', packages: ['dovecot-imapd'] },
  { program: 'nvim', packages: ['neovim'] },
  { program: 'zsh', packages: ['zsh'] },
  { program: 'fish', packages: ['fish'] },
  { program: 'groff', packages: ['groff-base'] },
];

function run(title, command, args, options = {}) {
  console.log(`\n== ${title}`);
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', ...options });
  if (status === 0) return;
  console.error(`\n${title}: failed${error ? ` (${error.message})` : ''}.`);
  process.exit(1);
}

/** The browser that judges: of two that draw the same the one that starts in half the time, where this system has it. */
const browsers = ['chromium-headless-shell', 'chromium'];
const fonts = ['fonts-liberation', 'fonts-dejavu-core'];

const has = (program) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;

function installPrograms() {
  const canInstall = process.getuid?.() === 0 && has('apt-get');
  const missing = needed.filter(({ program }) => !has(program));
  const hasBrowser = canInstall ? has(browsers[0]) : browsers.some(has);
  if (missing.length === 0 && hasBrowser) return;
  const others = missing.flatMap(({ packages }) => packages);
  if (!canInstall) {
    const packages = [...(hasBrowser ? [] : [browsers[0], ...fonts]), ...others];
    console.error(
      `Programs are missing that the tests need. Install, for example: apt-get install ${packages.join(' ')}`,
    );
    process.exit(1);
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  run('Package lists', 'apt-get', ['update', '-qq'], { env });
  const browser = browsers.find((name) => has(name) || spawnSync('apt-cache', ['show', name]).status === 0);
  const packages = [...(has(browser) ? [] : [browser, ...fonts]), ...others];
  if (packages.length === 0) return;
  run(`Programs: ${packages.join(' ')}`, 'apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], {
    env,
  });
}

function checkLockFile() {
  if (/:\/\//.test(readFileSync('package-lock.json', 'utf8'))) {
    console.error('package-lock.json holds addresses of hosts; run npm run lock:clean.');
    process.exit(1);
  }
}

/** A source that the list of ignored files swallows would be here and nowhere else. */
function checkSources() {
  const folders = ['src', 'test', 'scripts', 'eslint', 'bench', 'docs', 'demo', 'dialects', 'starters', 'schemas'];
  const words = ['ls-files', '--others', '--ignored', '--exclude-standard', '--directory', '--', ...folders];
  const { status, stdout } = spawnSync('git', words, { encoding: 'utf8' });
  const ignored = status === 0 ? stdout.split('\n').filter((path) => path !== '' && path !== 'demo/out/') : [];
  if (ignored.length === 0) return;
  console.error(`.gitignore keeps sources out of the repository: ${ignored.join(', ')}`);
  process.exit(1);
}

run('Packages', process.execPath, ['scripts/install.mjs']);
installPrograms();
checkLockFile();
checkSources();
run('Format', process.execPath, ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level=warn', '.']);
run('Lint', process.execPath, ['node_modules/eslint/bin/eslint.js', '.']);
run('Build', process.execPath, ['scripts/build.mjs']);
run('Reference', process.execPath, ['scripts/reference.mjs', '--check']);
run('Rules of the check', process.execPath, ['scripts/checks.mjs', '--check']);
run('Picture of the house', process.execPath, ['scripts/house.mjs', '--check']);
run('Types of the tests', process.execPath, ['node_modules/typescript/bin/tsc', '-p', 'tsconfig.test.json']);

mkdirSync('build', { recursive: true });
const report = 'build/test-report.json';
console.log('\n== Tests');
const jest = spawnSync(
  process.execPath,
  [
    '--experimental-vm-modules',
    '--no-warnings',
    'node_modules/jest/bin/jest.js',
    // One test file on each of two cores: most of the time goes into programs that are started.
    '--maxWorkers=2',
    '--json',
    `--outputFile=${report}`,
    '--colors=false',
  ],
  { stdio: 'inherit' },
);
if (!existsSync(report)) process.exit(1);
const { numPassedTests, numFailedTests, numFailedTestSuites, success } = JSON.parse(readFileSync(report, 'utf8'));
if (numFailedTestSuites > 0 && numFailedTests === 0) console.log(`${numFailedTestSuites} test files could not run.`);
console.log(`${numPassedTests} passed, ${numFailedTests} failed`);
process.exitCode = jest.status === 0 && success && numPassedTests > 0 ? 0 : 1;
