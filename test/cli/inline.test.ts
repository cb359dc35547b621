import { afterEach, describe, expect, test } from '@jest/globals';
import { TestFolder } from '../support/project.js';

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
