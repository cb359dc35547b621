// Takes the pictures of docs/screenshots from the sample project: `npm run build && npm run screenshots`.
// Needs Chromium, Xvfb, xterm and ImageMagick's `import`.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium } from 'playwright-core';
import sharp from 'sharp';
import { findBrowser } from '../dist/browser/browser.js';
import { renderSample } from '../dist/core/message/render-message.js';
import { neutralDialect } from '../dist/core/dialects/dialect.js';
import { loadConfig } from '../dist/project/config/config.js';
import { FileLog } from '../dist/project/files/file-log.js';
import { loadMessage } from '../dist/project/load/load-message.js';
import { htmlNames, messageFiles } from '../dist/project/load/message-names.js';
import { MessagePreparer } from '../dist/project/visit/prepare-message.js';
import { startMailbox } from '../dist/standins/mailbox.js';

/** What alone is wanted: a terminal (`npm run screenshots check-terminal`), `preview`, `platform` or `conversion`; all pictures where none is named. */
const only = process.argv[2] ?? null;

const target = resolve('docs/screenshots');
const work = mkdtempSync(join(tmpdir(), 'inscriba-shots-'));
mkdirSync(target, { recursive: true });

function shell(command, options = {}) {
  const result = spawnSync('sh', ['-c', command], { encoding: 'utf8', ...options });
  if (result.status !== 0) throw new Error(`${command}: ${result.stderr}`);
  return result.stdout;
}

/** A message as the sample recipient reads it. */
async function asRead(name, edition) {
  const ignore = () => undefined;
  const { config } = await loadConfig(resolve('demo'));
  const file = (await messageFiles(config.folder)).find((candidate) => candidate.name === name);
  const files = new FileLog();
  const message = await loadMessage(file, config, { files }, ignore);
  const preparer = new MessagePreparer(message, config, {
    files,
    partNames: await htmlNames(config.folder, 'parts'),
  });
  const chosen = preparer.editions(ignore).find((candidate) => candidate.name === edition);
  const { versions, pictures } = await preparer.prepare(chosen, ignore);
  return renderSample(versions, {
    dialect: neutralDialect,
    recipient: preparer.recipient(2026, null),
    picturePath: (path) => `images/${pictures.get(path).name}`,
    linkParameters: [],
    text: { width: 72, links: 'notes', measure: (text) => text.length },
  }).html;
}

async function pages(part) {
  shell(`node ${resolve('dist/program/inscriba.js')} demo --quiet`, { cwd: work });
  const built = (name) => join(work, 'out/archive', name, 'index.html');
  const messages = ['may-newsletter', 'parts-specimen', 'loans-due', 'membership-receipt', 'repair-day'];
  for (const [message, edition] of [...messages.map((name) => [name, null]), ['branch-notice', 'mill-yard']])
    writeFileSync(built(edition === null ? message : `${message}/${edition}`), await asRead(message, edition));
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? findBrowser(process.env.PATH ?? ''),
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const page = await browser.newPage();
  const alone = { platform, preview, conversion }[part];
  if (alone !== undefined) {
    await alone(page);
    await browser.close();
    return;
  }
  for (const [name, message, width, colorScheme] of [
    ['specimen-desktop', 'parts-specimen', 1280, 'light'],
    ['newsletter-desktop', 'may-newsletter', 1280, 'light'],
    ['membership-receipt', 'membership-receipt', 700, 'light'],
    ['branch-notice', 'branch-notice/mill-yard', 700, 'light'],
  ]) {
    await page.emulateMedia({ colorScheme });
    await page.setViewportSize({ width, height: 800 });
    await page.goto(pathToFileURL(built(message)).href);
    await page.screenshot({ path: join(target, `${name}.png`), fullPage: true });
  }
  await page.emulateMedia({ colorScheme: 'light' });
  await page.setViewportSize({ width: 375, height: 800 });
  await page.goto(pathToFileURL(built('may-newsletter')).href);
  await page.evaluate(() => document.querySelectorAll('style').forEach((element) => element.remove()));
  await page.screenshot({ path: join(target, 'newsletter-phone-head-stripped.png'), fullPage: true });
  await conversion(page);
  await mailbox(page);
  await platform(page);
  await preview(page);
  await browser.close();
}

/** The report of a conversion. */
async function conversion(page) {
  const convert = 'convert foreign/bellmoor-export.html --from bellmoor --to ferrywire --footer replace';
  shell(
    `node ${resolve('dist/program/inscriba.js')} ${convert} --out ${join(work, 'c.html')} --report ${join(work, 'r.html')}`,
    {
      cwd: resolve('demo'),
    },
  );
  await page.setViewportSize({ width: 1280, height: 1400 });
  await page.goto(pathToFileURL(join(work, 'r.html')).href);
  await page.screenshot({ path: join(target, 'conversion-report.png') });
}

/** A proof, as the simulated mailbox shows it. */
async function mailbox(page) {
  const running = await startMailbox({ smtpPort: 0, pagePort: 0, received: async () => undefined });
  const copy = mkdtempSync(join(tmpdir(), 'inscriba-proof-'));
  shell(`cp -r ${resolve('demo')}/. ${copy} && sed -i 's/port: 4025/port: ${running.smtpPort}/' inscriba.yaml`, {
    cwd: copy,
  });
  await new Promise((done) =>
    spawn(
      'node',
      [resolve('dist/program/inscriba.js'), 'proof', 'may-newsletter', '--to', 'members', '--with', 'ines'],
      {
        cwd: copy,
        stdio: 'inherit',
      },
    ).once('exit', done),
  );
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${running.page}mail/1`);
  await page.waitForTimeout(500);
  await page.screenshot({ path: join(target, 'proof-mailbox.png') });
  await running.stop();
}

/** A template, as a simulated platform shows it. */
async function platform(page) {
  const folder = mkdtempSync(join(tmpdir(), 'inscriba-platform-'));
  shell(`cp -r ${resolve('demo')}/. . && mv platforms.yaml inscriba.yaml`, { cwd: folder });
  const standin = spawn(
    'node',
    [
      resolve('dist/program/inscriba.js'),
      'standin',
      '--only',
      'larkfold',
      '--platform-port',
      '0',
      '--env',
      'there.env',
    ],
    {
      cwd: folder,
      stdio: 'ignore',
    },
  );
  while (!existsSync(join(folder, 'there.env'))) await pause(100);
  shell(`set -a; . ./there.env; node ${resolve('dist/program/inscriba.js')} push may-newsletter --to friends`, {
    cwd: folder,
  });
  await page.setViewportSize({ width: 1280, height: 800 });
  const [, address] = /LARKFOLD_URL=(\S+)/.exec(readFileSync(join(folder, 'there.env'), 'utf8'));
  await page.goto(address);
  await page.click('td a');
  await page.waitForTimeout(800);
  await page.screenshot({ path: join(target, 'standin-template.png') });
  standin.kill();
}

/** The wall and the bench of a preview, and the page of a comparison. */
async function preview(page) {
  const copy = mkdtempSync(join(tmpdir(), 'inscriba-preview-'));
  const program = resolve('dist/program/inscriba.js');
  shell(`cp -r ${resolve('demo')} ${join(copy, 'before')} && cp -r ${resolve('demo')} ${join(copy, 'after')}`);
  const served = spawn('node', [program, 'preview', '--port', '0'], { cwd: join(copy, 'before') });
  const address = await new Promise((told) =>
    served.stderr.on('data', (said) => {
      const found = /http:\/\/[\d.:]+\//.exec(String(said));
      if (found !== null) told(found[0]);
    }),
  );
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(address);
  await page.waitForFunction(() =>
    [...document.querySelectorAll('.state')].every((state) => state.textContent === 'fine'),
  );
  await page.waitForTimeout(1000);
  await page.screenshot({ path: join(target, 'preview-wall.png') });
  shell('sed -i \'s#href="https://alderlane.example/repair-day"#href=""#\' messages/may-newsletter.html', {
    cwd: join(copy, 'before'),
  });
  await page.goto(`${address}may-newsletter`);
  await page.waitForFunction(() => document.querySelector('.finding') !== null);
  await page.waitForTimeout(1000);
  await page.screenshot({ path: join(target, 'preview-bench.png') });
  served.kill('SIGINT');
  shell('sed -i \'s#href=""#href="https://alderlane.example/repair-day"#\' messages/may-newsletter.html', {
    cwd: join(copy, 'before'),
  });
  shell("sed -i 's/between ten and four/between nine and four/' messages/may-newsletter.html", {
    cwd: join(copy, 'after'),
  });
  shell(`node ${program} compare --since ../before --report ../changes.html`, { cwd: join(copy, 'after') });
  await page.goto(pathToFileURL(join(copy, 'changes.html')).href);
  await page.waitForTimeout(500);
  await page.screenshot({ path: join(target, 'compare-page.png') });
}

/**
 * Runs a command in a real terminal window and photographs it.
 * @param {{ shown?: string, meanwhile?: () => Promise<void> }} more what is shown as the command, and what is done meanwhile
 */
async function terminal(name, command, rows, columns = 128, more = {}) {
  if (only !== null && name !== only) return;
  const display = ':77';
  const server = spawn('Xvfb', [display, '-screen', '0', `1280x${Math.max(800, rows * 18)}x24`, '-nolisten', 'tcp'], {
    stdio: 'ignore',
  });
  const env = { ...process.env, DISPLAY: display };
  await pause(1500);
  const script = join(work, `${name}.sh`);
  const shown = `printf '$ %s\\n' "${more.shown ?? command}"; ${command.replace(/(^|&& )inscriba /g, `$1node ${resolve('dist/program/inscriba.js')} `)}; sleep 20`;
  writeFileSync(script, shown);
  const window = spawn(
    'xterm',
    [
      '-fa',
      'DejaVu Sans Mono',
      '-fs',
      '10',
      '-bg',
      '#fbfaf6',
      '-fg',
      '#24231f',
      '-geometry',
      `${columns}x${rows}+0+0`,
      '-e',
      'sh',
      script,
    ],
    { cwd: work, env, stdio: 'ignore' },
  );
  await (more.meanwhile?.() ?? pause(name === 'demo-terminal' ? 30_000 : 12_000));
  const id = shell(`xwininfo -root -tree | grep -i xterm | head -1 | awk '{print $1}'`, { env }).trim();
  shell(`import -window ${id} ${join(target, `${name}.png`)}`, { env });
  window.kill();
  server.kill();
  await pause(500);
}

/** A real editor at work on a message: with the settings of docs/editors.md, two mistakes, and what is known of a merge tag. */
async function editor() {
  if (only !== null && only !== 'editor') return;
  const settings = join(work, 'settings.lua');
  const lines = /```lua\n([\s\S]*?)```/.exec(readFileSync('docs/editors.md', 'utf8'))[1];
  const program = resolve('dist/program/inscriba.js');
  const looks =
    "vim.o.background = 'light'\nvim.o.number = true\nvim.o.wrap = false\nvim.o.completeopt = 'menuone,noinsert'\n";
  writeFileSync(
    settings,
    looks + lines.replace("'inscriba', 'language-server'", `'node', '${program}', 'language-server'`),
  );
  const message = join(work, 'messages/may-newsletter.html');
  writeFileSync(
    message,
    readFileSync('demo/messages/may-newsletter.html', 'utf8')
      .replace('of tools', 'of toosl')
      .replace('on the shelf', 'at @{brnch}'),
  );
  const socket = join(work, 'editor.sock');
  const press = (keys) => shell(`nvim --server ${socket} --remote-send '${keys}'`);
  await terminal('editor', `nvim -n -u ${settings} --listen ${socket} messages/may-newsletter.html`, 34, 136, {
    meanwhile: async () => {
      await pause(6000);
      press('20Gzt/first_name<CR>:noh<CR>:lua vim.lsp.buf.hover()<CR>');
      await pause(3000);
    },
  });
}

const pause = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds));

if (only === null || ['preview', 'platform', 'conversion'].includes(only)) await pages(only);
await terminal('demo-terminal', 'inscriba demo', 32, 136);
shell(
  `cp -r ${resolve('demo')}/. ${work} && sed -i 's/first_name ?? "neighbour"}, it took/branch}, it took/' messages/may-newsletter.html && sed -i 's|<h2>What we|<p style="color: #aaa">See <a href="">the diary</a> or <a href="www.alderlane.example">our page</a>.</p><h2>What we|' messages/repair-day.html`,
  { cwd: work },
);
await terminal('check-terminal', 'inscriba check', 24, 136);
// One message has changed since all were built; errors of the check keep no message from being built.
shell(`node ${resolve('dist/program/inscriba.js')} build --quiet || true`, { cwd: work });
shell(`sed -i 's/from ten till four/from nine till four/' messages/repair-day.html`, { cwd: work });
await terminal('list-terminal', 'inscriba list', 26);
await editor();
await terminal('dialect-terminal', 'inscriba dialect show larkfold', 53, 156);
shell(`rm -r ${work}/* && cp -r ${resolve('demo')}/. ${work} && mkdir drafts && cp images/poster.png drafts`, {
  cwd: work,
});
shell(
  `node ${resolve('dist/program/inscriba.js')} slice images/poster.png --plan images/poster.slices.yaml --out cut`,
  {
    cwd: work,
  },
);
shell(`cp images/poster.slices.png ${join(target, 'slice-overview.png')}`, { cwd: work });
await terminal('slice-terminal', 'inscriba slice drafts/poster.png --suggest-alt && cat drafts/poster.slices.yaml', 30);
shell(`node ${resolve('dist/program/inscriba.js')} prove may-newsletter --shots shots`, { cwd: work });
await sharp(join(work, 'shots/may-newsletter-light-375.png'))
  .extract({ left: 0, top: 0, width: 1189, height: 900 })
  .png({ palette: true })
  .toFile(join(target, 'prove-newsletter.png'));
