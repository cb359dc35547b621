import { afterEach, describe, expect, test } from '@jest/globals';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { TestFolder } from '../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

/** What a conversion of a text on standard input comes to. */
function convert(text: string, from: string, to: string): { code: number | null; out: string; findings: string[] } {
  folder = new TestFolder();
  const { code, out, err } = folder.run(['convert', '-', '--from', from, '--to', to, '--quiet'], { input: text });
  const findings = [...err.matchAll(/^<stdin>:(\d+:\d+) {2}\w+ {2}(\S+)/gm)].map(
    ([, place, found]) => `${place} ${found}`,
  );
  return { code, out, findings };
}

describe('convert', () => {
  test('writes the tags of another dialect, and leaves every other byte', () => {
    const html = `\ufeff<!DOCTYPE html>\r\n<P title='~~FIRST_NAME~~' x="&amp;">Hi&nbsp;~~FIRST_NAME?friend~~<br/>\r\n<!-- a -->~~IF BRANCH = "x"~~<b>y</b>~~ELSE~~z~~END IF~~\r\n\t</P >`;
    expect(convert(html, 'bellmoor', 'ferrywire')).toEqual({
      code: 0,
      out: `\ufeff<!DOCTYPE html>\r\n<P title='[= FirstName ]' x="&amp;">Hi&nbsp;[= FirstName / friend ]<br/>\r\n<!-- a -->[when Branch is "x"]<b>y</b>[otherwise]z[done]\r\n\t</P >`,
      findings: [],
    });
  });

  test('quotes of a tag do not end the attribute that it stands in', () => {
    const html = `<a title="#{person:a|b}" class='#{person:a|b}'>x</a>`;
    expect(convert(html, 'gannetry', 'oxbow').out).toBe(
      `<a title="<ox:field name='a' else='b'/>" class='<ox:field name="a" else="b"/>'>x</a>`,
    );
  });

  test('to the same dialect gives the same bytes', () => {
    const html = 'a [=  FirstName   / x ] [when  A known ]b[done]\r\n';
    expect(convert(html, 'ferrywire', 'ferrywire')).toEqual({ code: 0, out: html, findings: [] });
  });

  test('what binds as loosely as it is written needs no parentheses, and given is said as present', () => {
    folder = new TestFolder();
    const input = '@{if a and not b or (c or d)}x@{end}@{if given a}y@{end}';
    expect(folder.run(['convert', '-', '--to', 'ferrywire'], { input })).toEqual({
      code: 0,
      out: '[when A known and not B known or C known or D known]x[done][when A known]y[done]',
      err: '-: 4 tags: 3 exact, 1 rewritten\n',
    });
  });

  test('a fallback becomes a condition where a dialect has none of its own', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': 'name: x\ndestinations: { a: { dialect: ours } }\n',
      'dialects/ours.yaml': `dialect: ours
title: Ours
delimiters: [{ open: '%', close: '%' }]
tags: { field: '%{field}%', if: '%if {condition}%', else: '%else%', end_if: '%end%' }
conditions: { present: '{left}', path: '{field}' }
`,
    });
    const run = folder.run(['convert', '-', '--from', 'bellmoor', '--to', 'ours'], { input: '~~a?b~~' });
    expect(run).toEqual({ code: 0, out: '%if a%%a%%else%b%end%', err: '-: 1 tag: 1 rewritten\n' });
  });

  const refused: [name: string, text: string, from: string, to: string, findings: string[]][] = [
    [
      'a loss',
      'a ~~A?b~~\n~~EACH X OF XS~~~~X.Y~~~~END EACH~~',
      'bellmoor',
      'tansy',
      ['1:3 merge-loss', '2:1 merge-loss'],
    ],
    ['parentheses', '@{if (a or b) and c}x@{else}y@{end}', 'neutral', 'oxbow', ['1:1 merge-loss']],
    ['a condition on both of two', '@{if a and b}x@{else}y@{end}', 'neutral', 'handlebars', ['1:1 merge-loss']],
    ['a text that would end the tag', '@{a ?? "x] y"}', 'neutral', 'ferrywire', ['1:1 merge-loss']],
    ['a text that would end its quotes', `@{a ?? 'x" y'}`, 'neutral', 'oxbow', ['1:1 merge-loss']],
    ['an unknown tag', 'a ~~what is this~~', 'bellmoor', 'oxbow', ['1:3 tag-unknown']],
    ['a left-over tag', '~~A~~ [= B ]', 'bellmoor', 'oxbow', ['1:7 tag-foreign']],
    ['a block that is not closed', 'x\n ~~IF A~~b', 'bellmoor', 'oxbow', ['2:2 merge-unclosed']],
    ['an end too many', '~~A~~~~END IF~~', 'bellmoor', 'oxbow', ['1:6 merge-stray']],
    ['no tags to tell the dialect by', 'x', 'auto', 'oxbow', ['1:1 dialect-unrecognized']],
  ];

  test.each(refused)('%s is refused, and nothing is written', (_, text, from, to, findings) => {
    expect(convert(text, from, to)).toEqual({ code: 1, out: '', findings });
  });

  test('finds the dialect by its tags, takes several files, and reports each tag; where one is refused, none is written', () => {
    folder = new TestFolder().write({ 'a.html': '<p>(:a:)</p>\n\n(:b, capital:)', 'b.html': '#{person:a}' });
    const run = folder.run(['convert', 'a.html', 'b.html', '--to', 'bellmoor', '--out', 'new/', '--report', 'r.json']);
    expect([run.code, existsSync(join(folder.path, 'new'))]).toEqual([1, false]);
    expect(run.err).toContain('a.html:3:1  error  merge-loss  The dialect bellmoor cannot say the filter "capital"');
    expect(run.err).toMatch(
      /a\.html: 2 tags: 1 exact, 1 loss\nb\.html: 1 tag: 1 exact\n1 error\. Nothing was written\.\n$/,
    );
    const { tags } = JSON.parse(folder.read('r.json')) as { tags: object[] };
    expect(tags).toEqual([
      { file: 'a.html', line: 1, column: 4, from: '(:a:)', to: '~~A~~', verdict: 'exact', message: '' },
      expect.objectContaining({ file: 'a.html', line: 3, column: 1, to: '', verdict: 'loss' }),
      expect.objectContaining({ file: 'b.html', to: '~~A~~', verdict: 'exact' }),
    ]);
    folder.write({ 'a.html': '(:a:)' });
    expect(folder.run(['convert', 'a.html', 'b.html', '--to', 'bellmoor', '--out', 'new/']).code).toBe(0);
    expect([folder.read('new/a.html'), folder.read('new/b.html')]).toEqual(['~~A~~', '~~A~~']);
    expect(folder.run(['convert', 'a.html', '--to', 'belmoor']).err).toContain('Did you mean "bellmoor"?');
  });
});

describe('dialect', () => {
  const own = `dialect: ours
title: Ours
delimiters: [{ open: '%', close: '%' }]
tags: { field: '%{field}%' }
samples:
  - { neutral: '@{a}', written: '%a%' }
  - { neutral: '@{b}', written: '%c%' }
`;

  test('lists, shows and proves dialects, a project’s own as well', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': 'name: x\ndestinations: { a: { dialect: ours } }\n',
      'dialects/ours.yaml': own,
    });
    expect(folder.run(['dialect', 'list']).out).toMatch(
      /^bellmoor +Bellmoor \(simulated\)\n[^]*\nours +Ours {2}\(of this project\)\n/,
    );
    const shown = folder.run(['dialect', 'show', 'ours']).out;
    expect(shown).toMatch(/^Ours\n\na field +@\{first_name\} +%first_name%\na fallback +\S+ \?\? "friend"\} +—\n/);
    const proved = folder.run(['dialect', 'check', 'bellmoor', 'ours']);
    expect(proved.code).toBe(2);
    expect(proved.err).toContain('bellmoor: 5 samples, written and read as they say\n');
    expect(proved.err).toContain(
      'dialects/ours.yaml:7:33  error  sample-written  The dialect writes this otherwise: %b%',
    );
    expect(proved.err).toContain(
      'dialects/ours.yaml:7:16  error  sample-read  The dialect’s text of this is read otherwise: @{c}',
    );
    expect(folder.run(['dialect', 'check', 'dialects/ours.yaml']).code).toBe(2);
  });
});
