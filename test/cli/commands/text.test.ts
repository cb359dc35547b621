import { afterEach, describe, expect, test } from '@jest/globals';
import { TestFolder } from '../../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

describe('text', () => {
  test('reads any HTML: from a file, from standard input, several into a folder', () => {
    const html = '<p>Hello <a href="https://a.example">there</a>';
    folder = new TestFolder().write({ 'a.html': html, 'b.htm': '<h1>B</h1>' });
    const text = 'Hello there [1]\n\n[1] https://a.example\n';
    expect(folder.run(['text', 'a.html'])).toEqual({ code: 0, out: text, err: '' });
    expect(folder.run(['text', '-'], { input: html }).out).toBe(text);
    expect(folder.run(['text', 'a.html', '--links', 'beside']).out).toBe('Hello there (https://a.example)\n');
    expect(folder.run(['text', 'a.html', 'b.htm', '--out', 'texts/']).code).toBe(0);
    expect([folder.read('texts/a.txt'), folder.read('texts/b.txt')]).toEqual([text, 'B\n=\n']);
  });

  test('merge tags of any known platform stay whole, those of blocks on lines of their own', () => {
    folder = new TestFolder().write({
      'a.html': `<p>Hello ~~FIRST_NAME?dear neighbour of ours~~</p>~~IF VIP~~<p>${'word '.repeat(20)}</p>~~ELSE~~<p>no</p>~~END IF~~<p>{% if x %}in{% endif %} line`,
    });
    const { out } = folder.run(['text', 'a.html', '--width', '40']);
    expect(out.split('\n')).toEqual([
      'Hello',
      '~~FIRST_NAME?dear neighbour of ours~~',
      '',
      '~~IF VIP~~',
      'word word word word word word word word',
      'word word word word word word word word',
      'word word word word',
      '~~ELSE~~',
      'no',
      '~~END IF~~',
      '',
      '{% if x %}in{% endif %} line',
      '',
    ]);
  });

  test.each<[string, string | Uint8Array, number, string]>([
    ['an empty file', '', 0, ''],
    ['a byte order mark', '\ufeff<p>a', 0, 'a\n'],
    ['CRLF', '<p>a\r\nb\r\n<pre>c\r\nd</pre>', 0, 'a b\n\nc\nd\n'],
    ['no markup at all', 'just words', 0, 'just words\n'],
  ])('%s', (_, content, code, text) => {
    folder = new TestFolder().write({ 'a.html': content });
    const run = folder.run(['text', 'a.html']);
    expect([run.code, run.out]).toEqual([code, text]);
  });

  test('what is not UTF-8 is told, and nothing is written', () => {
    folder = new TestFolder().write({ 'a.html': Buffer.from('<p>Gr\xfc\xdfe', 'latin1') });
    const run = folder.run(['text', 'a.html', '--out', 'a.txt']);
    expect([run.code, run.err]).toEqual([1, expect.stringContaining('not-utf8')]);
    expect(() => folder.read('a.txt')).toThrow();
  });

  test('a large document takes a moment, and one that is all one paragraph no longer', () => {
    const many = '<span>word</span> '.repeat(60_000);
    folder = new TestFolder().write({ 'a.html': `<p>${many}`, 'b.html': `${'<div>'.repeat(3000)}deep` });
    expect(folder.run(['text', 'a.html']).out.split(/\s+/).length).toBe(60_001);
    expect(folder.run(['text', 'b.html']).out).toBe('deep\n');
  });
});

const letter = (body: string): string =>
  `<!doctype html><html lang="en"><head><title>Hi</title></head><body>${body}<p><a href="@{link.unsubscribe}">Leave</a> @{sender.postal_address}</p></body></html>`;

describe('text versions that authors say otherwise', () => {
  test('data-text stands in the text in place of what the element holds, and nowhere in the HTML', () => {
    folder = TestFolder.demoProject().write({
      'messages/said.html': letter(
        `<h1 data-text="Short">A long heading</h1>
<p>See <a href="https://alderlane.example/x" data-text="the shelf of @{branch ?? 'ours'}">here</a>, <img src="../images/sign.png" alt="old" data-text='new "alt" for @{first_name ?? "you"}'></p><p data-text>gone</p>
<div style="display:flex" data-text="two in one"><div style="flex:1">A</div><div style="flex:1">B</div></div>
<table><tr><th>K</th><th>V</th></tr><tr data-text="a row"><td>1</td><td>2</td></tr></table>
<ul><li data-text="said &lt;so&gt;">x</li><li data-text="">gone</li></ul><hr data-text="* * *">
<template for="text"><p>For readers of text</p></template><template for="html"><p>For others</p></template>`,
      ),
    });
    const run = folder.run(['build', 'said', '--to', 'archive']);
    expect([run.code, run.err.split('\n').length]).toEqual([0, 2]);
    const html = folder.read('out/archive/said/index.html');
    expect(html).not.toMatch(/data-text|For readers of text/);
    expect(html).toContain('For others');
    const [text] = folder.read('out/archive/said/index.txt').split('\n\nLeave');
    expect(text).toBe(
      `Short
=====

See the shelf of @{branch ?? 'ours'} [1], new "alt" for
@{first_name ?? "you"}

two in one

K      V
a row

* said <so>

* * *

For readers of text`,
    );
  });

  test('messages/<name>.txt is the text version, in the dialect; what is out of step is told at its place', () => {
    folder = TestFolder.demoProject().write({
      'messages/own.html': letter('<p>Dear @{first_name}, see <a href="https://alderlane.example/one">one</a>.</p>'),
      'messages/own.txt':
        'Dear @{first_name ?? "reader"},\r\n\r\n  see (https://alderlane.example/one). By ${project.name}\r\n\r\nLeave: @{link.unsubscribe}\r\n@{sender.postal_address}\r\n',
    });
    expect(folder.run(['build', 'own', '--quiet'])).toEqual({ code: 0, out: '', err: '' });
    expect(folder.read('out/members/own/index.txt')).toBe(
      'Dear ~~FIRST_NAME?reader~~,\n\n  see (https://alderlane.example/one?source=mail&campaign=own). By Alder Lane Tool Library\n\nLeave: ~~LINK_LEAVE~~\n~~SENDER_POSTAL~~\n',
    );
    folder
      .change('messages/own.txt', '/one)', '/one-more)')
      .change('messages/own.txt', 'Leave: @{link.unsubscribe}', 'Bye, @{branch}');
    const run = folder.run(['build', 'own']);
    const said = run.err.match(/^messages\/\S+ {2}\w+ {2}\S+/gm);
    expect([run.code, said]).toEqual([
      1,
      [
        'messages/own.html:1:98  warning  text-link-missing',
        'messages/own.html:1:159  warning  text-tag-missing',
        'messages/own.txt:3:8  warning  text-link-extra',
        'messages/own.txt:5:6  warning  text-tag-extra',
        'messages/own.txt:6:25  error  text-footer-missing',
      ],
    ]);
    // What was built before stays.
    expect(folder.read('out/members/own/index.txt')).toContain('LINK_LEAVE');
  });

  test.each<[string, string, string]>([
    ['a field that nobody has', 'Hi @{frist_name}', 'Did you mean "first_name"?'],
    ['a tag that never ends', 'Hi @{first_name', 'own.txt:1:4  error  tag-unclosed'],
    ['a block that never ends', '@{if branch}x', 'merge-unclosed'],
    ['a value that nobody knows', '${projct.name}', 'own.txt:1:3  error'],
    ['nothing', ' \n', 'text-empty'],
    ['another encoding', '\ud800', 'own.txt'],
  ])('wrong in it: %s', (_, text, said) => {
    folder = TestFolder.demoProject().write({
      'messages/own.html': letter('<p>x</p>'),
      'messages/own.txt': text === '\ud800' ? Buffer.from('\xff\xfex', 'latin1') : text,
    });
    const run = folder.run(['build', 'own', '--to', 'archive']);
    expect([run.code, run.err]).toEqual([1, expect.stringContaining(said)]);
  });

  test('data in a text version are no tags, and no HTML', () => {
    folder = TestFolder.demoProject().write({
      'data/odd.yaml': 'name: "<b> & @{first_name} \\"x\\""\n',
      'messages/own.html': letter('<p>x</p>').replace(
        '</head>',
        '<meta name="data" content="../data/odd.yaml"></head>',
      ),
      'messages/own.txt': '${name} at @${name} @{link.unsubscribe} @{sender.postal_address} $${x} @@{y}\n',
    });
    expect(folder.run(['build', 'own', '--to', 'members', '--quiet'])).toEqual({ code: 0, out: '', err: '' });
    expect(folder.read('out/members/own/index.txt')).toBe(
      '<b> & @{first_name} "x" at @<b> & @{first_name} "x" ~~LINK_LEAVE~~ ~~SENDER_POSTAL~~ ${x} @{y}\n',
    );
  });
});
