// What compiling a message to tables costs: bytes of the result for each byte of the source, and time beside the least that
// it could take, parsing the source and its styles with the same libraries. Both run in turn in one process; the ratios
// are of medians. `node bench/layout.mjs`
import { readFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import * as csstree from 'css-tree';
import { parse } from 'parse5';
import { SourceText } from '../dist/core/text/source-text.js';
import { compileMessage } from '../dist/core/message/compile-message.js';
import { readMessage } from '../dist/core/message/read-message.js';

const ROUNDS = 9;
/** Pages without parts, so that the floor parses what is compiled. */
const pages = { 'may-newsletter': 'test/fixtures/newsletter/messages/', 'parts-specimen': 'demo/messages/' };
const folder = 'demo/messages/';

function measure(run) {
  const start = performance.now();
  run();
  return performance.now() - start;
}

function median(values) {
  return values.sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

function bench(name) {
  const text = readFileSync(`${pages[name]}${name}.html`, 'utf8');
  const styles = [...text.matchAll(/href="(\.\.\/styles\/[^"]+)"/g)].map((match) => match[1]);
  const sheets = new Map(styles.map((path) => [path, readFileSync(folder + path, 'utf8')]));
  const files = {
    styleSheet: (path) => new SourceText(path, sheets.get(path) ?? ''),
    pictureSize: () => ({ width: 528, height: 396 }),
    width: 600,
    fonts: [],
  };
  const ignore = () => undefined;
  const writer = { tag: () => '', picture: (path) => path, link: (address) => address, regions: false };
  let compiled = '';
  const compile = () => {
    const source = readMessage(new SourceText(name, text), { fields: new Map() }, ignore);
    compiled = compileMessage(source, files, ignore)?.html(writer, true) ?? '';
  };
  const floor = () => {
    parse(text, { sourceCodeLocationInfo: true });
    for (const css of sheets.values()) csstree.parse(css, { positions: true });
  };
  for (let round = 0; round < 3; round += 1) {
    compile();
    floor();
  }
  const times = Array.from({ length: ROUNDS }, () => [measure(compile), measure(floor)]);
  const source = text.length + [...sheets.values()].reduce((sum, css) => sum + css.length, 0);
  return {
    name,
    compiled: compiled.length,
    perByte: compiled.length / source,
    milliseconds: median(times.map(([own]) => own)),
    ratio: median(times.map(([own]) => own)) / median(times.map(([, least]) => least)),
  };
}

console.log('message          compiled   ÷ source bytes     time   ÷ parsing alone');
for (const name of Object.keys(pages)) {
  const { compiled, perByte, milliseconds, ratio } = bench(name);
  console.log(
    `${name.padEnd(16)} ${(compiled / 1024).toFixed(1).padStart(5)} KB ${perByte.toFixed(2).padStart(12)} ${milliseconds.toFixed(1).padStart(11)} ms ${ratio.toFixed(1).padStart(12)}`,
  );
}
