import { readdir, rm } from 'node:fs/promises';
import { join, relative } from 'node:path';
import stringWidth from 'string-width';
import { adviceForName, finding, isError, type Finding } from '../core/finding.js';
import type { Dialect } from '../core/merge/dialect.js';
import { nearestName } from '../core/nearest.js';
import { importCard } from '../core/package/import-card.js';
import { manifestJson, type MessageFacts } from '../core/package/manifest.js';
import type { PackageFile } from '../core/package/package-file.js';
import { compileMessage, type CompiledMessage } from '../core/source/compile-message.js';
import { readMessage } from '../core/source/read-message.js';
import { renderMessage } from '../core/source/render-message.js';
import type { Config, Destination } from './config.js';
import { dialectNames, loadDialect } from './dialects.js';
import { digestOf, loadMessageFiles, messageNames, type PictureFile } from './message-files.js';
import { readTextFile } from './text-file.js';
import { writeWhole } from './write-file.js';
import { zipFiles } from './zip.js';

/** What to build. */
export interface BuildRequest {
  readonly config: Config;
  /** Names of messages; all of them where the list is empty. */
  readonly messages: readonly string[];
  /** Names of destinations; all of them where the list is empty. */
  readonly destinations: readonly string[];
  /** The folder that outputs go below. */
  readonly outFolder: string;
  /** True to make the package that the destination imports, too. */
  readonly pack: boolean;
}

/** One message at one destination. */
export interface BuildOutcome {
  readonly message: string;
  readonly destination: string;
  readonly findings: readonly Finding[];
  /** What was written, or null where errors kept everything as it was. */
  readonly written: {
    readonly folder: string;
    readonly files: readonly PackageFile[];
    readonly package: string | null;
  } | null;
}

export interface BuildResult {
  readonly outcomes: readonly BuildOutcome[];
  /** Findings about the request and the messages themselves, in order. */
  readonly findings: readonly Finding[];
}

interface Target {
  readonly destination: Destination;
  readonly dialect: Dialect;
}

/** Builds messages for destinations. Each message is compiled once; a message with errors leaves its outputs as they were. */
export async function buildMessages(
  request: BuildRequest,
  onDone: (outcome: BuildOutcome) => void,
): Promise<BuildResult> {
  const findings: Finding[] = [];
  const names = await chooseMessages(request, findings);
  const targets = await chooseTargets(request, findings);
  if (findings.some(isError)) return { outcomes: [], findings };
  const outcomes: BuildOutcome[] = [];
  for (const name of names) {
    const own: Finding[] = [];
    const ready = await prepareMessage(request.config, name, own);
    findings.push(...inReadingOrder(own));
    for (const target of targets) {
      const outcome =
        ready === null || own.some(isError) ? failed(name, target) : await buildFor(request, name, ready, target);
      findings.push(...outcome.findings);
      outcomes.push(outcome);
      onDone(outcome);
    }
  }
  return { outcomes, findings };
}

function failed(message: string, { destination }: Target): BuildOutcome {
  return { message, destination: destination.name, findings: [], written: null };
}

async function chooseMessages({ config, messages }: BuildRequest, findings: Finding[]): Promise<string[]> {
  const known = await messageNames(config.folder);
  if (known.length === 0) findings.push(finding('no-messages', null, { folder: join(config.folder, 'messages') }));
  const wanted = messages.map((message) => message.replace(/^messages\//, '').replace(/\.html$/, ''));
  for (const name of wanted.filter((candidate) => !known.includes(candidate))) {
    findings.push(
      finding('unknown-message', null, {
        name,
        advice: adviceForName(nearestName(name, known), known, 'Put it into messages/.'),
      }),
    );
  }
  return wanted.length === 0 ? known : [...new Set(wanted)];
}

async function chooseTargets({ config, destinations, pack }: BuildRequest, findings: Finding[]): Promise<Target[]> {
  const known = config.destinations.map((destination) => destination.name);
  for (const name of destinations.filter((candidate) => !known.includes(candidate))) {
    findings.push(
      finding('unknown-destination', null, { name, advice: adviceForName(nearestName(name, known), known, '') }),
    );
  }
  const targets: Target[] = [];
  for (const destination of config.destinations) {
    if (destinations.length > 0 && !destinations.includes(destination.name)) continue;
    const dialect = await dialectOf(destination, config, findings);
    if (dialect !== null) targets.push({ destination, dialect });
  }
  return pack ? packable(targets, destinations, findings) : targets;
}

async function dialectOf(destination: Destination, config: Config, findings: Finding[]): Promise<Dialect | null> {
  const known = await dialectNames(config.folder);
  if (!known.includes(destination.dialect)) {
    const advice = adviceForName(nearestName(destination.dialect, known), known, '');
    findings.push(finding('unknown-dialect', destination.dialectPlace, { name: destination.dialect, advice }));
    return null;
  }
  const { dialect, findings: problems } = await loadDialect(destination.dialect, config.folder);
  findings.push(...problems);
  return dialect;
}

/** Without a choice of the user's, `pack` takes the destinations whose dialect describes an archive. */
function packable(targets: readonly Target[], wanted: readonly string[], findings: Finding[]): Target[] {
  const able = targets.filter(
    ({ dialect }) => dialect.package !== null && (wanted.length > 0 || dialect.package.shape === 'zip'),
  );
  for (const { destination, dialect } of targets.filter(
    (target) => target.dialect.package === null && wanted.length > 0,
  )) {
    const known = able.map((target) => target.destination.name).join(', ');
    findings.push(finding('not-packable', null, { name: destination.name, dialect: dialect.name, known }));
  }
  return able;
}

/** By file, as they first come up, then by place. */
function inReadingOrder(findings: readonly Finding[]): Finding[] {
  const files = [...new Set(findings.map(({ place }) => place?.source.name ?? ''))];
  const key = (item: Finding): number => files.indexOf(item.place?.source.name ?? '');
  return [...findings].sort((a, b) => key(a) - key(b) || (a.place?.span.start ?? 0) - (b.place?.span.start ?? 0));
}

interface Prepared {
  readonly compiled: CompiledMessage;
  readonly pictures: ReadonlyMap<string, PictureFile>;
}

async function prepareMessage(config: Config, name: string, findings: Finding[]): Promise<Prepared | null> {
  const report = (item: Finding): unknown => findings.push(item);
  const path = join(config.folder, 'messages', `${name}.html`);
  const { file, finding: unreadable } = await readTextFile(path, relative(process.cwd(), path));
  if (file === null) {
    findings.push(unreadable);
    return null;
  }
  const source = readMessage(file.source, config.fields, report);
  // Markup that is not closed moves everything behind it: what layout would say of that is no help.
  if (findings.some(({ code }) => code === 'unclosed-tag' || code === 'stray-end-tag')) return null;
  const files = await loadMessageFiles(source, path, config.folder, report);
  const compiled = compileMessage(
    source,
    {
      styleSheet: (key) => files.styleSheets.get(key) ?? null,
      pictureSize: (key) => files.pictures.get(key)?.size ?? null,
      width: config.width,
      fonts: config.fonts,
    },
    report,
  );
  return compiled === null ? null : { compiled, pictures: files.pictures };
}

const TEXT_WIDTH = 72;

async function buildFor(
  request: BuildRequest,
  name: string,
  { compiled, pictures }: Prepared,
  target: Target,
): Promise<BuildOutcome> {
  const { config } = request;
  const findings: Finding[] = [];
  const picturePath = (path: string): string =>
    pictures.has(path) ? `images/${pictures.get(path)?.outputName ?? ''}` : path;
  const text = { width: TEXT_WIDTH, links: 'notes', measure: stringWidth } as const;
  const rendered = renderMessage(
    compiled,
    { dialect: target.dialect, fields: config.fields, picturePath, text },
    (item) => findings.push(item),
  );
  const base = { message: name, destination: target.destination.name };
  if (findings.some(isError)) return { ...base, findings, written: null };
  const { metadata } = compiled;
  const facts: MessageFacts = {
    ...base,
    project: config.name,
    dialect: target.dialect.name,
    subject: rendered.subject,
    subjectSample: rendered.subjectSample,
    preheader: rendered.preheader,
    topic: metadata.topic,
    description: metadata.description,
    keywords: metadata.keywords,
    sender:
      config.sender === null
        ? null
        : {
            ...config.sender,
            name: metadata.from ?? config.sender.name,
            replyTo: metadata.replyTo ?? config.sender.replyTo,
          },
    links: rendered.links,
  };
  const files = filesOf(facts, rendered.html, rendered.text, pictures, request.pack ? target.dialect.title : null);
  return writeOutputs(request, base, target, files, findings);
}

function filesOf(
  facts: MessageFacts,
  html: string,
  text: string,
  pictures: ReadonlyMap<string, PictureFile>,
  cardTitle: string | null,
): PackageFile[] {
  const encode = (content: string): Uint8Array => Buffer.from(content);
  const images = new Map([...pictures.values()].map(({ outputName, bytes }) => [`images/${outputName}`, bytes]));
  const content: PackageFile[] = [
    ...[...images].map(([path, bytes]) => ({ path, bytes })),
    { path: 'index.txt', bytes: encode(text) },
    { path: 'index.html', bytes: encode(html) },
  ];
  const manifest = { path: 'manifest.json', bytes: encode(manifestJson(facts, content, digestOf)) };
  const card = cardTitle === null ? [] : [{ path: 'import-card.txt', bytes: encode(importCard(facts, cardTitle)) }];
  return [...content, manifest, ...card];
}

async function writeOutputs(
  request: BuildRequest,
  base: { message: string; destination: string },
  target: Target,
  files: readonly PackageFile[],
  findings: Finding[],
): Promise<BuildOutcome> {
  const parent = join(request.outFolder, base.destination);
  const folder = join(parent, base.message);
  const built = files.filter(({ path }) => path !== 'import-card.txt');
  for (const { path, bytes } of built) {
    const full = join(folder, path);
    const problem = await writeWhole(full, bytes, relative(process.cwd(), full));
    if (problem !== null) return { ...base, findings: [...findings, problem], written: null };
  }
  await removeStale(folder, built);
  if (!request.pack) return { ...base, findings, written: { folder, files: built, package: null } };
  const packed =
    target.dialect.package?.shape === 'zip'
      ? await writeZip(parent, base.message, files)
      : await writeCard(folder, files);
  if (packed.problem !== null) return { ...base, findings: [...findings, packed.problem], written: null };
  return { ...base, findings, written: { folder, files, package: packed.path } };
}

async function writeZip(
  parent: string,
  message: string,
  files: readonly PackageFile[],
): Promise<{ path: string; problem: Finding | null }> {
  const path = join(parent, `${message}.zip`);
  return { path, problem: await writeWhole(path, zipFiles(files), relative(process.cwd(), path)) };
}

async function writeCard(
  folder: string,
  files: readonly PackageFile[],
): Promise<{ path: string; problem: Finding | null }> {
  const card = files.find(({ path }) => path === 'import-card.txt');
  const path = join(folder, 'import-card.txt');
  return {
    path: folder,
    problem: card === undefined ? null : await writeWhole(path, card.bytes, relative(process.cwd(), path)),
  };
}

/** Removes pictures of an earlier build that this one no longer has. */
async function removeStale(folder: string, files: readonly PackageFile[]): Promise<void> {
  const current = new Set(files.map(({ path }) => path));
  const images = await readdir(join(folder, 'images')).catch(() => []);
  await Promise.all(
    images
      .filter((image) => !current.has(`images/${image}`))
      .map((image) => rm(join(folder, 'images', image), { force: true })),
  );
}
