// Takes the pictures of docs/screenshots from the sample project: `npm run build && npm run screenshots`.
// Needs Chromium, Xvfb, xterm and ImageMagick's `import`.
import { spawn, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium } from 'playwright-core';

const target = resolve('docs/screenshots');
const work = mkdtempSync(join(tmpdir(), 'inscriba-shots-'));
mkdirSync(target, { recursive: true });

function shell(command, options = {}) {
  const result = spawnSync('sh', ['-c', command], { encoding: 'utf8', ...options });
  if (result.status !== 0) throw new Error(`${command}: ${result.stderr}`);
  return result.stdout;
}

async function pages() {
  shell(`node ${resolve('dist/cli/bin.js')} demo --quiet`, { cwd: work });
  const built = (name) => join(work, 'out/archive', name, 'index.html');
  const messages = ['may-newsletter', 'parts-specimen', 'repair-day', 'loans-due', 'membership-receipt'];
  for (const name of [...messages, 'branch-notice/mill-yard']) {
    const filled = readFileSync(built(name), 'utf8')
      .replace(/@\{first_name[^}]*\}/g, 'Ines')
      .replace(/@\{if branch[^}]*\}(.*?)@\{else\}.*?@\{end\}/g, '$1')
      .replace(/@\{if loan\.fee\}(.*?)@\{else\}.*?@\{end\}/g, '$1')
      .replace(/@\{(?:each|if|else|end)\b[^}]*\}/g, '')
      .replace('@{loan.tool}', 'Cordless drill')
      .replace('@{loan.due}', '9 May')
      .replace('@{loan.fee}', '£1.50')
      .replace('@{member_number}', 'A-2207')
      .replace('@{sender.company}', 'Alder Lane Tool Library CIC')
      .replace('@{sender.postal_address}', '14 Alder Lane, Harrowby HX0 0ZZ');
    writeFileSync(built(name), filled);
  }
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const page = await browser.newPage();
  for (const [name, message, width, colorScheme] of [
    ['specimen-desktop', 'parts-specimen', 1280, 'light'],
    ['specimen-phone', 'parts-specimen', 375, 'light'],
    ['specimen-dark', 'parts-specimen', 700, 'dark'],
    ['newsletter-desktop', 'may-newsletter', 1280, 'light'],
    ['loans-due', 'loans-due', 700, 'light'],
    ['membership-receipt', 'membership-receipt', 700, 'light'],
    ['branch-notice', 'branch-notice/mill-yard', 700, 'light'],
    ['newsletter-phone', 'may-newsletter', 375, 'light'],
  ]) {
    await page.emulateMedia({ colorScheme });
    await page.setViewportSize({ width, height: 800 });
    await page.goto(pathToFileURL(built(message)).href);
    await page.screenshot({ path: join(target, `${name}.png`), fullPage: true });
  }
  await page.setViewportSize({ width: 375, height: 800 });
  await page.evaluate(() => document.querySelectorAll('style').forEach((element) => element.remove()));
  await page.screenshot({ path: join(target, 'newsletter-phone-head-stripped.png'), fullPage: true });
  await browser.close();
}

/** Runs a command in a real terminal window and photographs it. */
async function terminal(name, command, rows) {
  const display = ':77';
  const server = spawn('Xvfb', [display, '-screen', '0', '1280x800x24', '-nolisten', 'tcp'], { stdio: 'ignore' });
  const env = { ...process.env, DISPLAY: display };
  await pause(1500);
  const script = join(work, `${name}.sh`);
  const shown = `printf '$ %s\\n' "${command}"; ${command.replaceAll('inscriba', `node ${resolve('dist/cli/bin.js')}`)}; sleep 20`;
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
      `128x${rows}+0+0`,
      '-e',
      'sh',
      script,
    ],
    { cwd: work, env, stdio: 'ignore' },
  );
  await pause(6000);
  const id = shell(`xwininfo -root -tree | grep -i xterm | head -1 | awk '{print $1}'`, { env }).trim();
  shell(`import -window ${id} ${join(target, `${name}.png`)}`, { env });
  window.kill();
  server.kill();
  await pause(500);
}

const pause = (milliseconds) => new Promise((done) => setTimeout(done, milliseconds));

await pages();
await terminal('demo-terminal', 'inscriba demo', 26);
shell(
  `cp -r ${resolve('demo')}/. ${work} && sed -i 's/Hello @{first_name/Hello @{frist_name/; s/images\\/lathe.jpg/images\\/lath.jpg/' messages/may-newsletter.html && sed -i 's/  gap: 24px;/  gap: 24px; position: absolute;/' styles/newsletter.css`,
  { cwd: work },
);
await terminal('findings-terminal', 'inscriba build may-newsletter --to members', 22);
shell(
  `rm -r ${work}/* && cp -r ${resolve('demo')}/. ${work} && node ${resolve('dist/cli/bin.js')} build --quiet && sed -i 's/tea, solder/coffee, solder/' messages/may-newsletter.html`,
  {
    cwd: work,
  },
);
await terminal('list-terminal', 'inscriba list', 26);
