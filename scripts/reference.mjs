// Writes docs/reference.md from the program's own help and its catalogue of findings, docs/layout.md from the table
// of what CSS becomes, and docs/engines.md from that of engines. `node scripts/reference.mjs`
// With --check it writes nothing and fails where a page is not what it should be.
import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { Command } from 'commander';
import { commands as entries } from '../dist/cli/commands/commands.js';
import { catalogue } from '../dist/core/index.js';
import { filters } from '../dist/core/expressions/filters.js';
import { dialectSchema } from '../dist/core/dialects/file/dialect-schema.js';
import { configSchema } from '../dist/project/config/config-schema.js';
import { boxKinds, matrix } from '../dist/core/layout/account/matrix.js';
import { engineNames } from '../dist/core/engines/engine.js';
import { readEngines } from '../dist/core/engines/read-engines.js';
import { SourceText } from '../dist/core/text/source-text.js';
import { carriedCss, unsupportedRules } from '../dist/core/layout/account/support.js';

/** The names of all commands, as the program defines them; of a group its subcommands. */
const program = new Command();
const nothing = () => undefined;
for (const { load } of entries) (await load()).define(program, { io: null, common: nothing, finish: nothing });
const commands = program.commands.flatMap((command) =>
  command.commands.length === 0
    ? [command.name()]
    : command.commands.map((inner) => `${command.name()} ${inner.name()}`),
);

function help(...words) {
  return spawnSync(process.execPath, ['dist/program/inscriba.js', ...words, '--help'], {
    encoding: 'utf8',
    env: { ...process.env, COLUMNS: '100' },
  }).stdout.trim();
}

/** The keys of a group, each with what it is for. */
function configRows({ keys = {} }, path) {
  return Object.entries(keys)
    .flatMap(([key, description]) => {
      const at = `${path}${key}`;
      const needed = description.flags?.presence === 'required' ? ' (needed)' : '';
      const inner = description.patterns?.[0]?.rule ?? description.items?.[0] ?? description;
      const group = description.patterns ? `${at}.<name>.` : description.items ? `${at}[].` : `${at}.`;
      const own = `| \`${at}\` | ${cell(description.flags?.description ?? '')}${needed} |`;
      return inner.keys === undefined ? [own] : [own, configRows(inner, group)];
    })
    .join('\n');
}

/** The keys of a dialect file; those of groups whose keys speak for themselves stand in one line. */
function dialectRows({ keys }) {
  return Object.entries(keys)
    .filter(([, { flags }]) => flags?.description !== undefined)
    .map(([key, { flags, keys: inner = {} }]) => {
      const needed = flags.presence === 'required' ? ' (needed)' : '';
      const names = Object.keys(inner);
      const within = names.length === 0 ? '' : `: ${names.map((name) => `\`${name}\``).join(', ')}`;
      return `| \`${key}\` | ${cell(flags.description)}${needed}${within} |`;
    })
    .join('\n');
}

const cell = (text) => text.replaceAll('|', '\\|').replaceAll('<', '&lt;');

const text = `# Reference

This page is made by \`node scripts/reference.mjs\` from the program itself.

## Commands

\`\`\`
${help()}
\`\`\`
${commands.map((command) => `\n### ${command}\n\n\`\`\`\n${help(...command.split(' '))}\n\`\`\`\n`).join('')}
## inscriba.yaml

| key | holds |
| --- | --- |
${configRows(configSchema.describe(), '')}

## Dialect files

What each key means, with examples, is in [dialects.md](dialects.md).

| key | holds |
| --- | --- |
${dialectRows(dialectSchema.describe())}

## Filters

Filters of build values, \`$\{path | filter "parameter"}\`. In merge tags stand those that
the dialect of the platform has: \`inscriba dialect show\` lists them.

| filter | parameter | gives |
| --- | --- | --- |
${[...filters].map(([name, { parameter, says }]) => `| ${name} | ${parameter === null ? '' : `\`${parameter}\``} | ${cell(says)} |`).join('\n')}

## Exit codes

| code | meaning |
| --- | --- |
| 0 | done |
| 1 | done, but findings of severity error |
| 2 | wrong usage or configuration |
| 3 | a service outside failed; a second run goes on where this one ended |
| 70 | a defect of Inscriba itself |
| 130 | stopped with Ctrl-C |

## Findings

\`{name}\` stands for what the finding is about. Findings marked "usage" end with 2, those marked "service" with 3.

| finding | severity | what it says | what to do |
| --- | --- | --- | --- |
${Object.entries(catalogue)
  .map(
    ([code, entry]) =>
      `| ${code} | ${entry.severity}${entry.usage ? ', usage' : ''}${entry.service ? ', service' : ''} | ${cell(entry.reason)} | ${cell(entry.fix)} |`,
  )
  .join('\n')}
`;

const unsupported = (verdict) =>
  unsupportedRules
    .filter((rule) => rule.verdict === verdict)
    .map(
      ({ shown, advice }) =>
        `| ${cell(shown)} | ${cell(advice === '' ? 'Nothing has to be done: the layout stays.' : advice)} |`,
    )
    .join('\n');

const signs = { carried: '●', 'by value': '◐', 'without effect': '', 'left out': '○', refused: '✕' };

/** `border-top-width`, `border-right-width` … as `border`: the names that people write. */
const written = (properties) => [...new Set(properties.map(shortName))].map((name) => `\`${name}\``).join(', ');
const shortName = (name) =>
  name
    .replace(/^border-(?:top|right|bottom|left)-(?:width|style|color)$/, 'border')
    .replace(/^border-.*-radius$/, 'border-radius')
    .replace(/^padding-.*/, 'padding');

const layout = `# What CSS becomes

This page is made by \`node scripts/reference.mjs\` from the table that the compiler's findings come from.

## What is carried over

| CSS | what it becomes |
| --- | --- |
${carriedCss.map(([css, becomes]) => `| ${cell(css)} | ${cell(becomes)} |`).join('\n')}

## Every property on every kind of box

● carried; ◐ carried or refused, as its value and what stands around ask for; ○ left out, with a note; ✕ refused where it
does something; empty where it does nothing on such a box. An element can be of several kinds: a block that is an item of a
row. What a kind of box gets and no part of the compiler writes is refused: nothing goes without a word.

| property | ${boxKinds.join(' | ')} |
| --- |${boxKinds.map(() => ' :-: |').join('')}
${matrix.map(({ properties, ends }) => `| ${written(properties)} | ${boxKinds.map((kind) => signs[ends[kind]]).join(' | ')} |`).join('\n')}

## What has no equal in tables

Each is an error at the declaration: the geometry would be another one.

| CSS | what to write instead |
| --- | --- |
${unsupported('refused')}

## What is left out

Each is a note: decoration that few mail clients show.

| CSS | what to do |
| --- | --- |
${unsupported('lost')}
| any other property that is not listed here | Remove it, or accept that it is left out. |

Rows and grids have rules of their own: a width that follows from several long texts, a column that its content would push
wider, columns with borders that grow by different weights, two columns of items beside one over several rows of a grid, and a height that the content
runs over are errors that say what to write. \`inscriba prove\` compares what you wrote with what it became, in a browser.
`;

const supportSigns = { yes: '●', partly: '◐', no: '✕', 'drops-the-rule': '✕ rule', 'drops-the-sheet': '✕ sheet' };
const table = readEngines(new SourceText('data/engines.yaml', readFileSync('data/engines.yaml', 'utf8'))).features;

const engines = `# What engines make of features

This page is made by \`node scripts/reference.mjs\` from \`data/engines.yaml\`, the table by which \`inscriba check\` and the views of
\`inscriba preview\` judge. An engine is a family of mail programs that show pages alike: \`word\` lays out as a word processor
does, \`strict-webmail\` drops the head, \`webmail\` renames classes and keeps style sheets, \`app\` is a program of a phone,
\`webkit\` a browser that knows nearly everything.

● yes; ◐ partly; ✕ no; ✕ rule: the style rule that holds it is lost with it; ✕ sheet: the whole style element is. What is lost where it
does not work: content (something cannot be read, seen or clicked), layout (it stands elsewhere) or look (it looks plainer). What the
compiler writes by itself has its fallbacks beside it.
${[...new Set(table.map(({ kind }) => kind))]
  .map(
    (kind) => `
## ${kind[0].toUpperCase()}${kind.slice(1)}

| feature | ${engineNames.join(' | ')} | lost | what happens | what to write instead |
| --- |${engineNames.map(() => ' :-: |').join('')} --- | --- | --- |
${table
  .filter((feature) => feature.kind === kind)
  .map(
    ({ name, support, harm, happens, instead }) =>
      `| \`${cell(name)}\` | ${engineNames.map((engine) => supportSigns[support[engine]]).join(' | ')} | ${harm} | ${cell(happens)} | ${cell(instead)} |`,
  )
  .join('\n')}
`,
  )
  .join('')}`;

for (const [page, content] of [
  ['docs/reference.md', text],
  ['docs/layout.md', layout],
  ['docs/engines.md', engines],
]) {
  if (!process.argv.includes('--check')) writeFileSync(page, content);
  else if (readFileSync(page, 'utf8') !== content) {
    console.error(`${page} is out of date; run node scripts/reference.mjs.`);
    process.exitCode = 1;
  }
}
