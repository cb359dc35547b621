// What the plain-text version costs beside parsing the same page, and how it grows with the page.
// `npm run build && node bench/text.mjs`
import { readFileSync } from 'node:fs';
import { parseHtml } from '../dist/core/html/parse.js';
import { plainText } from '../dist/core/plaintext/plain-text.js';
import { SourceText } from '../dist/core/text/source-text.js';
import { textWidth } from '../dist/core/text/text-width.js';

const page = readFileSync('demo/foreign/bellmoor-export.html', 'utf8');
const body = /<body[^>]*>([^]*)<\/body>/.exec(page)?.[1] ?? '';
const pageOf = (times) => page.replace(body, () => body.repeat(times));
const options = { width: 72, links: 'notes', measure: textWidth, tagRole: () => null };

function median(work) {
  const times = Array.from({ length: 7 }, () => {
    const started = performance.now();
    work();
    return performance.now() - started;
  });
  return times.sort((a, b) => a - b)[3] ?? 0;
}

const parse = (html) => parseHtml(new SourceText('page', html), []).doc;
// Once before it counts: what is compiled while it runs is slower.
median(() => plainText(parse(pageOf(10)), options));
const rows = [20, 40, 80].map((times) => {
  const html = pageOf(times);
  const floor = median(() => parse(html));
  const whole = median(() => plainText(parse(html), options));
  return { size: html.length, floor, whole };
});
for (const { size, floor, whole } of rows)
  console.log(`${(size / 1024).toFixed(0)} KB: ${(whole / floor).toFixed(1)} × parsing alone`);
rows.slice(1).forEach(({ whole }, index) => {
  console.log(`twice the page: ${(whole / (rows[index]?.whole ?? 1)).toFixed(2)} × the time`);
});
