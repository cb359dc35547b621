// Takes what npm writes about funding out of the lock file: it holds addresses of hosts, and pins nothing.
import { readFileSync, writeFileSync } from 'node:fs';

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'));
for (const entry of Object.values(lock.packages)) {
  delete entry.funding;
  if (typeof entry.deprecated === 'string' && entry.deprecated.includes('://')) delete entry.deprecated;
}
writeFileSync('package-lock.json', `${JSON.stringify(lock, null, 2)}\n`);
