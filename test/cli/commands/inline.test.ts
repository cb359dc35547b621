import { afterEach, describe, expect, test } from '@jest/globals';
import { TestFolder } from '../../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

const page = '<!doctype html>\n<html><head><style>.a{color:red}</style></head><body><p class="a">x</p></body></html>\n';
const inlined = '<!doctype html>\n<html><head></head><body><p class="a" style="color:red">x</p></body></html>\n';

describe('inline', () => {
  test('one file goes to standard output, or to --out; - reads standard input', () => {
    folder = new TestFolder().write({ 'page.html': page });
    expect(folder.run(['inline', 'page.html'])).toEqual({ code: 0, out: inlined, err: '' });
    expect(folder.run(['inline', '-'], { input: page })).toEqual({ code: 0, out: inlined, err: '' });
    expect(folder.run(['inline', 'page.html', '--out', 'new/result.html'])).toEqual({ code: 0, out: '', err: '' });
    expect(folder.read('new/result.html')).toBe(inlined);
    expect(folder.read('page.html')).toBe(page);
  });

  test('a device is written to, and a full one is named', () => {
    folder = new TestFolder().write({ 'page.html': page });
    expect(folder.run(['inline', 'page.html', '--out', '/dev/null'])).toEqual({ code: 0, out: '', err: '' });
    const full = folder.run(['inline', 'page.html', '--out', '/dev/full']);
    expect([full.code, full.err.split('\n')[0]]).toEqual([
      2,
      'error  file-unwritable  /dev/full cannot be written: the disk is full',
    ]);
  });

  test('several files go into a folder, each under its own name', () => {
    folder = new TestFolder().write({ 'one.html': page, 'sub/two.html': page });
    expect(folder.run(['inline', 'one.html', 'sub/two.html', '--out', 'done/']).code).toBe(0);
    expect([folder.read('done/one.html'), folder.read('done/two.html')]).toEqual([inlined, inlined]);
    const refused = folder.run(['inline', 'one.html', 'sub/two.html']);
    expect([refused.code, refused.out]).toEqual([2, '']);
    expect(refused.err).toContain('out-needs-folder');
  });

  test('an input is never written over', () => {
    folder = new TestFolder().write({ 'page.html': page });
    const run = folder.run(['inline', 'page.html', '--out', 'page.html']);
    expect([run.code, run.err.includes('out-is-source'), folder.read('page.html')]).toEqual([2, true, page]);
  });

  test('linked local style sheets and those of --css take part, --css first', () => {
    const linked = page.replace('<style>.a{color:red}</style>', '<link rel="stylesheet" href="css/own.css">');
    folder = new TestFolder().write({
      'page.html': linked,
      'css/own.css': '.a{color:red;background:url(dot.png)}\n@media (max-width:600px){.a{color:blue}}\n',
      'base.css': '.a{color:green;margin:0}',
    });
    expect(folder.run(['inline', 'page.html', '--css', 'base.css'])).toEqual({
      code: 0,
      err: '',
      out: inlined
        .replace('<head>', '<head><style>\n@media (max-width:600px){.a{color:blue!important}}\n</style>')
        .replace('style="color:red"', 'style="margin:0;color:red;background:url(css/dot.png)"'),
    });
  });

  test('a missing linked file and broken CSS are findings with their place, and the rest is inlined', () => {
    const broken = page
      .replace('<style>', '<link rel="stylesheet" href="none.css"><style>@nonsense x;.b{color:}\n')
      .replace('.a{color:red}', '.a{color:red}.c{margin:0');
    folder = new TestFolder().write({ 'page.html': broken });
    const run = folder.run(['inline', 'page.html']);
    expect(run.code).toBe(1);
    expect(run.out).toContain('<p class="a" style="color:red">');
    const places = run.err
      .split('\n')
      .filter((line) => line.startsWith('page.html:'))
      .map((line) => line.split('  ').slice(0, 3).join(' '));
    expect(places).toEqual([
      'page.html:2:36 error style-sheet-missing',
      'page.html:2:74 error css-syntax',
      'page.html:3:14 error css-syntax',
      'page.html:2:59 warning css-ignored',
    ]);
  });

  test('--keep-head leaves what was inlined in the head, too', () => {
    folder = new TestFolder().write({ 'page.html': page });
    const out = folder.run(['inline', 'page.html', '--keep-head']).out;
    expect(out).toBe(page.replace('<p class="a">', '<p class="a" style="color:red">'));
  });

  test('a byte order mark and CRLF stay; a rule for a body without a tag stays in the head, with a note', () => {
    folder = new TestFolder().write({ 'page.html': '\ufeff<style>body{margin:0}p{color:red}</style>\r\n<P>x\r\n' });
    const run = folder.run(['inline', 'page.html']);
    expect([run.code, run.out]).toEqual([0, '\ufeff<style>body{margin:0}</style>\r\n<P style="color:red">x\r\n']);
    expect(run.err).toContain('page.html:1:8  note  inline-no-tag  The rule for body stays in the head');
  });

  test('--unused drop leaves out of the head what nothing uses, and says how much', () => {
    const css =
      '@font-face{font-family:Gone;src:url(g.woff2)}@font-face{font-family:Used;src:url(u.woff2)}' +
      '@keyframes gone{from{top:0}}.none:hover{color:red}.a:hover{color:blue}[data-reader] .a{color:green}' +
      '@media (max-width:600px){.none{color:red}.a{font-family:Used}}:root{--gone:1px}body .none{margin:0}';
    folder = new TestFolder().write({ 'page.html': page.replace('.a{color:red}', css) });
    const run = folder.run(['inline', 'page.html', '--unused', 'drop']);
    expect(run.out).toContain(
      '<style>@font-face{font-family:Used;src:url(u.woff2)}.a:hover{color:blue}[data-reader] .a{color:green}' +
        '@media (max-width:600px){.a{font-family:Used}}</style>',
    );
    expect([run.code, run.err.split('\n')[0]]).toEqual([
      0,
      'note  unused-dropped  page.html: 5 rules that nothing here uses, and what belongs to them, are left out: 0.1 KB',
    ]);
    expect(folder.run(['inline', 'page.html']).out).toContain('@keyframes gone');
    expect(folder.run(['inline', 'page.html', '--unused', 'some']).code).toBe(2);
  });

  test('a mistake in a condition and a variable without a value are warnings; every tag stays', () => {
    const html =
      '<style>\n@media max-width: 600px { p { color: red } }\n@media screen and max-width: 600px { p { color: red } }\n' +
      'tr { background-color: white; margin: var(--none) }</style>\n' +
      '<table><tr style="background-color: {{color}};"><td>x</td></tr></table>\n';
    folder = new TestFolder().write({ 'page.html': html });
    const run = folder.run(['inline', 'page.html']);
    expect(run.code).toBe(0);
    expect(run.out).toContain('<tr style="margin:unset;background-color:{{color}}">');
    expect([...run.err.matchAll(/^page\.html:(\S+ {2}\w+ {2}\S+)/gm)].map(([, what]) => what)).toEqual([
      '4:31  warning  css-variable-empty',
      '2:1  warning  css-ignored',
      '3:1  warning  css-ignored',
    ]);
  });

  test('the first hundred of many findings are printed, then how many more there are', () => {
    folder = new TestFolder().write({
      'page.html': `<style>${'p:nonsense{color:red}'.repeat(4000)}</style><p>x</p>\n`,
    });
    const run = folder.run(['inline', 'page.html']);
    expect([run.code, run.err.match(/css-ignored/g)?.length]).toEqual([0, 100]);
    expect(run.err.trimEnd().split('\n').at(-1)).toBe('… and 3900 warnings more.');
  });

  test('a project of fields alone is enough; what needs destinations asks for them', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': 'fields: { first_name: { sample: Ines } }\n',
      'page.html': page,
      'messages/a.html': '<p>x</p>',
    });
    expect(folder.run(['inline', 'page.html'])).toEqual({ code: 0, out: inlined, err: '' });
    expect(folder.run(['convert', 'page.html', '--from', 'bellmoor', '--to', 'oxbow']).code).toBe(0);
    const build = folder.run(['build']);
    expect([build.code, build.err]).toEqual([2, expect.stringContaining('destinations-missing')]);
  });

  test('an unknown dialect is named with the nearest one', () => {
    folder = new TestFolder().write({ 'page.html': page });
    const run = folder.run(['inline', 'page.html', '--dialect', 'belmoor']);
    expect([run.code, run.err.includes('Did you mean "bellmoor"?')]).toEqual([2, true]);
  });
});

const report =
  '<h1>Loans</h1><p>A <a href="https://alderlane.example/a">long enough line of text</a> to wrap, with ~~FIRST_NAME?good neighbour~~ in it.</p>';

describe('text', () => {
  test('writes notes for links by default, and keeps merge tags whole', () => {
    folder = new TestFolder().write({ 'page.html': report });
    expect(folder.run(['text', 'page.html', '--width', '40']).out).toBe(
      'Loans\n=====\n\nA long enough line of text [1] to wrap,\nwith ~~FIRST_NAME?good neighbour~~ in\nit.\n\n[1] https://alderlane.example/a\n',
    );
  });

  test('--links beside and none, and --out', () => {
    folder = new TestFolder().write({ 'page.html': '<p>See <a href="https://alderlane.example">us</a></p>' });
    expect(folder.run(['text', 'page.html', '--links', 'beside']).out).toBe('See us (https://alderlane.example)\n');
    expect(folder.run(['text', 'page.html', '--links', 'none', '--out', 'page.txt']).code).toBe(0);
    expect(folder.read('page.txt')).toBe('See us\n');
    expect(folder.run(['text', 'page.html', '--links', 'all']).code).toBe(2);
    expect(folder.run(['text', 'page.html', '--width', '5']).code).toBe(2);
  });
});
