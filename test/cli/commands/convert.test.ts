import { afterEach, describe, expect, test } from '@jest/globals';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { TestFolder } from '../../support/project.js';

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
    expect(folder.run(['convert', '-', '--from', 'neutral', '--to', 'ferrywire'], { input })).toEqual({
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
      /a\.html: 2 tags: 1 exact, 1 loss\nb\.html: 1 tag: 1 exact\n1 error, 2 notes\. Nothing was written\.\n$/,
    );
    const { tags } = JSON.parse(folder.read('r.json')) as { tags: object[] };
    expect(tags).toEqual([
      {
        file: 'a.html',
        line: 1,
        column: 4,
        from: '(:a:)',
        to: '~~A~~',
        verdict: 'exact',
        message: 'a is called A by rule',
      },
      expect.objectContaining({ file: 'a.html', line: 3, column: 1, to: '', verdict: 'loss' }),
      expect.objectContaining({ file: 'b.html', to: '~~A~~', verdict: 'exact' }),
    ]);
    folder.write({ 'a.html': '(:a:)' });
    expect(folder.run(['convert', 'a.html', 'b.html', '--to', 'bellmoor', '--out', 'new/']).code).toBe(0);
    expect([folder.read('new/a.html'), folder.read('new/b.html')]).toEqual(['~~A~~', '~~A~~']);
    expect(folder.run(['convert', 'a.html', '--to', 'belmoor']).err).toContain('Did you mean "bellmoor"?');
  });
});

describe('footers', () => {
  const page = `<html><body><table>
<tr><td>Hello [= FirstName ]</td></tr>
<tr><td><p>[= Org.Name ], [= Org.Address ]</p><p><a href="[= LeaveLink ]">Leave</a></p></td></tr>
<tr><td align="center"><a href="https://badge.ferrywire.example/x"><img class="fw-badge" src="b.png"></a></td></tr>
</table></body></html>
`;

  test('are kept, replaced, added or stripped, and the badge of the platform goes in any case', () => {
    folder = new TestFolder().write({
      'page.html': page,
      'text.txt': 'Hello ~~A~~\n\n--\n~~SENDER_POSTAL~~\nLeave: ~~LINK_LEAVE~~\n',
    });
    const out = (mode: string, file = 'page.html', to = 'tansy'): string =>
      folder.run(['convert', file, '--to', to, '--footer', mode, '--quiet']).out;
    const head = '<html><body><table>\n<tr><td>Hello $(first_name)</td></tr>\n';
    const tail = '\n\n</table></body></html>\n';
    const own = '<tr><td><p>$(company), $(postal)</p><p><a href="$(leave_url)">Leave</a></p></td></tr>';
    expect(out('keep')).toBe(head + own + tail);
    expect(out('add')).toBe(head + own + tail);
    expect(out('strip')).toBe(head + tail);
    expect(out('replace')).toMatch(
      /^[^]*first_name\)<\/td><\/tr>\n<tr><td><div style="[^"]*">\$\(company\), \$\(postal\)<br><a href="\$\(leave_url\)"[^]*<\/div><\/td><\/tr>\n\n<\/table>/,
    );
    expect(out('strip', 'text.txt', 'ferrywire')).toBe('Hello [= A ]\n\n\n');
    expect(out('replace', 'text.txt', 'larkfold')).toBe(
      'Hello (:a:)\n\n--\n(:house-name:), (:house-address:)\nUnsubscribe: (:leave-address:)\nRead in a browser: (:page-address:)\n',
    );
  });

  test('are added where the target asks for more, and come from the project where it has one', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': 'name: x\nfooter: footer.html\ndestinations: { a: { dialect: oxbow } }\n',
      'footer.html': '<p>@{sender.postal_address} <a href="@{link.unsubscribe}">Go</a></p>\n',
      'a.html': '<html><body><p>~~A~~</p></body></html>',
      'b.txt': '~~A~~\n',
    });
    // A footer that is not put in need not be sayable.
    expect(folder.run(['convert', 'a.html', '--to', 'tansy', '--quiet']).code).toBe(0);
    const warned = folder.run(['convert', 'a.html', '--to', 'oxbow']);
    expect([warned.code, warned.err.match(/footer-missing-converted/g)?.length]).toEqual([0, 2]);
    const run = folder.run([
      'convert',
      'a.html',
      'b.txt',
      '--to',
      'oxbow',
      '--footer',
      'add',
      '--out',
      'new/',
      '--report',
      'r.html',
    ]);
    expect(run.code).toBe(0);
    expect(folder.read('new/a.html')).toBe(
      `<html><body><p><ox:field name="a"/></p><p><ox:sender what="address"/> <a href="<ox:link to='leave'/>">Go</a></p>\n</body></html>`,
    );
    expect(folder.read('new/b.txt')).toBe(
      '<ox:field name="a"/>\n\n<ox:sender what="address"/> Go [1]\n\n[1] <ox:link to="leave"/>\n',
    );
    const report = folder.read('r.html');
    expect(report).toContain('<h2>a.html</h2>');
    expect(report).toContain('<mark id="t0-15" class="good">~~A~~</mark>');
    expect(report).not.toContain('<ox:');
  });
});

describe('what a target cannot say', () => {
  test('may be allowed to be lost: then the sample recipient decides what stands', () => {
    folder = new TestFolder().write({
      'inscriba.yaml':
        'name: x\nfields: { vip: { sample: true }, branch: { sample: Mill Yard } }\ndestinations: { a: { dialect: tansy } }\n',
      'a.html':
        '@{branch ?? "any"} @{branch | upper} @{if vip}yes @{branch}@{else}no@{end} @{if not vip}a@{else}b@{end} @{each xs as x}@{x}@{end}.',
    });
    const refused = folder.run([
      'convert',
      'a.html',
      '--to',
      'tansy',
      '--from',
      'neutral',
      '--out',
      'o.html',
      '--report',
      'r.json',
    ]);
    expect([refused.code, existsSync(join(folder.path, 'o.html')), existsSync(join(folder.path, 'r.json'))]).toEqual([
      1,
      false,
      true,
    ]);
    const run = folder.run(['convert', 'a.html', '--to', 'tansy', '--from', 'neutral', '--allow-loss']);
    expect({ code: run.code, out: run.out }).toEqual({ code: 0, out: 'any $(branch) yes $(branch) b .' });
    expect(run.err.match(/warning {2}merge-loss-allowed/g)?.length).toBe(5);
  });

  test('what goes with a lost block takes the marks of its regions along', () => {
    folder = new TestFolder();
    const input = '<table><tr><td>@{if a}<p region="x">one</p>@{else}<p region="y">two</p>@{end}</td></tr></table>';
    const run = folder.run(['convert', '-', '--from', 'neutral', '--to', 'tansy', '--allow-loss', '--quiet'], {
      input,
    });
    const kept = '<div class="tansy-edit" id="y"><p>two</p></div>';
    expect([run.code, run.out]).toEqual([0, `<table><tr><td>${kept}</td></tr></table>`]);
  });

  test('unknown tags are left out, but malformed blocks and left-over tags stay errors', () => {
    folder = new TestFolder();
    const run = (input: string): (string | number | null)[] => {
      const { code, out } = folder.run(['convert', '-', '--from', 'jinja', '--to', 'liquid', '--allow-loss'], {
        input,
      });
      return [code, out];
    };
    expect(run('a{{ x | odd }}b')).toEqual([0, 'ab']);
    expect(run('a{% if x is odd %}b{% else %}c{% endif %}d')).toEqual([0, 'acd']);
    expect(run('{% if x %}a')).toEqual([1, '']);
    expect(run('{{ x }} ~~FIRST~~')).toEqual([1, '']);
  });

  test('names of fields are asked for in a file, and taken from it once it is there', () => {
    folder = new TestFolder().write({ 'a.html': '@{first_name} @{branch} @{link.unsubscribe} @{if loans}x@{end}' });
    const convert = ['convert', 'a.html', '--from', 'neutral', '--to', 'ferrywire', '--fields', 'fields.yaml'];
    expect(folder.run(convert).out).toBe('[= FirstName ] [= Branch ] [= LeaveLink ] [when Loans known]x[done]');
    expect(folder.read('fields.yaml')).toMatch(
      /\nfields:\n {2}branch: Branch\n {2}first_name: FirstName\n {2}loans: Loans\n$/,
    );
    folder
      .change('fields.yaml', 'branch: Branch', 'branch: { name: HomeShed }')
      .change('fields.yaml', 'FirstName', 'Given');
    expect(folder.run(convert).out).toBe('[= Given ] [= HomeShed ] [= LeaveLink ] [when Loans known]x[done]');
    folder.write({ 'fields.yaml': 'fields: { branch: 5 }\n' });
    expect(folder.run(convert)).toMatchObject({ code: 2, out: '' });
  });
});

describe('a build for a template language', () => {
  test('writes text that looks like a tag as text', () => {
    folder = new TestFolder().write({
      'inscriba.yaml':
        'name: x\nfields: { a: { sample: b } }\ndestinations: { j: { dialect: jinja }, h: { dialect: handlebars } }\n',
      'messages/m.html': '<title>T</title><body><p>{{ x }} {@{a}} {# c</p></body>',
    });
    expect(folder.run(['build', '--quiet']).code).toBe(0);
    expect(folder.read('out/j/m/index.html')).toContain('{{ "{{" }} x }} {{ "{" }}{{ a }}} {{ "{#" }} c');
    expect(folder.read('out/h/m/index.html')).toContain('\\{{ x }} { {{~a~}} } {# c');
  });
});

describe('regions', () => {
  const neutral = `<table><tr><td region="lead" class="x"><h1>Hi</h1></td></tr>
<tr><td><img region="photo" region-kind="image" src="a.png" alt=""></td></tr><tr><td>x <p region="note">A</p> y</td></tr></table>`;

  test.each([
    ['bellmoor', '<td bm-area="lead" class="x"><h1>Hi</h1></td>', neutral],
    ['ferrywire', '<td class="x"><div class="fw-open" id="lead"><h1>Hi</h1></div></td>', null],
    ['oxbow', '<td class="x"><!-- edit lead --><h1>Hi</h1><!-- edit end --></td>', null],
  ])('are marked as %s marks them, and read from it', (dialect, marked, back) => {
    folder = new TestFolder().write({ 'a.html': neutral });
    const run = folder.run(['convert', 'a.html', '--from', 'neutral', '--to', dialect, '--out', 'b.html']);
    expect(run.code).toBe(0);
    expect(folder.read('b.html')).toContain(marked);
    const again = folder.run(['convert', 'b.html', '--from', dialect, '--to', 'neutral', '--quiet']).out;
    // A picture alone in its cell makes the cell the region.
    expect(again).toBe(
      back ??
        neutral.replace('<td><img region="photo" region-kind="image"', '<td region="photo" region-kind="image"><img'),
    );
  });

  test('what has no mark is told, and a build marks its regions too', () => {
    folder = new TestFolder().write({
      'inscriba.yaml': 'name: x\ndestinations: { f: { dialect: ferrywire }, l: { dialect: larkfold } }\n',
      'messages/m.html':
        '<title>T</title><body><p region="lead" region-repeat>Hi</p><p>@{sender.postal_address} <a href="@{link.unsubscribe}">x</a></p></body>',
    });
    const run = folder.run(['build']);
    expect(run.code).toBe(0);
    expect(run.err).toContain('has no mark for regions that users may repeat: lead');
    expect(run.err).toContain('Larkfold (simulated) marks no editable regions: lead');
    expect(folder.read('out/f/m/index.html')).toContain('<div class="fw-open" id="lead">');
    expect(folder.read('out/f/m/index.html') + folder.read('out/l/m/index.html')).not.toContain('region=');
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
    expect(proved.err).toContain(
      'bellmoor: 5 samples, written and read as they say; 5 exchanges, made as they were recorded\n',
    );
    expect(proved.err).toContain(
      'dialects/ours.yaml:7:33  error  sample-written  The dialect writes this otherwise: %b%',
    );
    expect(proved.err).toContain(
      'dialects/ours.yaml:7:16  error  sample-read  The dialect’s text of this is read otherwise: @{c}',
    );
    expect(folder.run(['dialect', 'check', 'dialects/ours.yaml']).code).toBe(2);
  });
});
