import { CONFIG_FILE } from '../../project/files/project-folder.js';
import { readFile } from 'node:fs/promises';
import { basename, extname, join, relative, resolve } from 'node:path';
import { adoptedMessage, pictureAddresses } from '../../core/message/adopted-message.js';
import { countPictures } from '../../pictures/count-pictures.js';
import { exitCodeOf, finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import type { Conversion } from '../../core/dialects/convert/convert-tags.js';
import { verdictCounts } from '../../core/dialects/convert/conversion-report.js';
import { neutralDialect } from '../../core/dialects/dialect.js';
import { slug } from '../../core/expressions/filters.js';
import { readForeignMessage, type ForeignMessage } from '../../project/load/adopt-files.js';
import { loadConfig, type Config } from '../../project/config/config.js';
import { withFields } from '../../project/config/declare-fields.js';
import { messageNameProblem, writeNew, type NewFile } from '../../project/new/new-files.js';
import { writeWhole } from '../../project/files/write-file.js';
import { allDialects } from '../../project/config/dialects.js';
import { chosenDialect, recognizedDialect } from '../../core/dialects/convert/choose-dialect.js';
import { convertDocument } from '../../core/dialects/convert/convert-document.js';
import type { Io } from '../io/io.js';
import { finishNew } from './new.js';
import { printFindings } from '../output/print-findings.js';
import { command, flag, text, textOr, word, type CommonOptions, type Told } from '../io/command.js';

const options = {
  from: textOr('auto', '--from <dialect>', 'the dialect of its tags; auto finds it by them'),
  name: text('--as <name>', 'the name of the message (default: that of the file)'),
  force: flag('--force', 'write over a message that is there'),
};

type AdoptOptions = Told<typeof options> & CommonOptions & { readonly file: string };

/** `adopt`. */
export const adopt = command({
  name: 'adopt',
  description:
    'Makes a message of the project from finished HTML: its tags become neutral, its pictures local, its editable pieces regions. It looks as it did.',
  arguments: { file: word('<file>', 'a file of HTML, a zip with one and its pictures, or a mail (.eml)') },
  options,
  examples: ['inscriba adopt exported.zip', 'inscriba adopt exported.html --from oxbow --as spring-appeal'],
  run,
});

async function run(options: AdoptOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(io.folder);
  const findings: Finding[] = [...problems];
  const stop = (): number => {
    printFindings(findings, io, options.color);
    return exitCodeOf(findings);
  };
  if (config === null) return stop();
  const name = options.name ?? slug(basename(options.file, extname(options.file)));
  const bad = await messageNameProblem(config.folder, name, options.force);
  if (bad !== null) findings.push(bad);
  const report = (item: Finding): unknown => findings.push(item);
  const message = await readForeignMessage(resolve(io.folder, options.file), options.file, report);
  const dialects = await allDialects(io.folder, report);
  if (message === null || findings.some(isError)) return stop();
  const from =
    options.from === 'auto'
      ? recognizedDialect(message.source, dialects, report)
      : chosenDialect(options.from, dialects, report);
  if (from === null) return stop();
  const setting = { from, to: neutralDialect, others: dialects, fields: config.fields, answers: null };
  const converted = convertDocument(message.source, { ...setting, mode: 'keep', footer: null }, report);
  if (converted.text === null || findings.some(isError)) return stop();
  const { pictures, paths } = await picturesOf(message, converted.text, name, report);
  const text = adoptedMessage({
    html: converted.text,
    subject: message.subject,
    picturePath: (address) => paths.get(address) ?? null,
  });
  const result = await writeNew(
    config.folder,
    [{ path: `messages/${name}.html`, content: text }, ...pictures],
    options.force,
  );
  findings.push(...result.findings);
  if (!findings.some(isError)) findings.push(...(await declareFields(config, converted)));
  if (!options.quiet) io.err(`${options.file}: ${verdictCounts(converted.tags)}\n`);
  const folder = relative(io.folder, config.folder);
  return finishNew(
    { written: result.written, findings },
    folder,
    [`Build it with: inscriba build ${name}`],
    options,
    io,
  );
}

/** The pictures that came along, under names of their own; where two have the same name, the later one gets a number. */
async function picturesOf(
  message: ForeignMessage,
  html: string,
  name: string,
  report: Report,
): Promise<{ pictures: NewFile[]; paths: ReadonlyMap<string, string> }> {
  const pictures: NewFile[] = [];
  const paths = new Map<string, string>();
  const left: string[] = [];
  for (const address of pictureAddresses(html)) {
    const file = await message.file(address);
    if (file === null) {
      if (!/^(?:data:|#)/i.test(address)) left.push(address);
      continue;
    }
    const plain = file.name.replace(/[^\p{L}\d._-]+/gu, '-').replace(/^\.+/, '') || 'picture';
    const taken = new Set(pictures.map(({ path }) => path));
    const at = (number: number): string =>
      `images/${name}/${number === 1 ? plain : plain.replace(/(\.\w+)?$/, `-${number}$1`)}`;
    let number = 1;
    while (taken.has(at(number))) number += 1;
    pictures.push({ path: at(number), content: file.bytes });
    paths.set(address, `../${at(number)}`);
  }
  if (left.length > 0) {
    const count = countPictures(left.length);
    report(finding('adopt-picture-left', null, { count, addresses: left.slice(0, 5).join(', ') }));
  }
  return { pictures, paths };
}

/** Declares the fields that the message uses and the project does not have yet. */
async function declareFields(config: Config, { fields, lists }: Conversion): Promise<Finding[]> {
  const missing = fields.filter((name) => !config.fields.has(name) && /^[A-Za-z_]\w*$/.test(name));
  if (missing.length === 0) return [];
  const path = join(config.folder, CONFIG_FILE);
  const text = withFields(
    await readFile(path, 'utf8'),
    missing.map((name) => ({ name, isList: lists.includes(name) })),
  );
  const problem = text === null ? null : await writeWhole(path, text, CONFIG_FILE);
  return [problem ?? finding('adopt-fields', null, { names: missing.join(', ') })];
}
