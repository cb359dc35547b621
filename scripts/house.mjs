// Draws docs/house.svg, the picture of the folders, from the borders that eslint/house.js sets. `node scripts/house.mjs`
// With --check it writes nothing and fails where the picture is not what it should be.
import { readFileSync, writeFileSync } from 'node:fs';
import { floors } from '../eslint/house.js';

/** Folders that are drawn as one: what stands within them is their own affair. */
const whole = (folder) => {
  const [first, second] = folder.split('/');
  return first === 'core' && second !== undefined ? `core/${second}` : (first ?? folder);
};

const imports = new Map();
for (const [folder, others] of Object.entries(floors)) {
  const own = imports.get(whole(folder)) ?? new Set();
  for (const other of others.map(whole)) if (other !== whole(folder)) own.add(other);
  imports.set(whole(folder), own);
}

/** The floor of a folder: one above the highest of those that it stands on. */
function floorOf(folder) {
  return Math.max(-1, ...[...(imports.get(folder) ?? [])].map(floorOf)) + 1;
}

const words = {
  'core/text': 'sources, spans, edits',
  'core/findings': 'every sentence',
  'core/html': 'one tree with offsets',
  'core/yaml': 'keys, declared once',
  'core/css': 'syntax, selectors, cascade, values',
  'core/expressions': 'one grammar of values',
  'core/template': 'parts, slots, loops',
  'core/dialects': 'merge tags, read and written',
  'core/pictures': 'where they are named',
  'core/layout': 'boxes to tables',
  'core/inline': 'rules to attributes',
  'core/plaintext': 'the text version',
  'core/slices': 'drawn designs, cut',
  'core/packages': 'manifest, card, shapes',
  'core/message': 'read, compiled, written',
  'core/delivery': 'requests, what is answered',
  'core/engines': 'what engines make of it',
  'core/views': 'how it is looked at',
  'core/compare': 'what is another than before',
  'core/editor': 'names, completion, remedies',
  'core/check': 'rules and their facts',
  'core/library': 'what others import',
  core: 'index.ts',
  start: 'the parts of the program',
  web: 'one HTTP request',
  links: 'whether they are answered',
  browser: 'pages, photographed',
  platforms: 'speaking to them',
  mail: 'MIME, SMTP, IMAP',
  pictures: 'bytes, hosting, fetching',
  standins: 'a mailbox, hosts, platforms',
  project: 'files, configuration, builds',
  preview: 'a server and its page',
  editor: 'the language server',
  cli: 'commands, the terminal',
};

const rows = [];
for (const folder of imports.keys()) (rows[floorOf(folder)] ??= []).push(folder);
const [width, gap, height, step] = [176, 12, 46, 58];
const widest = Math.max(...rows.map((row) => row.length));
const total = { width: widest * (width + gap) + gap, height: rows.length * step + gap };
const boxes = rows.flatMap((row, floor) =>
  row.sort().map((folder, place) => {
    const x = (total.width - row.length * (width + gap) + gap) / 2 + place * (width + gap);
    const y = total.height - (floor + 1) * step;
    const fill = folder.startsWith('core') ? '#e8f1ec' : '#f3ece0';
    return `  <rect x="${x}" y="${y}" width="${width}" height="${height}" rx="5" fill="${fill}" stroke="#44605a"/>
  <text x="${x + width / 2}" y="${y + 19}" class="name">${folder}</text>
  <text x="${x + width / 2}" y="${y + 35}" class="what">${words[folder] ?? ''}</text>`;
  }),
);
const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${total.width} ${total.height}" width="${total.width}" height="${total.height}" role="img">
  <title>The folders of src, by floors: each imports only from those below it</title>
  <style>text{font-family:Arial,sans-serif;text-anchor:middle;fill:#1d2b28}.name{font-size:14px;font-weight:bold}.what{font-size:11px}</style>
  <rect width="100%" height="100%" fill="#ffffff"/>
${boxes.join('\n')}
</svg>
`;

const path = 'docs/house.svg';
if (!process.argv.includes('--check')) writeFileSync(path, svg);
else if (readFileSync(path, 'utf8') !== svg) {
  console.error(`${path} is not what the borders say: run node scripts/house.mjs.`);
  process.exitCode = 1;
}
