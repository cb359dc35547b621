// What happens to files on their way: bytes that are lost, doubled, swapped or of another kind, and what people type by mistake.
import type { Random } from '../support/random.js';

/** Pieces that readers of something look out for, whole and half, and what no text should hold. */
const pieces = [
  ...[
    '<',
    '>',
    '</',
    '/>',
    '<!--',
    '-->',
    '<![CDATA[',
    '<!doctype',
    '<style>',
    '</style>',
    '</title>',
    '<template each="a of b">',
  ],
  ...[
    '</template>',
    '<slot',
    '<table><tr><td>',
    '</td></tr></table>',
    '<p style="',
    '<svg><foreignObject>',
    '<img src="data:,">',
  ],
  ...[
    '${',
    '${a',
    '${a | date "',
    '${+a}',
    '}',
    '@{',
    '@{if',
    '@{if a == "b"}',
    '@{each a as b}',
    '@{else}',
    '@{end}',
    '@@{',
    '$${',
  ],
  ...[
    '~~',
    '~~IF',
    '[=',
    '(:',
    '{{',
    '{%',
    '%}',
    '{!',
    '*|',
    '??',
    '| upper',
    '(((((',
    '))',
    'not not not',
    '-',
    '1e999',
    '0x',
  ],
  ...[
    '{',
    '}',
    '@media (',
    '@media(max-width:',
    '@import "',
    '!important',
    'calc(1px*',
    'var(--a,var(--a',
    'url(',
    '\\',
    '/*',
    '*/',
  ],
  ...[
    ':',
    ': ',
    '- ',
    '? ',
    '&a',
    '*a',
    '<<: *a',
    '!!js/function',
    '|\n',
    '>\n',
    '---\n',
    '...\n',
    '"',
    "'",
    '#',
    '\t',
    '[[[[',
    '{{{{',
  ],
  ...[
    ',',
    ';',
    '"a""b"',
    '\n\n',
    '\r',
    '\r\n',
    '\u0000',
    '\uFEFF',
    '\u2028',
    '\u202E',
    '\uFFFD',
    '\uD83D\uDE00',
    'e\u0301\u0301',
    '\u00AD',
  ],
  ...[
    'Content-Type: multipart/mixed; boundary=',
    '\r\n\r\n',
    '=?utf-8?B?',
    '=\r\n',
    'charset=utf-7',
    'constructor',
    '__proto__',
  ],
].map((piece) => Buffer.from(piece));

/** Bytes that are no text in any usual encoding. */
const wrongBytes = [
  [0xff, 0xfe],
  [0xfe, 0xff],
  [0xc0, 0x80],
  [0xed, 0xa0, 0x80],
  [0xf5, 0x80],
  [0x80],
  [0x00, 0x00, 0x00],
].map((bytes) => Buffer.from(bytes));

type Mutation = (file: Buffer, random: Random) => Buffer;

const spliced = (file: Buffer, start: number, end: number, inside: Buffer): Buffer =>
  Buffer.concat([file.subarray(0, start), inside, file.subarray(end)]);

/** A stretch of a file: short ones most often. */
function stretch(file: Buffer, random: Random): [number, number] {
  const start = random.below(file.length + 1);
  const length = random.chance(0.8) ? random.below(24) : random.below(file.length + 1);
  return [start, Math.min(file.length, start + length)];
}

const nothing = Buffer.alloc(0);

const mutations: readonly Mutation[] = [
  (file, random) => spliced(file, ...stretch(file, random), nothing),
  (file, random) => {
    const [start, end] = stretch(file, random);
    return spliced(file, start, start, file.subarray(start, end));
  },
  (file, random) => {
    const at = random.below(file.length + 1);
    return spliced(file, at, at, random.pick(pieces));
  },
  (file, random) => spliced(file, ...stretch(file, random), random.pick(pieces)),
  (file, random) => {
    const at = random.below(file.length + 1);
    return spliced(file, at, at, random.pick(wrongBytes));
  },
  (file, random) => {
    if (file.length === 0) return file;
    const changed = Buffer.from(file);
    const at = random.below(file.length);
    changed[at] = (changed[at] ?? 0) ^ (1 << random.below(8));
    return changed;
  },
  (file, random) => file.subarray(0, random.below(file.length + 1)),
  (file, random) => {
    // The same piece very often: nesting, and what grows by itself.
    const at = random.below(file.length + 1);
    return spliced(
      file,
      at,
      at,
      Buffer.concat(Array.from({ length: random.pick([50, 400, 3000]) }, () => random.pick(pieces.slice(0, 20)))),
    );
  },
  (file, random) => {
    const at = random.below(file.length + 1);
    const piece = random.pick(pieces);
    return spliced(file, at, at, Buffer.concat(Array.from({ length: random.pick([20, 300]) }, () => piece)));
  },
  (file) => Buffer.from(file.toString('utf8').replaceAll('\n', '\r\n')),
  (file) => Buffer.from(file.toString('utf8'), 'utf16le'),
  (file) => Buffer.from(file.toString('utf8'), 'latin1'),
  (file, random) => {
    const lines = file.toString('utf8').split('\n');
    const from = random.below(lines.length);
    const [line = ''] = lines.splice(from, 1);
    lines.splice(random.below(lines.length + 1), 0, line);
    return Buffer.from(lines.join('\n'));
  },
  (file, random) =>
    Buffer.from(
      file.toString('utf8').replace(/\d+/, () => random.pick(['0', '-1', '1e9', '99999999999999999999', '0.1', 'NaN'])),
    ),
  () => nothing,
];

/** A file as it may arrive: with one mistake, or with several. */
export function mutated(file: Buffer, random: Random): Buffer {
  let result = file;
  for (let left = random.pick([1, 1, 1, 2, 3, 8]); left > 0; left -= 1) result = random.pick(mutations)(result, random);
  return result;
}
