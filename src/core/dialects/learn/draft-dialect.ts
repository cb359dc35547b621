import type { FieldCase } from '../dialect.js';
import { writePattern } from '../pattern.js';
import type { FoundName, LearnedDialect } from './learn-dialect.js';
import { counted } from '../../text/amounts.js';

/** Texts that say what a construct is for, where exported files do not show it. */
const blanks: readonly (readonly [name: string, what: string])[] = [
  ['raw', 'a field that is HTML and not escaped: {field}'],
  ['else_if', 'another condition: {condition}'],
  ['comment', 'a note that nobody reads: {text}'],
];

/** The text of a dialect file that says what was found, with blanks for what was not. */
export function draftDialect(name: string, learned: LearnedDialect): string {
  const { delimiters, field, fallback, names, blocks, others } = learned;
  const fieldCase = caseOf(names.map((one) => one.name));
  const tags: [string, string | null][] = [
    ['field', field],
    ['fallback', fallback],
    ['if', blocks.if],
    ['else', blocks.else],
    ['end_if', blocks.end_if],
    ['each', blocks.each],
    ['end_each', blocks.end_each],
  ];
  const found = tags.filter((entry): entry is [string, string] => entry[1] !== null);
  const missing = [
    ...tags.flatMap(([tag, pattern]) => (pattern === null ? [[tag, 'not found in the files'] as const] : [])),
    ...blanks,
  ];
  const [first] = names.filter((one) => !one.name.includes('.'));
  const sample = first === undefined ? null : sampleFor(first.name, field, fieldCase);
  return [
    `# A draft, learned from exported files: ${delimiters.count} tags between ${delimiters.open} and ${delimiters.close}.`,
    '# Fill in what begins with "# -", take out what is wrong, and prove it with: inscriba dialect check',
    `dialect: ${name}`,
    `title: ${quoted(titleOf(name))}`,
    'delimiters:',
    `  - { open: ${quoted(delimiters.open)}, close: ${quoted(delimiters.close)}, quotes: ${String(delimiters.open !== delimiters.close)} }`,
    'tags:',
    ...found.map(([tag, pattern]) => `  ${tag}: ${quoted(pattern)}`),
    ...missing.map(([tag, what]) => `  # - ${tag}: ''   # ${what}`),
    ...(blocks.if === null
      ? []
      : [
          'conditions:',
          `  present: '{left}'`,
          ...(blocks.equal === null ? [] : [`  equal: ${quoted(blocks.equal)}`, `  text: '"{text}"'`]),
          `  path: '{field}'`,
        ]),
    'fields:',
    `  '*': { case: ${fieldCase} }`,
    ...names.map((one) => `  # ${one.name}: ${timesAndPlace(one)}`),
    ...(others.length === 0
      ? []
      : [
          '# Tags that are neither fields nor blocks:',
          ...others.slice(0, 20).map((one) => `#   ${one.name}: ${timesAndPlace(one)}`),
        ]),
    `# - links: { unsubscribe: '', browser: '' }   # the whole tags of these links`,
    `# - sender: { company: '', postal_address: '' }   # the whole tags of the sender's name and address`,
    'footer: { required: [] }',
    'package: { shape: folder }',
    'samples:',
    ...(sample === null ? ['  []'] : [sample]),
    ...(first === undefined || fallback === null ? [] : [fallbackSample(first.name, fallback, fieldCase)]),
    ...blockSamples(learned, fieldCase),
    '',
  ].join('\n');
}

function timesAndPlace({ count, first }: FoundName): string {
  const { line, column } = first.source.lineColumn(first.start);
  return `${counted(count, 'time')}, first at ${first.source.name}:${line}:${column}`;
}

function sampleFor(name: string, field: string, fieldCase: FieldCase): string {
  const written = writePattern(field, { field: name });
  return `  - { neutral: ${quoted(`Hello @{${neutralOf(name, fieldCase)}},`)}, written: ${quoted(`Hello ${written},`)} }`;
}

function fallbackSample(name: string, fallback: string, fieldCase: FieldCase): string {
  const written = writePattern(fallback, { field: name, text: 'friend' });
  const neutral = `Hello @{${neutralOf(name, fieldCase)} ?? "friend"},`;
  return `  - { neutral: ${quoted(neutral)}, written: ${quoted(`Hello ${written},`)} }`;
}

function blockSamples({ blocks, field, names }: LearnedDialect, fieldCase: FieldCase): string[] {
  const plain = names.map(({ name }) => name).filter((name) => !name.includes('.'));
  const [one = '', two = one] = plain;
  const print = (name: string): string => writePattern(field, { field: name });
  const lines: string[] = [];
  const line = (neutral: string, written: string): void =>
    void lines.push(`  - { neutral: ${quoted(neutral)}, written: ${quoted(written)} }`);
  if (one === '') return lines;
  const [first, second] = [neutralOf(one, fieldCase), neutralOf(two, fieldCase)];
  if (blocks.if !== null && blocks.end_if !== null) {
    const opening = writePattern(blocks.if, { condition: one });
    const [divider, end] = [writePattern(blocks.else ?? '', {}), writePattern(blocks.end_if, {})];
    if (blocks.else === null) line(`@{if ${first}}@{${second}}@{end}`, `${opening}${print(two)}${end}`);
    else line(`@{if ${first}}@{${second}}@{else}none@{end}`, `${opening}${print(two)}${divider}none${end}`);
  }
  return lines;
}

/** The way in which most names are written. */
function caseOf(names: readonly string[]): FieldCase {
  const tests: readonly (readonly [FieldCase, RegExp])[] = [
    ['upper-snake', /^[A-Z][A-Z\d]*(?:_[A-Z\d]+)*$/],
    ['snake', /^[a-z][a-z\d]*(?:_[a-z\d]+)*$/],
    ['kebab', /^[a-z][a-z\d]*(?:-[a-z\d]+)+$/],
    ['camel', /^[a-z][a-z\d]*(?:[A-Z][a-z\d]*)+$/],
    ['pascal', /^(?:[A-Z][a-z\d]*)+$/],
  ];
  const plain = names.flatMap((name) => name.split('.'));
  const counts = tests.map(([fieldCase, test]) => [fieldCase, plain.filter((name) => test.test(name)).length] as const);
  const special = counts.filter(([fieldCase, count]) => fieldCase !== 'snake' && count > 0);
  const [best] = [...special].sort((a, b) => b[1] - a[1]);
  const snake = counts.find(([fieldCase]) => fieldCase === 'snake')?.[1] ?? 0;
  if (best !== undefined && (best[0] === 'kebab' || best[0] === 'camel' || best[1] >= snake)) return best[0];
  return snake > 0 ? 'snake' : 'as-is';
}

function neutralOf(name: string, fieldCase: FieldCase): string {
  if (fieldCase === 'as-is') return name;
  return name
    .replace(/([\p{Ll}\d])(\p{Lu})/gu, '$1_$2')
    .replace(/-/g, '_')
    .toLowerCase();
}

function titleOf(name: string): string {
  return name.charAt(0).toUpperCase() + name.slice(1).replace(/[-_]+/g, ' ');
}

/** A text as YAML has it in single quotes. */
function quoted(text: string): string {
  return `'${text.replaceAll("'", "''")}'`;
}
