import { afterEach, describe, expect, test } from '@jest/globals';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { TestFolder } from '../../support/project.js';

let folder: TestFolder;
afterEach(() => folder.remove());

/** A design of three bands: flat green, two panels, flat yellow; 600 by 400. */
function design(): Promise<Buffer> {
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400"><rect width="600" height="100" fill="#1f4d3a"/><rect x="40" y="40" width="300" height="20" fill="#fff"/><rect y="100" width="250" height="200" fill="#f0e6d2"/><rect x="40" y="150" width="100" height="60" fill="#000"/><rect x="250" y="100" width="350" height="200" fill="#7a2e1d"/><rect x="300" y="150" width="200" height="60" fill="#fff"/><rect y="300" width="600" height="100" fill="#e8c15a"/></svg>';
  return sharp(Buffer.from(svg)).png().toBuffer();
}

const plan = `size: { width: 600, height: 400 }
width: 600
bands:
  - to: 100
    alt: "Tools & more"
    href: "https://alderlane.example/?a=1&b=2"
    target: _blank
  - to: 300
    columns:
      - to: 250
        name: left
        alt: ""
      - name: right
        alt: Right
        jpeg: 70
  - alt: ""
`;

describe('slice', () => {
  test('proposes a plan and an overview; a plan that is there stays', async () => {
    folder = new TestFolder().write({ 'a.png': await design() });
    const run = folder.run(['slice', 'a.png', '--link', 'https://alderlane.example/']);
    expect(run.code).toBe(0);
    expect(run.err).toBe(
      'a.png: 3 bands, 4 slices\nwrote a.slices.yaml\nwrote a.slices.png\nLook at a.slices.png, edit the plan (3 slices need an alt), then: inscriba slice a.png --plan a.slices.yaml\n',
    );
    const text = folder.read('a.slices.yaml');
    expect(text.match(/to: \d+/g)).toEqual(['to: 100', 'to: 300', 'to: 250', 'to: 600', 'to: 400']);
    expect(text.match(/alt:.*$/gm)?.slice(-4)).toEqual(['alt:', 'alt:', 'alt:', 'alt: ""']);
    folder.write({ 'a.slices.yaml': 'mine' });
    const again = folder.run(['slice', 'a.png']);
    expect([again.code, again.err.includes('slice-exists'), folder.read('a.slices.yaml')]).toEqual([2, true, 'mine']);
    expect(folder.run(['slice', 'a.png', '--force']).code).toBe(0);
    expect(folder.read('a.slices.yaml')).toContain('bands:');
    // What nobody has described is not cut.
    const open = folder.run(['slice', 'a.png', '--plan', 'a.slices.yaml']);
    expect([open.code, open.err.match(/a\.slices\.yaml:\d+:\d+ {2}error {2}slice-alt-missing/g)?.length]).toEqual([
      1, 3,
    ]);
    expect(existsSync(join(folder.path, 'a-slices'))).toBe(false);
  });

  test('cuts by a plan: links, names, texts, a photograph as JPEG', async () => {
    folder = new TestFolder().write({ 'a.png': await design(), 'p.yaml': plan });
    const run = folder.run([
      'slice',
      'a.png',
      '--plan',
      'p.yaml',
      '--out',
      'cut',
      '--link',
      'https://alderlane.example/all',
    ]);
    expect(run.code).toBe(0);
    const names = readdirSync(join(folder.path, 'cut/images')).map((name) => name.replace(/-[\da-f]{8}/, ''));
    expect(names.sort()).toEqual(['a-band-1.png', 'a-band-3.png', 'a-left.png', 'a-right.jpg']);
    const html = folder.read('cut/index.html');
    expect([...html.matchAll(/<a href="([^"]+)"([^>]*?) style/g)].map(([, href, rest]) => [href, rest])).toEqual([
      ['https://alderlane.example/?a=1&amp;b=2', ' target="_blank"'],
      ['https://alderlane.example/all', ''],
    ]);
    expect(html).toContain('alt="Tools &amp; more"');
    expect(
      [...html.matchAll(/<img[^>]*? width="(\d+)" height="(\d+)"/g)].map(([, width, height]) => `${width}×${height}`),
    ).toEqual(['600×100', '250×200', '350×200', '600×100']);
  });

  test('reads the texts in slices, and says how sure it is', () => {
    folder = TestFolder.demoProject();
    const run = folder.run(['slice', 'images/poster.png', '--force', '--suggest-alt']);
    expect(run.code).toBe(0);
    expect(folder.read('images/poster.slices.yaml')).toMatch(
      /alt: "REPAIR DAY" {2}# read from the picture, unsure \(\d+ %\): check it/,
    );
    expect(folder.read('images/poster.slices.yaml')).toContain('alt:  # no text found: say what it shows');
  });

  test.each<[string, string, string, string, string]>([
    ['a cut before the one above it', 'to: 300', 'to: 90', 'slice-order', ':8:9'],
    ['a cut past the end', '- to: 250', '- to: 900', 'slice-order', ':10:13'],
    ['a last slice that ends too early', '  - alt: ""\n', '  - to: 390\n    alt: ""\n', 'slice-end', ':16:9'],
    ['a missing cut', '  - to: 100\n    alt', '  - alt', 'config-missing-key', ':4:5'],
    ['no alt', 'alt: Right', 'target: _top', 'slice-alt-missing', ':13:9'],
    ['an empty alt that is no text', 'alt: Right', 'alt:', 'slice-alt-missing', ':14:13'],
    ['two slices of one name', 'name: right', 'name: left', 'slice-name-twice', ':13:9'],
    ['live text beside pictures', 'alt: Right', 'live: parts/x.html', 'slice-live-column', ':14:15'],
    ['another picture', 'height: 400', 'height: 500', 'slice-size', ':1:7'],
    ['an unknown key', 'target: _blank', 'traget: _blank', 'config-unknown-key', ':7:5'],
    ['a text for a number', 'to: 300', 'to: middle', 'config-wrong-type', ':8:9'],
    ['what is no YAML', 'bands:', 'bands: [', 'config-syntax', ':4:9'],
    [
      'a slice that no screen shows',
      '- to: 250',
      '- to: 600\n        name: all\n        alt: ""\n      - to: 600',
      'slice-order',
      ':13:13',
    ],
  ])('%s is told at its line', async (_, from, to, code, place) => {
    folder = new TestFolder().write({ 'a.png': await design(), 'p.yaml': plan.replace(from, to) });
    const run = folder.run(['slice', 'a.png', '--plan', 'p.yaml']);
    expect(run.err).toContain(`p.yaml${place}  error  ${code}  `);
    expect(run.err.match(/ {2}error {2}/g)?.length).toBe(1);
    expect([run.code === 1 || run.code === 2, existsSync(join(folder.path, 'a-slices'))]).toEqual([true, false]);
  });

  test.each<[string, string[], string]>([
    ['a picture that is not there', ['slice', 'none.png'], 'file-missing'],
    ['a plan that is not there', ['slice', 'a.png', '--plan', 'none.yaml'], 'file-missing'],
    ['a drawing of shapes', ['slice', 'a.svg'], 'only still pictures of pixels can be cut'],
    ['a text', ['slice', 'p.yaml'], 'it is text, not a picture'],
  ])('%s is refused', async (_, words, sentence) => {
    folder = new TestFolder().write({
      'a.png': await design(),
      'p.yaml': plan,
      'a.svg': '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>',
    });
    const run = folder.run(words);
    expect([run.code === 1 || run.code === 2, run.err.includes(sentence)]).toEqual([true, true]);
  });

  test('in a message: pictures of one name, and one picture by two plans, are told apart', async () => {
    const other = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#123456' } })
      .png()
      .toBuffer();
    folder = TestFolder.demoProject().write({
      'images/a.png': await design(),
      'images/p.yaml': plan,
      'images/q.yaml': plan.replace('- to: 100', '- to: 150'),
      'images/more/a.png': other,
      'images/more/p.yaml': plan,
      'messages/odd.html':
        '<!doctype html>\n<html lang="en"><head><title>Odd</title></head>\n<body>\n<img src="../images/a.png" slices="../images/p.yaml">\n<img src="../images/a.png" slices="../images/q.yaml">\n<img src="../images/more/a.png" slices="../images/more/p.yaml">\n</body></html>\n',
    });
    expect(folder.run(['build', 'odd', '--to', 'archive']).code).toBe(0);
    const html = folder.read('out/archive/odd/index.html');
    const firsts = [...html.matchAll(/src="(images\/a-band-1-[\da-f]{8}\.png)" width="600" height="(\d+)"/g)];
    expect(firsts.map(([, , height]) => height)).toEqual(['100', '150', '100']);
    expect(new Set(firsts.map(([, path]) => path)).size).toBe(3);
  });

  test('in a message: wrong places, missing plans and parts are told where they are named', async () => {
    folder = TestFolder.demoProject().write({ 'images/a.png': await design(), 'images/p.yaml': plan });
    const message = (body: string): string =>
      `<!doctype html>\n<html lang="en"><head><title>Odd</title></head>\n<body>\n${body}\n</body></html>\n`;
    const build = (body: string): string =>
      folder.write({ 'messages/odd.html': message(body) }).run(['build', 'odd', '--to', 'archive']).err;
    expect(build('<p><img src="../images/a.png" slices="../images/p.yaml"></p>')).toContain(
      'messages/odd.html:4:4  error  slice-place',
    );
    expect(build('<img src="../images/a.png" slices="../images/none.yaml">')).toContain(
      'messages/odd.html:4:36  error  slice-plan-missing',
    );
    expect(build('<img src="../images/b.png" slices="../images/p.yaml">')).toContain(
      'messages/odd.html:4:1  error  picture-missing',
    );
    expect(build('<img src="../../b.png" slices="../images/p.yaml">')).toContain(
      'messages/odd.html:4:1  error  picture-outside',
    );
    folder.write({ 'images/p.yaml': plan.replace('  - alt: ""\n', '  - live: ../../etc/passwd\n') });
    expect(build('<img src="../images/a.png" slices="../images/p.yaml">')).toContain('error  slice-live-missing');
    folder.write({ 'images/p.yaml': plan.replace('  - alt: ""\n', '  - live: parts/no-such.html\n') });
    expect(build('<img src="../images/a.png" slices="../images/p.yaml">')).toContain('no-such');
    // Findings after the table stand where the author wrote.
    folder.write({ 'images/p.yaml': plan });
    expect(build('<img src="../images/a.png" slices="../images/p.yaml">\n<p>@{frist_name}</p>')).toContain(
      'messages/odd.html:5:6  error  unknown-field',
    );
  });
});
