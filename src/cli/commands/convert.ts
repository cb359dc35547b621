import { projectFolderOf } from '../../project/files/project-folder.js';
import { join, resolve } from 'node:path';
import { textWidth } from '../../core/text/text-width.js';
import { exitCodeOf, finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import { parseHtml } from '../../core/html/parse.js';
import {
  conversionJson,
  conversionPage,
  verdictCounts,
  type ConvertedFile,
} from '../../core/dialects/convert/conversion-report.js';
import { neutralDialect, platformFieldName, type Dialect } from '../../core/dialects/dialect.js';
import { footerModes } from '../../core/dialects/convert/footer.js';
import type { MergeField } from '../../core/dialects/model.js';
import { tagRoles } from '../../core/dialects/tag-role.js';
import { plainText } from '../../core/plaintext/plain-text.js';
import { sampleRecipient } from '../../core/dialects/sample/fill-sample.js';
import { sampleAnswers } from '../../core/dialects/sample/sample-answers.js';
import { SourceText } from '../../core/text/source-text.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { exists } from '../../project/files/exists.js';
import { fieldQuestions, readFieldMap } from '../../project/config/field-map.js';
import { readTextFile } from '../../project/files/text-file.js';
import { writeWhole } from '../../project/files/write-file.js';
import { allDialects } from '../../project/config/dialects.js';
import { chosenDialect } from '../../core/dialects/convert/choose-dialect.js';
import { convert as convertHtml } from '../../core/library/convert.js';
import type { DocumentConversion } from '../../core/dialects/convert/convert-document.js';
import { planOutputs, readInputFile, writeOutputs } from '../output/file-outputs.js';
import type { Io } from '../io/io.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import { command, flag, needed, oneOfOr, text, textOr, words, type CommonOptions, type Told } from '../io/command.js';

const options = {
  to: needed('--to <dialect>', 'the dialect to write'),
  from: textOr('auto', '--from <dialect>', 'the dialect to read; auto finds it by its tags'),
  out: text('--out <path>', 'the output file, or the folder for several (default: standard output)'),
  report: text(
    '--report <file>',
    'write what became of each tag: as a page where the name ends in .html, else as JSON',
  ),
  fields: text(
    '--fields <file>',
    'a YAML file with the platform’s names of fields; where it is not there it is written, to be filled in',
  ),
  footer: oneOfOr(
    'keep',
    footerModes,
    '--footer <mode>',
    'the footer: keep it, replace it, add it where the target asks for more, or strip it',
  ),
  allowLoss: flag(
    '--allow-loss',
    'write also what the other cannot say in full: the sample recipient decides what stands instead',
  ),
};

type ConvertOptions = Told<typeof options> & CommonOptions & { readonly files: readonly string[] };

/** `convert`. */
export const convert = command({
  name: 'convert',
  description:
    'Converts the merge tags of finished HTML from one platform’s dialect to another’s. Every byte outside of them stays; what the other cannot say is told at its place, and then nothing is written.',
  arguments: { files: words('<file.html...>', 'files; - reads standard input') },
  options,
  examples: [
    'inscriba convert out/members/repair-day/index.html --to ferrywire --out converted.html',
    'inscriba convert exported.html --from bellmoor --to neutral --report tags.json',
  ],
  run,
});

async function run(options: ConvertOptions, io: Io): Promise<number> {
  const { plan, findings } = await planOutputs(options.files, options.out, io, (name) => name);
  const report = (item: Finding): unknown => findings.push(item);
  const dialects = await allDialects(io.folder, report);
  const config = await projectConfig(io, report);
  const target = chosenDialect(options.to, dialects, report);
  const from = options.from === 'auto' ? null : chosenDialect(options.from, dialects, report);
  const wanted = target === null ? null : await targetFor(target, config, options, io, report);
  if (wanted === null || findings.some(isError)) return finish(findings, [], options, io);
  const footer = config === null ? null : await projectFooter(config, report);
  const converted: ConvertedFile[] = [];
  const texts: string[] = [];
  for (const input of options.files) {
    const file = await readInputFile(input, io, report);
    if (file === null) continue;
    const { source } = file;
    const known = from === null ? {} : { from };
    const setting = { ...wanted, ...known, dialects, footer: options.footer, footerTexts: footer };
    const { value: result, findings: said } = convertHtml(source, setting);
    findings.push(...said);
    if (result === null) continue;
    converted.push({ file: input, source, ...result });
    if (result.text !== null) texts.push(file.hasByteOrderMark ? `\ufeff${result.text}` : result.text);
  }
  await writeReport(converted, options, io, report);
  await askForFields(converted, wanted.to, options, io, report);
  // Where one file is refused, none is written.
  if (texts.length === options.files.length && !findings.some(isError))
    findings.push(...(await writeOutputs(texts, plan, io)));
  return finish(findings, converted, options, io);
}

/** The target, the fields and what stands for losses, as the project and the file of field names have them. */
async function targetFor(
  target: Dialect,
  config: Config | null,
  options: ConvertOptions,
  io: Io,
  report: Report,
): Promise<Pick<DocumentConversion, 'to' | 'fields' | 'answers'>> {
  const fields = new Map<string, MergeField>(config?.fields ?? []);
  let to = target;
  const path = options.fields === null ? null : resolve(io.folder, options.fields);
  if (path !== null && options.fields !== null && (await exists(path))) {
    const { map, findings: problems } = await readFieldMap(path, options.fields);
    problems.forEach(report);
    to = { ...target, fieldNames: { ...target.fieldNames, ...(map?.names ?? {}) } };
    for (const [name, shape] of map?.shapes ?? [])
      fields.set(name, { sample: undefined, fallback: null, ...fields.get(name), ...shape });
  }
  const system = {
    company: config?.sender?.company ?? '',
    postalAddress: config?.sender?.postalAddress ?? '',
    year: new Date().getFullYear(),
    unsubscribe: null,
  };
  const answers = options.allowLoss ? sampleAnswers(sampleRecipient(fields, system, 'en')) : null;
  return { to, fields, answers };
}

/** The footer that the project has for finished HTML; null where it names none. */
async function projectFooter({ folder, footer }: Config, report: Report): Promise<DocumentConversion['footer']> {
  if (footer === null) return null;
  const file = await readTextFile(join(folder, footer.path), footer.path, (problem) =>
    report({ ...problem, place: footer.place }),
  );
  if (file === null) return null;
  const html = file.source.text.trim();
  const { doc } = parseHtml(new SourceText(footer.path, html), neutralDialect.delimiters);
  const text = plainText(doc, {
    width: 72,
    links: 'notes',
    measure: textWidth,
    tagRole: tagRoles([neutralDialect]),
  });
  return { texts: { html, text: text.trim() }, name: footer.path };
}

/** The configuration of the project around; null where there is none. */
async function projectConfig(io: Io, report: Report): Promise<Config | null> {
  const folder = await projectFolderOf(io.folder);
  if (folder === null) return null;
  const { config, findings: problems } = await loadConfig(folder);
  problems.forEach(report);
  return config;
}

async function writeReport(
  converted: readonly ConvertedFile[],
  { report: path, from, to }: ConvertOptions,
  io: Io,
  report: Report,
): Promise<void> {
  if (path === null) return;
  const isPage = /\.html?$/i.test(path);
  const text = isPage
    ? conversionPage(converted, from === 'auto' ? 'the dialect found' : from, to)
    : conversionJson(converted);
  const problem = await writeWhole(resolve(io.folder, path), text, path);
  if (problem !== null) report(problem);
}

/** Writes the file that asks how fields are called, where it is not there yet. */
async function askForFields(
  converted: readonly ConvertedFile[],
  to: Dialect,
  options: ConvertOptions,
  io: Io,
  report: Report,
): Promise<void> {
  if (options.fields === null) return;
  const path = resolve(io.folder, options.fields);
  if (await exists(path)) return;
  const used = [...new Set(converted.flatMap(({ fields }) => fields))].sort();
  const open = used.filter((name) => to.fieldNames[name] === undefined);
  const names = Object.fromEntries(open.map((name) => [name, platformFieldName(to, name)]));
  const problem = await writeWhole(path, fieldQuestions(names, to.title), options.fields);
  report(
    problem ?? finding('fields-asked', null, { path: options.fields, count: String(open.length), dialect: to.title }),
  );
}

function finish(
  findings: readonly Finding[],
  converted: readonly ConvertedFile[],
  options: CommonOptions,
  io: Io,
): number {
  printFindings(findings, io, options.color);
  if (!options.quiet) for (const { file, tags } of converted) io.err(`${file}: ${verdictCounts(tags)}\n`);
  if (!options.quiet && findings.some(isError)) io.err(`${countFindings(findings)}. Nothing was written.\n`);
  return exitCodeOf(findings);
}
