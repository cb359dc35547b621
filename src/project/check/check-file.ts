import { readFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { checkPage } from '../../core/check/check-page.js';
import { webAddresses } from '../../core/check/facts/link-places.js';
import { Page } from '../../core/check/page/page.js';
import type { PictureFile } from '../../core/check/page/picture-facts.js';
import { recognizeDialects } from '../../core/dialects/convert/choose-dialect.js';
import { foreignFinding, foreignTags, readTags } from '../../core/dialects/read/foreign-tags.js';
import { missingSystemValues } from '../../core/dialects/convert/footer.js';
import { delimitersOf, type Dialect } from '../../core/dialects/dialect.js';
import { checkBlocks } from '../../core/dialects/read/read-neutral.js';
import type { MergeFields } from '../../core/dialects/model.js';
import { finding, withoutRepeats, type Finding } from '../../core/findings/finding.js';
import { parseHtml } from '../../core/html/parse.js';
import { checkPairs } from '../../core/html/structure/structure.js';
import type { SourceText } from '../../core/text/source-text.js';
import { systemValues } from '../../core/dialects/model.js';
import { darkOnNothing } from '../../pictures/dark-drawing.js';
import { readFinishedPictures, type FileBounds } from '../load/finished-pictures.js';
import type { CheckBench } from './check-bench.js';
import type { CheckedEdition } from './check-edition.js';
import { isOfRule } from './settle.js';
import { spanAt } from '../../core/text/span.js';

/** How finished HTML is checked. */
export interface FileCheck {
  readonly bench: CheckBench;
  /** The dialect of its tags; null for that which the file shows. */
  readonly dialect: Dialect | null;
  readonly dialects: readonly Dialect[];
  readonly fields: MergeFields;
  readonly bounds: FileBounds;
  /** Its full path; null for standard input. */
  readonly path: string | null;
}

/** What is found in finished HTML, where it stands. */
export async function checkFile(source: SourceText, setting: FileCheck): Promise<CheckedEdition> {
  const { bench, bounds, path, fields } = setting;
  if (source.text.trim() === '') {
    const empty = finding('file-empty', { source, span: spanAt(0, 0) });
    return { findings: [empty], links: [] };
  }
  const found: Finding[] = [];
  const report = (item: Finding): unknown => found.push(item);
  const dialect = setting.dialect ?? recognizeDialects(source, setting.dialects)[0]?.dialect ?? null;
  const { doc, errors } = parseHtml(source, delimitersOf(dialect === null ? setting.dialects : [dialect]));
  found.push(...checkPairs(doc, errors));
  const tags = dialect === null ? [] : readTags(source, dialect, fields, report).map(({ tag }) => tag);
  checkBlocks(tags, report);
  if (dialect !== null) {
    found.push(...missing(source, tags, dialect));
    const others = setting.dialects.filter(({ name }) => name !== dialect.name);
    const spans = tags.map(({ place }) => place.span);
    found.push(...foreignTags(source, spans, others).map((tag) => foreignFinding(source, tag)));
  }
  const pictures = await readFinishedPictures(doc, bounds, report);
  const page = new Page({
    doc,
    errors,
    isFinished: true,
    pictures: await factsOf(pictures.local, doc.source.text.includes('prefers-color-scheme')),
    outputs: [],
    ...(path === null ? {} : { text: await textBeside(path) }),
    tags,
    project: null,
    features: bench.features,
    engines: bench.engines,
  });
  found.push(...withoutConsequences(checkPage(page, bench.rules), found));
  return { findings: inOrder(withoutRepeats(found)), links: webAddresses(page) };
}

/** Where a tag is left out, what the parser made of the rest is no mistake of its own. */
function withoutConsequences(ofRules: readonly Finding[], structure: readonly Finding[]): Finding[] {
  const unpaired = structure.filter(({ code }) => code === 'unclosed-tag' || code === 'stray-end-tag');
  if (unpaired.length === 0) return [...ofRules];
  const starts = new Set(unpaired.map(({ place }) => place?.span.start));
  return ofRules.filter(
    ({ code, place }) =>
      !/^(?:cell|table-content)-stray$/.test(code) && !(code === 'link-silent' && starts.has(place?.span.start)),
  );
}

/** What the dialect asks for and the page does not have. */
function missing(source: SourceText, tags: Parameters<typeof missingSystemValues>[0], dialect: Dialect): Finding[] {
  return missingSystemValues(tags, dialect).map((name) =>
    finding(
      'footer-missing',
      { source, span: spanAt(0, 0) },
      {
        what: (systemValues.get(name) ?? name).replace(/^the /, ''),
        dialect: dialect.title,
        tag: `the platform’s tag for it (@{${name}} in a message)`,
      },
    ),
  );
}

/** The plain-text version: a file of the same name that ends in .txt. Null where there is none. */
async function textBeside(path: string): Promise<string | null> {
  const name = basename(path).replace(/\.html?$/i, '');
  return readFile(join(dirname(path), `${name}.txt`), 'utf8').catch(() => null);
}

async function factsOf(
  local: Awaited<ReturnType<typeof readFinishedPictures>>['local'],
  hasDarkScheme: boolean,
): Promise<Map<string, PictureFile>> {
  const files = new Map<string, PictureFile>();
  for (const [path, { bytes, facts }] of local) {
    const { width, height, format } = facts;
    const isDark = hasDarkScheme && (await darkOnNothing(bytes));
    files.set(path, { width, height, format, bytes: bytes.length, isDark });
  }
  return files;
}

/** In the order of the page; at one place, what is graver in the language of HTML before what a rule says. */
function inOrder(findings: readonly Finding[]): Finding[] {
  const start = ({ place }: Finding): number => place?.span.start ?? 0;
  return [...findings].sort((a, b) => start(a) - start(b) || Number(isOfRule(a)) - Number(isOfRule(b)));
}
