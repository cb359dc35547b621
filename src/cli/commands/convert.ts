import { join, resolve } from 'node:path';
import { textWidth } from '../../project/build/text-width.js';
import { exitCodeOf, finding, isError, type Finding } from '../../core/findings/finding.js';
import { parseHtml } from '../../core/html/parse.js';
import {
  conversionJson,
  conversionPage,
  verdictCounts,
  type ConvertedFile,
} from '../../core/dialects/convert/conversion-report.js';
import { convertTags, readTags, type ConversionSetting } from '../../core/dialects/convert/convert-tags.js';
import { neutralDialect, platformFieldName, type Dialect, type FooterTexts } from '../../core/dialects/dialect.js';
import {
  footerEdits,
  isHtml,
  missingSystemValues,
  usualFooter,
  footerModes,
  type FooterMode,
} from '../../core/dialects/convert/footer.js';
import { systemValues, type MergeField, type MergeFields } from '../../core/dialects/model.js';
import { isTakenOut } from '../../core/dialects/convert/source-edit.js';
import type { LossAnswers } from '../../core/dialects/write/write-tags.js';
import { tagRoles } from '../../core/dialects/tag-role.js';
import { plainText } from '../../core/plaintext/plain-text.js';
import { convertRegions, type RegionLoss } from '../../core/dialects/convert/convert-regions.js';
import { sampleRecipient } from '../../core/dialects/sample/fill-sample.js';
import { sampleAnswers } from '../../core/dialects/sample/sample-answers.js';
import { SourceText } from '../../core/text/source-text.js';
import { loadConfig, projectFolderOf, type Config } from '../../project/config/config.js';
import { exists } from '../../project/files/exists.js';
import { fieldQuestions, readFieldMap } from '../../project/config/field-map.js';
import { readTextFile } from '../../project/files/text-file.js';
import { writeWhole } from '../../project/files/write-file.js';
import { allDialects, chosenDialect, recognizedDialect } from '../output/choose-dialect.js';
import { planOutputs, readInputFile, writeOutputs } from '../output/file-outputs.js';
import type { Io } from '../io/io.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import { command, flag, needed, oneOfOr, text, textOr, words, type CommonOptions, type Told } from '../command.js';

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

/** What all files are converted with. */
interface Setting {
  readonly to: Dialect;
  readonly dialects: readonly Dialect[];
  readonly fields: MergeFields;
  readonly answers: LossAnswers | null;
  /** The footer to put in, in the neutral notation. */
  readonly footer: FooterTexts;
  /** What findings call it. */
  readonly footerName: string;
  readonly mode: FooterMode;
}

async function run(options: ConvertOptions, io: Io): Promise<number> {
  const { plan, findings } = await planOutputs(options.files, options.out, io, (name) => name);
  const dialects = await allDialects(io, findings);
  const config = await projectConfig(io, findings);
  const target = chosenDialect(options.to, dialects, findings);
  const from = options.from === 'auto' ? null : chosenDialect(options.from, dialects, findings);
  const setting = target === null ? null : await settingFor(target, dialects, config, options, io, findings);
  if (setting === null || findings.some(isError)) return finish(findings, [], options, io);
  const converted: ConvertedFile[] = [];
  const texts: string[] = [];
  for (const input of options.files) {
    const { file, finding: unreadable } = await readInputFile(input, io);
    if (file === null) {
      findings.push(unreadable);
      continue;
    }
    const { source } = file;
    const own = from ?? recognizedDialect(source, dialects, findings);
    if (own === null) continue;
    const result = convertFile(source, own, setting, (item) => findings.push(item));
    converted.push({ file: input, source, ...result });
    if (result.text !== null) texts.push(file.hasByteOrderMark ? `\ufeff${result.text}` : result.text);
  }
  await writeReport(converted, options, io, findings);
  await askForFields(converted, setting, options, io, findings);
  // Where one file is refused, none is written.
  if (texts.length === options.files.length && !findings.some(isError))
    findings.push(...(await writeOutputs(texts, plan, io)));
  return finish(findings, converted, options, io);
}

type Converted = Omit<ConvertedFile, 'file' | 'source'>;

/** Converts one file: its footer as it was asked for, and then its tags. */
function convertFile(source: SourceText, from: Dialect, setting: Setting, report: (item: Finding) => void): Converted {
  const { to, dialects, fields, answers, mode } = setting;
  const base: ConversionSetting = { from, to, others: dialects, fields, answers };
  const tags = readTags(source, from, fields, () => undefined).map(({ tag }) => tag);
  const footer = (kind: keyof FooterTexts): string => inTarget(setting.footer[kind], setting, report);
  const isKept = mode === 'keep' && from.name === to.name;
  const footerChanges = isKept ? [] : footerEdits(source, { mode, from, to, tags, footer });
  const isSame = from.name === to.name;
  const regions = isSame ? { edits: [], losses: [] } : convertRegions(source, from, to, from.delimiters);
  reportRegions(source, regions.losses, to, report);
  const edits = [...footerChanges, ...regions.edits.filter(({ span }) => !isTakenOut(span, footerChanges))];
  const result = convertTags(source, { ...base, edits }, report);
  if (mode === 'keep' && /<body\b/i.test(source.text) && isHtml(source.text))
    for (const name of missingSystemValues(tags, to)) {
      const what = (systemValues.get(name) ?? name).replace(/^the /, '');
      report(finding('footer-missing-converted', { source, span: { start: 0, end: 0 } }, { what, dialect: to.title }));
    }
  return result;
}

/** What of the regions is lost: one finding where the target marks none at all, else one for each. */
function reportRegions(
  source: SourceText,
  losses: readonly RegionLoss[],
  to: Dialect,
  report: (item: Finding) => void,
): void {
  const [first] = losses;
  if (first === undefined) return;
  if (Object.keys(to.regions).length === 0) {
    const names = losses.map(({ name }) => name).join(', ');
    report(finding('region-loss', { source, span: first.span }, { dialect: to.title, names }));
    return;
  }
  for (const { span, name, what } of losses)
    report(finding('region-mark-loss', { source, span }, { name, what, dialect: to.title }));
}

/** A text of the neutral notation in the target's dialect. */
function inTarget(text: string, { to, fields, answers, footerName }: Setting, report: (item: Finding) => void): string {
  const source = new SourceText(footerName, text);
  return convertTags(source, { from: neutralDialect, to, others: [], fields, answers }, report).text ?? '';
}

async function settingFor(
  target: Dialect,
  dialects: readonly Dialect[],
  config: Config | null,
  options: ConvertOptions,
  io: Io,
  findings: Finding[],
): Promise<Setting> {
  const declared = new Map<string, MergeField>(config?.fields ?? []);
  let to = target;
  const path = options.fields === null ? null : resolve(io.folder, options.fields);
  if (path !== null && options.fields !== null && (await exists(path))) {
    const { map, findings: problems } = await readFieldMap(path, options.fields);
    findings.push(...problems);
    to = { ...target, fieldNames: { ...target.fieldNames, ...(map?.names ?? {}) } };
    for (const [name, shape] of map?.shapes ?? [])
      declared.set(name, { sample: undefined, fallback: null, ...declared.get(name), ...shape });
  }
  const system = {
    company: config?.sender?.company ?? '',
    postalAddress: config?.sender?.postalAddress ?? '',
    year: new Date().getFullYear(),
    unsubscribe: null,
  };
  const answers = options.allowLoss ? sampleAnswers(sampleRecipient(declared, system, 'en')) : null;
  const own = config === null ? null : await projectFooter(config, findings);
  const footer = own ?? usualFooter(to);
  const footerName = own === null ? 'the usual footer' : (config?.footer?.path ?? '');
  return { to, dialects, fields: declared, answers, footer, footerName, mode: options.footer };
}

/** The footer that the project has for finished HTML; null where it names none. */
async function projectFooter({ folder, footer }: Config, findings: Finding[]): Promise<FooterTexts | null> {
  if (footer === null) return null;
  const { file, finding: unreadable } = await readTextFile(join(folder, footer.path), footer.path);
  if (file === null) {
    findings.push({ ...unreadable, place: footer.place });
    return null;
  }
  const html = file.source.text.trim();
  const { doc } = parseHtml(new SourceText(footer.path, html), neutralDialect.delimiters);
  return {
    html,
    text: plainText(doc, {
      width: 72,
      links: 'notes',
      measure: textWidth,
      tagRole: tagRoles([neutralDialect]),
    }).trim(),
  };
}

/** The configuration of the project around; null where there is none. */
async function projectConfig(io: Io, findings: Finding[]): Promise<Config | null> {
  const folder = await projectFolderOf(io.folder);
  if (folder === null) return null;
  const { config, findings: problems } = await loadConfig(folder);
  findings.push(...problems);
  return config;
}

async function writeReport(
  converted: readonly ConvertedFile[],
  { report, from, to }: ConvertOptions,
  io: Io,
  findings: Finding[],
): Promise<void> {
  if (report === null) return;
  const isPage = /\.html?$/i.test(report);
  const text = isPage
    ? conversionPage(converted, from === 'auto' ? 'the dialect found' : from, to)
    : conversionJson(converted);
  const problem = await writeWhole(resolve(io.folder, report), text, report);
  if (problem !== null) findings.push(problem);
}

/** Writes the file that asks how fields are called, where it is not there yet. */
async function askForFields(
  converted: readonly ConvertedFile[],
  { to }: Setting,
  options: ConvertOptions,
  io: Io,
  findings: Finding[],
): Promise<void> {
  if (options.fields === null) return;
  const path = resolve(io.folder, options.fields);
  if (await exists(path)) return;
  const used = [...new Set(converted.flatMap(({ fields }) => fields))].sort();
  const open = used.filter((name) => to.fieldNames[name] === undefined);
  const names = Object.fromEntries(open.map((name) => [name, platformFieldName(to, name)]));
  const problem = await writeWhole(path, fieldQuestions(names, to.title), options.fields);
  findings.push(
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
