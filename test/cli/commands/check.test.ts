import { createServer, type Server } from 'node:http';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import sharp from 'sharp';
import Ajv04 from 'ajv-draft-04';
import addFormats from 'ajv-formats';
import { plantedProject } from '../../support/planted-messages.js';
import { repository, TestFolder } from '../../support/project.js';

interface Report {
  readonly counts: Readonly<Record<string, number>>;
  readonly findings: readonly { code: string; severity: string; place: { file: string; line: number } | null }[];
  readonly accepted: readonly { code: string; reason: string }[];
}

let folder: TestFolder;
afterEach(() => folder.remove());

const configuration = `name: Alder Lane Tool Library
sender:
  name: Alder Lane Tool Library
  address: desk@alderlane.example
  reply_to: hello@alderlane.example
  postal_address: 14 Alder Lane, Harrowby
fields: { first_name: { sample: Ines }, website: { sample: 'https://a.example' }, branch: { sample: mill } }
destinations:
  plain: { dialect: neutral, images: { mode: package } }
`;

/** What a check finds, as `file:line code`. */
function found(words: readonly string[]): string[] {
  const report = JSON.parse(folder.run(['check', ...words, '--format', 'json']).out) as Report;
  return report.findings.map(({ code, place }) => `${place === null ? '' : `${place.file}:${place.line} `}${code}`);
}

const page = (body: string): string =>
  `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>Repair Day</title></head>\n<body>\n${body}\n</body></html>\n`;

describe('check on messages', () => {
  test('finds each of the planted mistakes on its line, and nothing else', async () => {
    const { pages, planted } = plantedProject();
    expect(planted.length).toBeGreaterThanOrEqual(60);
    const saw = await sharp({ create: { width: 200, height: 120, channels: 3, background: '#446688' } })
      .png()
      .toBuffer();
    folder = new TestFolder().write({ 'inscriba.yaml': configuration, 'images/saw.png': saw, ...pages });
    expect(found([]).sort()).toEqual(planted);
  });

  test('says of the sample project, and of what it is built to, nothing', () => {
    folder = TestFolder.builtDemo();
    const { code, err } = folder.run(['check']);
    expect([code, err]).toEqual([0, '6 messages: nothing found; 1 accepted.\n']);
    for (const name of ['may-newsletter', 'loans-due', 'repair-day', 'parts-specimen', 'membership-receipt'])
      expect(
        found([`out/archive/${name}/index.html`]).filter((line) => !/ (?:line-long|tag-no-fallback)$/.test(line)),
      ).toEqual([]);
  });

  test.each(['newsletter', 'notice', 'receipt', 'blank'])(
    'asks of the starter %s what is to be filled in',
    (starter) => {
      folder = new TestFolder();
      folder.run(['new', 'project', 'shed', '--starter', starter]);
      const { out } = folder.run(['check', '--format', 'json'], { folder: 'shed' });
      const codes = new Set((JSON.parse(out) as Report).findings.map(({ code }) => code));
      expect([...codes].filter((code) => code !== 'sender-unfilled' && code !== 'starter-address')).toEqual([]);
      expect(codes).toContain('sender-unfilled');
      expect(folder.read('shed/inscriba.yaml')).not.toContain('alderlane');
    },
  );

  test('accepts one occurrence where it stands, with a reason; of which nothing reaches the output', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': configuration,
      'styles/a.css': '/* accept css-decoration-lost: they may do without */\n.a { outline: 1px solid #223344; }\n',
      'messages/a.html': page(
        [
          '<link rel="stylesheet" href="../styles/a.css">',
          '<!-- accept link-insecure: the page has no other -->',
          '<p class="a"><a href="http://a.example/">One</a> <a href="http://b.example/">Two</a></p>',
          '<!-- accept alt-missing: there is none -->',
          '<!-- accept link-empty -->',
          '<p><a href="">Three</a></p>',
          '<!-- accept link-epmty: not known -->',
        ].join('\n'),
      ).replace('<head>', '<head><meta name="preheader" content="What is new">'),
    });
    const report = JSON.parse(folder.run(['check', '--format', 'json']).out) as Report;
    expect(report.accepted.map(({ code, reason }) => [code, reason])).toEqual([
      ['css-decoration-lost', 'they may do without'],
      ['link-insecure', 'the page has no other'],
    ]);
    const codes = report.findings.map(({ code, place }) => `${code} ${place?.line ?? ''}`);
    expect(codes).toEqual(
      expect.arrayContaining([
        'link-insecure 6',
        'accept-unused 7',
        'accept-reason 8',
        'link-empty 9',
        'accept-unknown 10',
      ]),
    );
    folder.run(['build']);
    expect(folder.read('out/plain/a/index.html')).not.toContain('accept');
  });

  test('a project sets how grave findings are, for all or for a destination; what keeps from building stays', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': `${configuration}  other: { dialect: neutral, checks: { link-empty: off } }\nchecks: { alt-missing: error, lang-missing: off, link-insecure: off, postal-missing: off, preheader-missing: off, unknown-field: off }\n`,
      'messages/a.html': page(
        '<p><a href="">x</a> <a href="http://a.example/">y</a><img src="https://a.example/a.png" width="9"></p>',
      ),
    });
    expect(found(['--to', 'other'])).toEqual(['messages/a.html:4 alt-missing']);
    expect(found([]).sort()).toEqual(['messages/a.html:4 alt-missing', 'messages/a.html:4 link-empty']);
    expect(folder.run(['check']).code).toBe(1);
    folder.change('messages/a.html', 'y</a>', '@{nothing}</a>');
    expect(found(['--to', 'other'])).toEqual(['messages/a.html:4 unknown-field']);
    folder.change('inscriba.yaml', 'alt-missing', 'alt-mising');
    const { code, err } = folder.run(['check']);
    expect([code, err]).toEqual([2, expect.stringContaining('inscriba.yaml:11:23  error  check-code-unknown')]);
    expect(err).toContain('Did you mean "alt-missing"?');
  });

  test('build says errors and warnings, and writes; pack does not', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': configuration.replace('neutral', 'ferrywire'),
      'messages/a.html': page(
        '<p><a href="">x</a> <a href="http://a.example/">y</a></p><p>@{link.unsubscribe} @{sender.postal_address} @{sender.company}</p>',
      ),
    });
    const built = folder.run(['build']);
    expect([built.code, built.err]).toEqual([1, expect.stringContaining('error  link-empty')]);
    expect(built.err).not.toContain('link-insecure');
    expect(folder.read('out/plain/a/index.html')).toContain('href=""');
    const again = folder.run(['build']);
    expect([again.code, again.err]).toEqual([1, expect.stringMatching(/^unchanged: 1\n[\s\S]*link-empty/)]);
    const packed = folder.run(['pack']);
    expect([packed.code, packed.err]).toEqual([1, expect.stringContaining('Not built: a for plain')]);
  });

  test('tags of platforms that were pasted into a message are told, in parts too; those of the project are not', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': configuration,
      'parts/a-greeting.html': '<template accepts="to">\n<p>Dear (:first-name:), to ${to}</p>\n</template>',
      'messages/a.html': page(
        '<p>Hello ~~FIRST_NAME~~ and @{first_name ?? "you"}</p>\n<p>{{ first_name }} (or: so)</p>\n<a-greeting to="all"></a-greeting>',
      ),
    });
    expect(found(['a']).filter((line) => line.includes('tag-'))).toEqual([
      'messages/a.html:4 tag-of-platform',
      'messages/a.html:5 tag-of-platform',
      'parts/a-greeting.html:2 tag-of-platform',
    ]);
  });

  test('--strict takes warnings for errors', () => {
    folder = new TestFolder().write({ 'page.html': page('<p style="color:#999">Soon</p>') });
    expect(folder.run(['check', 'page.html']).code).toBe(0);
    const { code, err } = folder.run(['check', 'page.html', '--strict']);
    expect([code, err]).toEqual([1, expect.stringContaining('page.html:4:1  error  contrast-low')]);
  });
});

describe('check on finished HTML', () => {
  const card = (index: number): string =>
    [
      '<tr>',
      `<td style="padding:8px">`,
      '<div class="card">',
      '<table role="presentation" width="100%">',
      `<tr><td><h2>Tool ${index}</h2>`,
      `<p>~~IF LOANS~~Yours is number ${index}.~~END IF~~</p>`,
      `<p><a href="https://alderlane.example/t/${index}">Reserve tool ${index}</a></p>`,
      '</td>',
      '</tr>',
      '</table>',
      '</div>',
      '</td>',
      '</tr>',
    ].join('\n');
  const cards = Array.from({ length: 160 }, (_, index) => card(index)).join('\n');
  const whole = page(
    `<h1>Tools</h1>\n<table role="presentation" width="100%">\n${cards}\n</table>\n<p><a href="~~LINK_LEAVE~~">Leave</a></p>`,
  );

  beforeAll(() => expect(whole.split('\n').length).toBeGreaterThan(2000));

  test.each([
    ['</div>', 'unclosed-tag', -8],
    ['</table>', 'unclosed-tag', -6],
    ['</a>', 'unclosed-tag', 0],
    ['</h2>', 'unclosed-tag', 0],
    ['</td>', 'end-tag-left-out', -3],
    ['</tr>', 'end-tag-left-out', -4],
    ['<div class="card">', 'stray-end-tag', 8],
  ])('a %s that is left out is one finding, where its element begins', (tag, code, distance) => {
    const at = whole.indexOf(tag, whole.length / 2);
    const line = whole.slice(0, at).split('\n').length;
    folder = new TestFolder().write({ 'page.html': whole.slice(0, at) + whole.slice(at + tag.length) });
    const structural = found(['page.html']).filter((item) => !/text-missing|footer-missing|dialect/.test(item));
    expect(structural).toEqual([`page.html:${line + distance} ${code}`]);
  });

  test('tags that are never closed, unknown or of another platform are told, and what the platform asks for', () => {
    folder = new TestFolder().write({
      'page.html': page(
        '<p>~~IF LOANS~~You have loans.</p>\n<p>~~FIRST_NAME~~ ~~IF BRANCH~~b~~END IF~~ ~~ELSEWHERE:X~~</p>\n<p>[= FirstName ]</p>',
      ),
    });
    expect(found(['page.html']).filter((line) => /tag-|merge-|footer/.test(line))).toEqual([
      'page.html:1 footer-missing',
      'page.html:1 footer-missing',
      'page.html:4 merge-unclosed',
      'page.html:5 tag-unknown',
      'page.html:6 tag-foreign',
    ]);
  });

  test('reads standard input, and a file without a project', () => {
    folder = new TestFolder();
    const { code, err } = folder.run(['check', '-'], { input: page('<p><a href="#x">x</a></p>') });
    expect([code, err]).toEqual([1, expect.stringContaining('<stdin>:4:7  error  anchor-missing')]);
    expect(folder.run(['check', 'none.html'])).toMatchObject({ code: 2, err: expect.stringContaining('file-missing') });
  });

  test('of very many findings of a kind the first three are shown, and the number', () => {
    folder = new TestFolder().write({
      'page.html': page('<p><img src="https://a.example/a.png" width="9"></p>\n'.repeat(40)),
    });
    const { err } = folder.run(['check', 'page.html']);
    expect(err.match(/ alt-missing /g)).toHaveLength(3);
    expect(err).toContain('… and 37 more of alt-missing, 40 in all.');
  });

  test('what only looks plainer is told of the engines that are asked for', () => {
    folder = new TestFolder().write({
      'page.html': page('<p style="border-radius:4px">Soon</p><div style="display:grid">x</div>'),
    });
    expect(found(['page.html']).filter((line) => line.includes('engine'))).toEqual(['page.html:4 engine-property']);
    expect(found(['page.html', '--engine', 'word']).filter((line) => line.includes('engine'))).toHaveLength(2);
    expect(found(['page.html', '--engine', 'webkit']).filter((line) => line.includes('engine'))).toEqual([]);
    const { code, err } = folder.run(['check', 'page.html', '--engine', 'wrod']);
    expect([code, err]).toEqual([2, expect.stringContaining('Did you mean "word"?')]);
  });
});

describe('a bound of the width, for the word engine', () => {
  test.each([
    ['width:600px;max-width:100%', 0],
    ['width:100%;max-width:600px', 1],
    ['max-width:100%', 1],
  ])('%s on a table', (style, count) => {
    folder = new TestFolder().write({ 'page.html': page(`<table style="${style}"><tr><td>x</td></tr></table>`) });
    expect(found(['page.html']).filter((line) => line.includes('engine-property'))).toHaveLength(count);
  });
});

describe('check for machines', () => {
  const written = page(
    '<p><a href="">x</a><img src="https://a.example/a.png" width="9"></p>\n<!-- accept link-placeholder: later -->\n<p><a href="#">y</a></p>',
  );

  test('JSON is what its schema says', async () => {
    folder = new TestFolder().write({ 'page.html': written });
    const { Ajv2020 } = await import('ajv/dist/2020.js');
    const schema = JSON.parse(readFileSync(join(repository, 'schemas/check.schema.json'), 'utf8')) as object;
    const validate = new Ajv2020({ strict: true, strictTypes: false, strictRequired: false }).compile(schema);
    const report = JSON.parse(folder.run(['check', 'page.html', '--format', 'json']).out) as Report;
    expect(validate(report) ? [] : validate.errors).toEqual([]);
    expect(report.counts).toEqual({ error: 1, warning: 1, note: 1, accepted: 1 });
  });

  test('SARIF is what the standard’s schema asks for, and names accepted findings as such', () => {
    folder = new TestFolder().write({ 'page.html': written });
    const { out } = folder.run(['check', 'page.html', '--format', 'sarif']);
    expect(sarifProblems(JSON.parse(out))).toEqual([]);
    const [run] = (JSON.parse(out) as { runs: { results: Record<string, unknown>[] }[] }).runs;
    expect(run?.results.filter(({ suppressions }) => suppressions !== undefined)).toEqual([
      expect.objectContaining({
        ruleId: 'link-placeholder',
        suppressions: [{ kind: 'inSource', status: 'accepted', justification: 'later' }],
      }),
    ]);
  });

  test('so is SARIF of a message with a part, of no finding, and of places that no address may hold as they are', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': configuration,
      'parts/gru-ß.html': '<template accepts=""><p><a href="">x</a></p></template>',
      'messages/a b.html': page('<gru-ß></gru-ß>'),
      'b c/ü#?.html': page('<p><a href="">x</a></p>'),
      'empty.html': '',
    });
    const logs = [[], ['b c/ü#?.html'], ['empty.html']].map((names): unknown =>
      JSON.parse(folder.run(['check', ...names, '--format', 'sarif']).out),
    );
    expect(logs.map(sarifProblems)).toEqual([[], [], []]);
    const [project] = logs;
    expect(JSON.stringify(project)).toContain('"uri":"parts/gru-%C3%9F.html"');
    expect(JSON.stringify(project)).toContain('"relatedLocations":[{"id":0,');
  });

  test('which the schema can refuse', () => {
    expect(sarifProblems({ version: '2.1.0', runs: [{ tool: { driver: {} }, results: [{}] }] })).toHaveLength(2);
    const region = { startLine: 0 };
    const locations = [{ physicalLocation: { artifactLocation: { uri: 'a b' }, region } }];
    const results = [{ message: { text: 'x' }, locations }];
    expect(sarifProblems({ version: '2.1.0', runs: [{ tool: { driver: { name: 'x' } }, results }] })).toHaveLength(2);
  });
});

/** Where a log is not what the standard asks for (SARIF 2.1.0, its JSON Schema). */
function sarifProblems(log: unknown): string[] {
  const file = join(repository, 'test/fixtures/standards/sarif-2.1.0.schema.json');
  const schema = JSON.parse(readFileSync(file, 'utf8')) as object;
  const ajv = new Ajv04.default({ strict: false, allErrors: true, unicodeRegExp: false });
  addFormats.default(ajv);
  const validate = ajv.compile(schema);
  validate(log);
  return (validate.errors ?? []).map(({ instancePath, message }) => `${instancePath} ${message ?? ''}`);
}

describe('check --links', () => {
  let server: Server;
  let port = 0;
  const asked: string[] = [];

  beforeAll(async () => {
    server = createServer((request, response) => {
      const path = request.url ?? '';
      asked.push(`${request.method ?? ''} ${path}`);
      const answer = (status: number, headers: Record<string, string> = {}): void =>
        void response.writeHead(status, headers).end();
      if (path === '/fine') answer(200);
      else if (path === '/gone') answer(404);
      else if (path === '/get-only') answer(request.method === 'HEAD' ? 405 : 200);
      else if (path === '/moved') answer(301, { location: '/fine' });
      else if (path === '/visits') answer(302, { location: '/fine' });
      else if (path === '/round') answer(302, { location: '/round-2' });
      else if (path === '/round-2') answer(302, { location: '/round' });
      else if (path === '/cut') request.socket.destroy();
      // What is slow never answers.
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const address = server.address();
    port = typeof address === 'object' && address !== null ? address.port : 0;
  });

  afterAll(() => {
    server.closeAllConnections();
    server.close();
  });

  test('asks each address once, shows where it leads on, and tells what is dead, slow, round or cut', async () => {
    const paths = ['fine', 'fine#top', 'gone', 'get-only', 'moved', 'visits', 'round', 'cut', 'slow'];
    const links = paths.map((path) => `<p><a href="http://127.0.0.1:${port}/${path}">${path}</a></p>`);
    folder = new TestFolder().write({
      'page.html': page(
        `${links.join('\n')}\n<p><a href="http://127.0.0.1:${port}/@{branch}">tag</a></p>\n<p><a href="http://127.0.0.1:1/">nobody</a></p>`,
      ),
    });
    expect(folder.run(['check', 'page.html']).err).not.toContain('link-dead');
    expect(asked).toEqual([]);
    const { out, code } = await folder.runBeside([
      'check',
      'page.html',
      '--links',
      '--timeout',
      '1',
      '--format',
      'json',
    ]);
    const lines = (JSON.parse(out) as Report).findings
      .filter(({ code: own }) => /^link-(?:dead|loop|slow|moved|unreachable)$/.test(own))
      .map(({ code: own, place }) => `${place?.line ?? ''} ${own}`);
    expect(lines).toEqual([
      '6 link-dead',
      '8 link-moved',
      '10 link-loop',
      '11 link-unreachable',
      '12 link-slow',
      '14 link-unreachable',
    ]);
    expect(code).toBe(1);
    folder.change(
      'page.html',
      '<p><a href="http://127.0.0.1:1/"',
      '<!-- accept link-unreachable: it is not up yet --><p><a href="http://127.0.0.1:1/"',
    );
    expect(found(['page.html'])).not.toContain('page.html:14 accept-unused');
    const again = await folder.runBeside(['check', 'page.html', '--links', '--timeout', '1', '--format', 'json']);
    expect((JSON.parse(again.out) as Report).accepted.map(({ reason }) => reason)).toEqual(['it is not up yet']);
    expect(asked.filter((line) => line === 'HEAD /fine').length).toBeGreaterThan(0);
    expect(asked.some((line) => line.includes('branch'))).toBe(false);
    expect(asked).toEqual(expect.arrayContaining(['HEAD /get-only', 'GET /get-only']));
  });
});
