// Installs the packages of package-lock.json, unless node_modules holds exactly those already.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';

const mark = 'node_modules/.installed';
const digest = createHash('sha256').update(readFileSync('package-lock.json')).update(process.version).digest('hex');
const installed = existsSync(mark) && readFileSync(mark, 'utf8') === digest;
if (!installed) {
  console.log('Installing packages…');
  const { status } = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
  writeFileSync(mark, digest);
}
