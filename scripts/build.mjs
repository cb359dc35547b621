// Compiles src/ to dist/ from scratch, and makes the command executable.
import { spawnSync } from 'node:child_process';
import { chmodSync, rmSync } from 'node:fs';

rmSync('dist', { recursive: true, force: true });
const { status } = spawnSync(process.execPath, ['node_modules/typescript/bin/tsc', '-p', 'tsconfig.json'], {
  stdio: 'inherit',
});
if (status === 0) chmodSync('dist/cli/bin.js', 0o755);
process.exitCode = status ?? 1;
