import { afterEach, describe, expect, test } from '@jest/globals';
import { zipSync } from 'fflate';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { TestFolder } from '../../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

const config = `# Ours
name: Shed
fields:
  # who reads
  first_name: { sample: Ines }
destinations: { out: { dialect: neutral } }
`;

/** A zip that says that its sizes take 64 bits: the record that names their place stands before its end. */
const short = Buffer.from(zipSync({ 'a.html': Buffer.from('~~A~~') }));
const shortEnd = short.lastIndexOf('PK\u0005\u0006', undefined, 'latin1');
const locator = Buffer.concat([Buffer.from('PK\u0006\u0007', 'latin1'), Buffer.alloc(16)]);
const zip64 = Buffer.concat([short.subarray(0, shortEnd), locator, short.subarray(shortEnd)]);

describe('adopt', () => {
  test('makes a message of finished HTML: neutral tags, regions, pictures; and declares what it lacked', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': config,
      'in/Spring Sale.html': `<html><head><title>Hi [= FirstName ]</title><style>.a{background:url(pics/b.png)}</style></head>
<body bgcolor="#eeeeee"><table><tr><td><div class="fw-open" id="lead">Cost: \${5} [= Branch ]</div></td></tr>
<tr><td><img src="pics/a.png" srcset="pics/a.png 1x, pics/b.png 2x"><img src="https://w.example/x.png"></td></tr>
<tr><td>[for each Loans as Loan][= Loan.Tool ][done]</td></tr><tr><td><a class="fw-badge" href="#">F</a></td></tr></table></body></html>`,
      'in/pics/a.png': new Uint8Array([1]),
      'in/pics/b.png': new Uint8Array([2]),
    });
    const run = folder.run(['adopt', 'in/Spring Sale.html']);
    expect(run.code).toBe(0);
    const text = folder.read('messages/spring-sale.html');
    expect(text).toContain('<title>Hi @{first_name}</title>');
    expect(text).toContain('.a{background:url(../images/spring-sale/b.png)}');
    expect(text).toContain('<body style="background-color:#eeeeee">\n<div data-raw>');
    expect(text).toContain('<td region="lead">Cost: $${5} @{branch}</td>');
    expect(text).toContain(
      'src="../images/spring-sale/a.png" srcset="../images/spring-sale/a.png 1x, ../images/spring-sale/b.png 2x"',
    );
    expect(text).toContain('@{each loans as loan}@{loan.tool}@{end}');
    expect(text).not.toContain('fw-badge');
    expect([...folder.bytes('images/spring-sale/b.png')]).toEqual([2]);
    expect(folder.read('inscriba.yaml')).toBe(
      config.replace(
        '  # who reads\n',
        '  branch: { sample: branch }\n  loans: { list: text, sample: [] }\n  # who reads\n',
      ),
    );
    expect(run.err).toContain('adopt-picture-left  1 picture stay where they are: https://w.example/x.png');
    // What is there is not written over.
    const again = folder.run(['adopt', 'in/Spring Sale.html']);
    expect([again.code, again.err.includes('new-exists')]).toEqual([2, true]);
    expect(folder.run(['adopt', 'in/Spring Sale.html', '--force', '--from', 'ferrywire', '--quiet']).code).toBe(0);
  });

  test('takes what is in a zip and nothing outside of it', () => {
    const html = '<p>(:first-name:)</p><img src="../../secret.png"><img src="in.png">';
    folder = new TestFolder().write({
      'inscriba.yaml': config,
      'secret.png': 'secret',
      'x.zip': zipSync({ 'a/index.html': Buffer.from(html), 'a/in.png': new Uint8Array([3]) }),
    });
    expect(folder.run(['adopt', 'x.zip', '--as', 'zipped']).code).toBe(0);
    expect(folder.read('messages/zipped.html')).toContain(
      '<img src="../../secret.png"><img src="../images/zipped/in.png">',
    );
    expect(existsSync(join(folder.path, 'images/zipped/secret.png'))).toBe(false);
  });

  test.each<[string, Record<string, string | Uint8Array>, string[], number, string]>([
    ['a file that is not there', {}, ['no.html'], 2, 'file-missing'],
    ['a zip that is none', { 'x.zip': 'PK no' }, ['x.zip'], 1, 'adopt-unreadable'],
    [
      'a zip without a page',
      { 'x.zip': zipSync({ 'a.txt': new Uint8Array([1]) }) },
      ['x.zip'],
      1,
      'it holds no HTML file',
    ],
    ['a zip of the kind for more than 4 GB', { 'x.zip': zip64 }, ['x.zip'], 1, 'it is a ZIP64'],
    ['a mail without HTML', { 'x.eml': 'Subject: a\r\n\r\nhello' }, ['x.eml'], 1, 'it holds no HTML'],
    [
      'a block that is not closed',
      { 'x.html': '<p>\n~~IF A~~x</p>' },
      ['x.html'],
      1,
      'x.html:2:1  error  merge-unclosed',
    ],
    ['tags of nobody', { 'x.html': '<p>hello</p>' }, ['x.html'], 1, 'dialect-unrecognized'],
    ['a name that is none', { 'x.html': '~~A~~' }, ['x.html', '--as', 'a/b'], 2, 'new-name'],
  ])('%s is refused, and nothing is written', (_, files, words, code, message) => {
    folder = new TestFolder().write({ 'inscriba.yaml': config, ...files });
    const run = folder.run(['adopt', ...words]);
    expect([run.code, run.err.includes(message)]).toEqual([code, true]);
    expect(existsSync(join(folder.path, 'messages'))).toBe(false);
  });
});
