import { templateName, type MessageFacts } from './manifest.js';
import type { PackageFile } from './package-file.js';
import type { ShapeName } from '../dialects/package-shapes.js';

/**
 * The card that a person holds beside the platform's form: which file goes where, what to paste in the order in which it is
 * asked, and what to check afterwards.
 * @param title what the platform is called
 * @param files those of the package
 */
export function importCard(
  facts: MessageFacts,
  title: string,
  shape: ShapeName,
  files: readonly PackageFile[],
): string {
  const values = formValues(facts);
  const sources = fileRows(shape, files);
  const width = Math.max(...[...values, ...sources].map(([label]) => label.length));
  const row = ([label, value]: Row): string => `${label.padEnd(width)}  ${value}`;
  return [
    `How to import "${templateName(facts)}" into ${title}`,
    '',
    ...values.map(row),
    '',
    ...sources.map(row),
    '',
    'After the import, check',
    ...checks(facts, shape).map((check) => `  [ ] ${check}`),
    '',
  ].join('\n');
}

type Row = readonly [label: string, value: string];

/** What forms ask, in the order in which they ask it. */
function formValues(facts: MessageFacts): Row[] {
  const { sender } = facts;
  // What a platform fills in leads to its own pages.
  const links = facts.links.filter((link) => /^https?:/i.test(link));
  const rows: (readonly [string, string | null])[] = [
    ['Name', templateName(facts)],
    ['Description', facts.description],
    ['Subject', facts.subject],
    ['  as a reader sees it', facts.subjectSample === facts.subject ? null : facts.subjectSample],
    ['Preheader', facts.preheader],
    ['Sender', sender === null ? null : `${sender.name} <${sender.address}>`],
    ['Reply to', sender?.replyTo ?? null],
    ['Topic', facts.topic],
    ...links.map((link, index): Row => [index === 0 ? `Tracked links (${links.length})` : '', link]),
    ...facts.attachments.map((name, index): Row => [index === 0 ? 'Attachments' : '', name]),
    ...Object.entries(facts.extras).map(([key, value]): Row => [capitalized(key), value]),
    ['Keywords', facts.keywords.length === 0 ? null : facts.keywords.join(', ')],
  ];
  return rows.filter((entry): entry is Row => entry[1] !== null && entry[1] !== '');
}

function capitalized(name: string): string {
  return name.charAt(0).toUpperCase() + name.slice(1).replaceAll('-', ' ');
}

/** Which file is for which field of the form. */
function fileRows(shape: ShapeName, files: readonly PackageFile[]): Row[] {
  const first = (ending: RegExp): string | null => files.find(({ path }) => ending.test(path))?.path ?? null;
  const pictures = files.filter(({ path }) => path.startsWith('images/')).length;
  const html = first(/^[^/]*\.html$/);
  const rows: (readonly [string, string | null])[] = [
    ['Import', shape === 'zip' ? 'the zip as it is' : null],
    ['Mail', first(/^[^/]*\.eml$/)],
    ['Style sheet', first(/^[^/]*\.css$/)],
    [shape === 'split' ? 'Body' : 'HTML', html],
    ['Plain text', first(/^[^/]*\.txt$/)],
    ['Pictures', pictures === 0 ? null : `${pictures} in images/`],
  ];
  return rows.filter((entry): entry is Row => entry[1] !== null);
}

function checks({ pictures, hasTags, regions, attachments }: MessageFacts, shape: ShapeName): string[] {
  const count = pictures.list.length;
  return [
    ...(count === 0 ? [] : [count === 1 ? 'the picture shows' : `all ${count} pictures show`]),
    ...(hasTags ? ['a test recipient’s own data stands in it, and the fallbacks for a recipient without'] : []),
    'the unsubscribe link in the footer works',
    'the plain-text version is there',
    ...(shape === 'split' ? ['the style sheet works: made narrow, the window shows one column'] : []),
    ...(regions.length === 0 ? [] : [`what may be edited can be: ${regions.map(({ name }) => name).join(', ')}`]),
    ...(attachments.length === 0 ? [] : ['the attachments open']),
  ];
}
