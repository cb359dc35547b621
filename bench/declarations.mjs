// Counts how the declarations of the ordinary messages under test/fixtures ended: carried, without effect, left out, refused.
// `npm run build && node bench/declarations.mjs`
import { readdirSync, readFileSync } from 'node:fs';
import { compileMessage } from '../dist/core/message/compile-message.js';
import { readMessage } from '../dist/core/message/read-message.js';
import { expandPage } from '../dist/core/template/expand.js';
import { readHtmlMessage } from '../dist/core/template/message-template.js';
import { SourceText } from '../dist/core/text/source-text.js';

const folder = new URL('../test/fixtures/ordinary/', import.meta.url);
const nothing = () => undefined;
const kinds = ['carried', 'without effect', 'left out', 'refused'];
const total = new Map(kinds.map((kind) => [kind, 0]));
for (const name of readdirSync(folder).filter((file) => file.endsWith('.html'))) {
  const message = readHtmlMessage(new SourceText(name, readFileSync(new URL(name, folder), 'utf8')), nothing);
  const setting = { values: new Map(), shared: new Map(), parts: new Map(), partNames: [], language: 'en' };
  const page = expandPage(message.page, null, { ...setting, fields: new Set(), report: nothing });
  const { html } = readMessage(page, { fields: new Map(), buildNames: new Set() }, nothing);
  const size = () => ({ width: 1200, height: 600 });
  const files = { styleSheet: () => null, pictureSize: size, width: 600, fonts: [], drawsPictures: true };
  const ends = [...compileMessage(html, files, nothing).declarationEnds().values()];
  const counts = kinds.map((kind) => ends.filter((end) => end === kind).length);
  kinds.forEach((kind, at) => total.set(kind, total.get(kind) + counts[at]));
  console.log(`${name.padEnd(20)} ${kinds.map((kind, at) => `${kind} ${counts[at]}`).join(', ')}`);
}
console.log(`${'all'.padEnd(20)} ${[...total].map(([kind, count]) => `${kind} ${count}`).join(', ')}`);
