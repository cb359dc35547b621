// How long somebody who looks at the newsletter of the sample project waits behind a save: from the writing of a part that it uses
// to its new text in every view of the bench, in a browser. Times, in ms: `node bench/preview.mjs` prints them.
import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import { setTimeout } from 'node:timers/promises';
import { findBrowser, startBrowser } from '../dist/browser/browser.js';

/** So many saves are made before any is counted. */
const FIRST = 10;
const COUNTED = 31;

/** The median, in ms, from a save to the last view that shows it; null where this machine has no browser. */
export async function previewTime(program = resolve('dist/program/inscriba.js')) {
  const path = process.env.CHROMIUM ?? findBrowser(process.env.PATH ?? '');
  if (path === null) return null;
  const folder = mkdtempSync(join(tmpdir(), 'inscriba-preview-'));
  cpSync('demo', folder, { recursive: true, filter: (file) => !/demo\/out(?:\/|$)/.test(file) });
  const preview = spawn(process.execPath, [program, 'preview', '--port', '0'], {
    cwd: folder,
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  const address = await new Promise((found) => {
    let said = '';
    preview.stderr.setEncoding('utf8').on('data', (text) => {
      said += text;
      if (said.includes('Ctrl-C stops.')) found(/http:\/\/[\d.:]+\//.exec(said)[0]);
    });
  });
  const browser = await startBrowser(path);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}may-newsletter`);
  // The page looks into its own frames, and tells when the last of them shows a text: to ask it from here takes as long again.
  const shown = (text) =>
    page.evaluate(
      (wanted) =>
        new Promise((found) => {
          const look = () => {
            const frames = [...document.querySelectorAll('.view iframe')];
            const shows = ({ contentDocument }) => contentDocument?.body?.textContent.includes(wanted);
            if (frames.length === 3 && frames.every(shows)) found(performance.timeOrigin + performance.now());
            else setTimeout(look, 4);
          };
          look();
        }),
      text,
    );
  await shown('The lathe is back');
  const part = join(folder, 'parts/house-footer.html');
  const written = readFileSync(part, 'utf8');
  const times = [];
  for (let round = 1; round <= FIRST + COUNTED; round += 1) {
    // Whoever writes stops between saves, and the checks of the save before come to their end.
    await setTimeout(700);
    const isShown = shown(`Save ${round} of them.`);
    const start = performance.timeOrigin + performance.now();
    writeFileSync(part, written.replace('</p>', ` Save ${round} of them.</p>`));
    const end = await isShown;
    if (round > FIRST) times.push(end - start);
  }
  await browser.close();
  preview.kill();
  rmSync(folder, { recursive: true, force: true });
  return times.sort((a, b) => a - b)[times.length >> 1];
}

if (process.argv[1] === resolve('bench/preview.mjs'))
  console.log(`shown after ${(await previewTime())?.toFixed(0)} ms`);
