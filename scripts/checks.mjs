// Writes the lists of the rules of the check, from the files that declare them: src/core/check/all-rules.ts and rule-codes.ts,
// and docs/checks.md. With --check it says what is out of date instead; with --lists it leaves the document alone.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { format, resolveConfig } from 'prettier';

const isCheck = process.argv.includes('--check');
const folder = 'src/core/check/rules';
const codes = readdirSync(folder)
  .map((file) => file.replace(/\.ts$/, ''))
  .sort();

const nameOf = (code) => code.replace(/-(\w)/g, (_, letter) => letter.toUpperCase());

const head = '// Written by scripts/checks.mjs from the files of rules/.\n';

const allRules = `${head}import type { Rule } from './facts/rule.js';
${codes.map((code) => `import { ${nameOf(code)} } from './rules/${code}.js';`).join('\n')}

/** Every rule of the check, by its code. */
export const allRules: readonly Rule[] = [${codes.map(nameOf).join(', ')}];
`;

const ruleCodes = `${head}/** The codes of all rules of the check. */
export const ruleCodes: readonly string[] = [${codes.map((code) => `'${code}'`).join(', ')}];
`;

let isOld = false;

async function write(path, content) {
  const text = await format(content, { ...(await resolveConfig(path)), filepath: path });
  const before = existsSync(path) ? readFileSync(path, 'utf8') : '';
  if (before === text) return;
  isOld = true;
  if (isCheck) console.error(`${path} is out of date: run node scripts/checks.mjs.`);
  else writeFileSync(path, text);
}

async function document() {
  const { allRules: rules } = await import('../dist/core/check/all-rules.js');
  const { groups } = await import('../dist/core/check/facts/rule.js');
  const written = (example) => (typeof example === 'string' ? example : example.html);
  const shown = (example) => written(example).replace(/(.{1,40}?)\1{4,}/gs, '$1 …');
  // Tags and holes of sentences are no markup of this page.
  const prose = (text) => text.replace(/<[^<>]+>|@?\{[^{}]*\}/g, (code) => `\`${code}\``);
  const rule = ({ code, severity, sentence, remedy, why, bad, good, needs }) =>
    `### ${code}\n\n**${severity}**${needs.includes('finished') ? ', finished HTML alone' : ''}. ${prose(sentence)}. ${prose(why)}\n\n${prose(remedy)}\n\n\`\`\`html\n<!-- wrong -->\n${shown(bad)}\n<!-- right -->\n${shown(good)}\n\`\`\`\n`;
  const parts = groups.map((group) => {
    const own = rules.filter((item) => item.group === group);
    return `## ${group[0].toUpperCase()}${group.slice(1)}\n\n${own.map(rule).join('\n')}`;
  });
  const index = groups.map((group) => {
    const own = rules.filter((item) => item.group === group);
    return `- **${group}**: ${own.map(({ code }) => `[${code}](#${code})`).join(', ')}`;
  });
  return `# The rules of the check

<!-- Written by scripts/checks.mjs from the files of src/core/check/rules/. -->

\`inscriba check\` and \`inscriba build\` look at pages by these ${rules.length} rules, beside what a build says by itself ([reference](reference.md)). Any of them can be set to \`error\`, \`warning\`, \`note\` or \`off\` in \`inscriba.yaml\`, or be accepted where it stands: [the guide](check.md) says how.

${index.join('\n')}

${parts.join('\n')}`;
}

await write('src/core/check/all-rules.ts', allRules);
await write('src/core/check/rule-codes.ts', ruleCodes);
if (!process.argv.includes('--lists')) await write('docs/checks.md', await document());
process.exitCode = isCheck && isOld ? 1 : 0;
