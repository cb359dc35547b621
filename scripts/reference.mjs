// Writes docs/reference.md from the program's own help and its catalogue of findings. `node scripts/reference.mjs`
// With --check it writes nothing and fails where the page is not what it should be.
import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { catalogue } from '../dist/core/index.js';

const page = 'docs/reference.md';
const commands = ['build', 'pack', 'inline', 'text', 'demo'];

function help(...words) {
  return spawnSync(process.execPath, ['dist/cli/bin.js', ...words, '--help'], {
    encoding: 'utf8',
    env: { ...process.env, COLUMNS: '100' },
  }).stdout.trim();
}

const cell = (text) => text.replaceAll('|', '\\|').replaceAll('<', '&lt;');

const text = `# Reference

This page is made by \`node scripts/reference.mjs\` from the program itself.

## Commands

\`\`\`
${help()}
\`\`\`
${commands.map((command) => `\n### ${command}\n\n\`\`\`\n${help(command)}\n\`\`\`\n`).join('')}
## Exit codes

| code | meaning |
| --- | --- |
| 0 | done |
| 1 | done, but findings of severity error |
| 2 | wrong usage or configuration |
| 70 | a defect of Inscriba itself |
| 130 | stopped with Ctrl-C |

## Findings

\`{name}\` stands for what the finding is about. Findings marked "usage" end with 2.

| finding | severity | what it says | what to do |
| --- | --- | --- | --- |
${Object.entries(catalogue)
  .map(
    ([code, entry]) =>
      `| ${code} | ${entry.severity}${entry.usage ? ', usage' : ''} | ${cell(entry.reason)} | ${cell(entry.fix)} |`,
  )
  .join('\n')}
`;

if (process.argv.includes('--check')) {
  if (readFileSync(page, 'utf8') !== text) {
    console.error(`${page} is out of date; run node scripts/reference.mjs.`);
    process.exitCode = 1;
  }
} else writeFileSync(page, text);
