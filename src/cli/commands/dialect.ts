import { projectFolderOf } from '../../project/files/project-folder.js';
import { basename, resolve } from 'node:path';
import { textWidth } from '../../core/text/text-width.js';
import { adviceForName, exitCodeOf, finding, type Finding } from '../../core/findings/finding.js';
import { draftDialect } from '../../core/dialects/learn/draft-dialect.js';
import { learnDialect } from '../../core/dialects/learn/learn-dialect.js';
import { dialectAbilities } from '../../core/dialects/file/describe-dialect.js';
import { platformFieldName, type Dialect, type PackageShape } from '../../core/dialects/dialect.js';
import { nearestName } from '../../core/text/nearest.js';
import type { SourceText } from '../../core/text/source-text.js';
import { dialectNames, isOwnDialect, loadDialect, loadDialectFile } from '../../project/config/dialects.js';
import type { DialectResult } from '../../core/dialects/file/read-dialect.js';
import { failedSamples } from '../../core/dialects/file/prove-dialect.js';
import { proofFindings } from '../../project/check/prove-dialect-file.js';
import { readDialect } from '../../core/library/dialect.js';
import { exists } from '../../project/files/exists.js';
import { writeWhole } from '../../project/files/write-file.js';
import { readInputFile } from '../output/file-outputs.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { command, group, text, word, words, type CommonOptions, type Told } from '../io/command.js';
import { counted } from '../../core/text/amounts.js';

const learnOptions = {
  name: text('--name <name>', 'the name of the dialect (default: that of the output file)'),
  out: text('--out <file>', 'the dialect file to write (default: standard output)'),
};

type LearnOptions = Told<typeof learnOptions> & CommonOptions & { readonly files: readonly string[] };

/** `dialect`. */
export const dialect = group({
  name: 'dialect',
  description: 'Shows what the platforms of dialect files can say, and proves the files by their samples.',
  commands: [
    command({
      name: 'list',
      summary: 'the dialects at hand',
      description: 'Lists the dialects that ship and those of the project.',
      examples: ['inscriba dialect list', 'inscriba dialect list --no-color'],
      run: listDialects,
    }),
    command({
      name: 'show',
      summary: 'what a platform can and cannot say',
      description: 'Shows each thing that a message may say, and how the dialect says it.',
      arguments: { name: word('<name>', 'the name of a dialect, or its file') },
      examples: ['inscriba dialect show bellmoor', 'inscriba dialect show dialects/ours.yaml'],
      run: showDialect,
    }),
    command({
      name: 'learn',
      summary: 'draft a dialect file from exported HTML',
      description:
        'Finds in files that a platform exported how it delimits its tags, which names it has and how its blocks are written, and drafts a dialect file.',
      arguments: { files: words('<file.html...>', 'exported files; the more, the better') },
      options: learnOptions,
      examples: [
        'inscriba dialect learn export-1.html export-2.html --out dialects/ours.yaml',
        'inscriba dialect learn exported.html --name ours',
      ],
      run: learnDialectFile,
    }),
    command({
      name: 'check',
      summary: 'prove dialect files by their samples',
      description: 'Writes and reads the samples of dialect files, and tells which come out otherwise.',
      arguments: { names: words('[name...]', 'names of dialects, or files; all where none is given') },
      examples: ['inscriba dialect check', 'inscriba dialect check dialects/ours.yaml'],
      run: checkDialects,
    }),
  ],
});

/** `dialect list`. */
async function listDialects(options: CommonOptions, io: Io): Promise<number> {
  const folder = (await projectFolderOf(io.folder)) ?? io.folder;
  const findings: Finding[] = [];
  const names = (await dialectNames(folder)).sort();
  const width = Math.max(...names.map((name) => name.length)) + 2;
  for (const name of names) {
    const { dialect, findings: problems } = await loadDialect(name, folder);
    const isOwn = await isOwnDialect(name, folder);
    findings.push(...problems);
    io.out(`${name.padEnd(width)}${dialect?.title ?? 'cannot be read'}${isOwn ? '  (of this project)' : ''}\n`);
  }
  printFindings(findings, io, options.color);
  return exitCodeOf(findings);
}

/** `dialect show`. */
async function showDialect({ name, ...options }: CommonOptions & { readonly name: string }, io: Io): Promise<number> {
  const { dialect, findings } = await loadNamed(name, io);
  printFindings(findings, io, options.color);
  if (dialect === null) return exitCodeOf(findings);
  const abilities = dialectAbilities(dialect);
  const pad = (text: string, width: number): string => text + ' '.repeat(Math.max(0, width - textWidth(text)));
  const widest = (texts: readonly string[]): number => Math.max(...texts.map((text) => textWidth(text))) + 2;
  const widths = [widest(abilities.map(({ what }) => what)), widest(abilities.map(({ neutral }) => neutral))] as const;
  io.out(`${dialect.title}\n\n`);
  for (const { what, neutral, written, isExact } of abilities)
    io.out(
      `${pad(what, widths[0])}${pad(neutral, widths[1])}${isExact || written === null ? '' : '≈ '}${written ?? '—'}\n`,
    );
  const names = Object.entries(dialect.fieldNames).map(([neutral, own]) => `${neutral} is ${own}`);
  const facts = [
    packageFact(dialect),
    dialect.required.length === 0
      ? 'It needs no system value.'
      : `It refuses a message without ${dialect.required.map((key) => `@{${key}}`).join(' and ')}.`,
    dialect.webFonts ? 'It takes web fonts.' : 'It refuses web fonts.',
    names.length === 0 ? null : `Names of its own: ${names.join(', ')}.`,
    dialect.fieldCase === 'as-is'
      ? null
      : `All other names are written as in ${platformFieldName({ ...dialect, fieldNames: {} }, 'first_name')}.`,
    abilities.some(({ isExact, written }) => !isExact && written !== null)
      ? '≈ marks what it says in other words, which a conversion reports as rewritten.'
      : null,
    '— marks what it cannot say: such a tag is an error at its place.',
  ].filter((fact) => fact !== null);
  io.out(`\n${facts.join('\n')}\n`);
  return 0;
}

/** What its packages are, in a sentence. */
function packageFact({ package: shape }: Dialect): string {
  if (shape === null) return 'It describes no package: name a shape with inscriba pack --shape.';
  const files = [shape.html, shape.css, shape.text].filter((file) => file !== undefined);
  return `It imports ${shapeWords[shape.shape]}${files.length === 0 ? '' : ` (${files.join(', ')})`}.`;
}

const shapeWords: Readonly<Record<PackageShape['shape'], string>> = {
  zip: 'a zip',
  folder: 'files in a folder',
  split: 'style sheet and body apart',
  single: 'one file of HTML',
  eml: 'a mail',
};

/** `dialect check`. */
async function checkDialects(
  { names: given, ...options }: CommonOptions & { readonly names: readonly string[] },
  io: Io,
): Promise<number> {
  const folder = (await projectFolderOf(io.folder)) ?? io.folder;
  const names = given.length === 0 ? await dialectNames(folder) : given;
  const findings: Finding[] = [];
  for (const name of names) {
    const loaded = await loadNamed(name, io);
    const wrong = loaded.dialect === null ? loaded.findings : proofFindings(loaded);
    findings.push(...wrong);
    if (wrong.length === 0 && loaded.dialect !== null && !options.quiet)
      io.err(`${name}: ${provedBy(loaded.dialect)}\n`);
  }
  printFindings(findings, io, options.color);
  return exitCodeOf(findings);
}

/** "5 samples, written and read as they say; 7 exchanges, made as they were recorded". */
function provedBy({ samples, exchanges }: Dialect): string {
  const made = exchanges.length === 0 ? '' : `; ${counted(exchanges.length, 'exchange')}, made as they were recorded`;
  return `${counted(samples.length, 'sample')}, written and read as they say${made}`;
}

/** A dialect by its name, or by the path of a file. */
async function loadNamed(word: string, io: Io): Promise<DialectResult> {
  if (/\.ya?ml$/.test(word)) return loadDialectFile(resolve(io.folder, word), word);
  const folder = (await projectFolderOf(io.folder)) ?? io.folder;
  const known = await dialectNames(folder);
  if (known.includes(word)) return loadDialect(word, folder);
  const advice = adviceForName(nearestName(word, known), known, '');
  return { dialect: null, findings: [finding('unknown-dialect', null, { name: word, advice })] };
}

/** `dialect learn`. */
async function learnDialectFile(options: LearnOptions, io: Io): Promise<number> {
  const findings: Finding[] = [];
  const sources: SourceText[] = [];
  for (const input of options.files) {
    const file = await readInputFile(input, io, (item) => findings.push(item));
    if (file !== null) sources.push(file.source);
  }
  const learned = findings.length > 0 ? null : learnDialect(sources);
  if (learned === null && findings.length === 0) findings.push(finding('learn-nothing', null, {}));
  if (learned === null) {
    printFindings(findings, io, options.color);
    return exitCodeOf(findings);
  }
  const fromFile = options.out === null ? null : basename(options.out).replace(/\.ya?ml$/, '');
  const text = provenDraft(draftDialect(options.name ?? fromFile ?? 'learned', learned));
  if (text === null) {
    const { open, close } = learned.delimiters;
    findings.push(finding('learn-unproven', null, { open, close }));
    printFindings(findings, io, options.color);
    return exitCodeOf(findings);
  }
  if (options.out === null) io.out(text);
  else {
    const path = resolve(io.folder, options.out);
    const problem = (await exists(path))
      ? finding('new-exists', null, { path: options.out })
      : await writeWhole(path, text, options.out);
    if (problem !== null) findings.push(problem);
  }
  printFindings(findings, io, options.color);
  if (!options.quiet && findings.length === 0) {
    const { delimiters, names, blocks } = learned;
    const kinds = [blocks.if === null ? '' : 'conditions', blocks.each === null ? '' : 'loops'].filter(
      (kind) => kind !== '',
    );
    const found = [counted(names.length, 'name'), ...kinds].join(', ');
    io.err(`${delimiters.count} tags between ${delimiters.open} and ${delimiters.close}: ${found}\n`);
    if (options.out !== null)
      io.err(`wrote ${options.out}\n\nFill in its blanks, then: inscriba dialect check ${options.out}\n`);
  }
  return exitCodeOf(findings);
}

/**
 * A draft without the samples that do not hold: what they guessed is left to a person. Null where not even the first holds,
 * a field in a sentence: then what was taken for tags are none.
 */
function provenDraft(draft: string): string | null {
  const { value: dialect } = readDialect({ name: 'draft', text: draft });
  if (dialect === null) return null;
  const failed = new Set(failedSamples(dialect).map(({ sample }) => dialect.samples.indexOf(sample)));
  if (dialect.samples.length === 0 || failed.has(0)) return null;
  let index = -1;
  const lines = draft.split('\n').filter((line) => {
    if (!line.startsWith('  - { neutral: ')) return true;
    index += 1;
    return !failed.has(index);
  });
  return lines.join('\n');
}
