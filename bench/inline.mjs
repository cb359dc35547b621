// What inlining costs beside the least that it could: parsing the document and its style sheet with the same libraries
// and printing them back. Both run in turn in one process; the ratios are of medians. `node bench/inline.mjs`
import { performance } from 'node:perf_hooks';
import * as csstree from 'css-tree';
import { parse, serialize } from 'parse5';
import { parseHtml } from '../dist/core/html/parse.js';
import { SourceText } from '../dist/core/text/source-text.js';
import { inlineStyles } from '../dist/core/inline/inline.js';
import { readSheets } from '../dist/core/css/cascade/sheets.js';
import { newsletter } from './newsletter.mjs';

const ROUNDS = 7;

function floor({ html, css }) {
  return (
    serialize(parse(html, { sourceCodeLocationInfo: true })).length +
    csstree.generate(csstree.parse(css, { positions: true })).length
  );
}

function inline({ html }) {
  const { doc } = parseHtml(new SourceText('bench.html', html), []);
  const ignore = () => undefined;
  return inlineStyles({ doc, sheets: readSheets(doc, [], () => null, ignore), keepHead: false }, ignore).length;
}

function time(work, input) {
  const start = performance.now();
  work(input);
  return performance.now() - start;
}

const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

function measure(kilobytes, rules) {
  const input = newsletter(kilobytes * 1024, rules);
  const floors = [];
  const inlines = [];
  for (let round = 0; round < ROUNDS + 2; round += 1) {
    const [a, b] = [time(floor, input), time(inline, input)];
    if (round >= 2) {
      floors.push(a);
      inlines.push(b);
    }
  }
  return { floor: median(floors), inline: median(inlines) };
}

const sizes = [10, 100, 400];
const ruleCounts = [50, 300, 1000];
const results = new Map();
for (const size of sizes) for (const rules of ruleCounts) results.set(`${size}/${rules}`, measure(size, rules));

console.log('inlining ÷ parsing and printing, by size and rules');
console.log(`${'KB'.padStart(6)}${ruleCounts.map((rules) => `${rules} rules`.padStart(14)).join('')}`);
for (const size of sizes) {
  const row = ruleCounts.map((rules) => {
    const { floor: least, inline: own } = results.get(`${size}/${rules}`);
    return (own / least).toFixed(2).padStart(14);
  });
  console.log(`${String(size).padStart(6)}${row.join('')}`);
}
const grow = (from, to) => (results.get(to).inline / results.get(from).inline).toFixed(2);
console.log(`4 times the size (100 → 400 KB, 300 rules): ${grow('100/300', '400/300')} times the time`);
console.log(`3.3 times the rules (300 → 1000, 100 KB): ${grow('100/300', '100/1000')} times the time`);
