import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { draftDialect } from '../../../src/core/dialects/learn/draft-dialect.js';
import { learnDialect } from '../../../src/core/dialects/learn/learn-dialect.js';
import { failedSamples, toNeutral } from '../../../src/core/dialects/file/prove-dialect.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { readDialect } from '../../../src/core/dialects/file/read-dialect.js';

/** How a platform that nobody has seen writes its tags. */
interface Unseen {
  readonly delimiters: readonly [open: string, close: string];
  readonly blank: string;
  readonly condition: readonly [open: string, divide: string, end: string];
  readonly loop: readonly [open: string, between: string, end: string];
  readonly name: (neutral: string) => string;
}

const words = (neutral: string): string[] => neutral.split('_');
const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

const unseen: fc.Arbitrary<Unseen> = fc.record({
  delimiters: fc.constantFrom<[string, string][]>(
    ['<%', '%>'],
    ['[[', ']]'],
    ['{$', '$}'],
    ['@@', '@@'],
    ['%%', '%%'],
    ['<<', '>>'],
    ['|', '|'],
    ['#{', '}'],
    ['[=', '=]'],
    ['((', '))'],
    ['!(', ')!'],
    ['{{', '}}'],
    ['~', '~'],
  ),
  blank: fc.constantFrom('', ' '),
  condition: fc.constantFrom<[string, string, string][]>(
    ['if', 'else', 'end'],
    ['when', 'otherwise', 'done'],
    ['IF', 'ELSE', '/IF'],
    ['#if', 'else', '/if'],
    ['show', 'instead', 'close show'],
  ),
  loop: fc.constantFrom<[string, string, string][]>(
    ['for', 'in', 'endfor'],
    ['each', 'of', '/each'],
    ['loop', 'as', 'end loop'],
  ),
  name: fc.constantFrom<((neutral: string) => string)[]>(
    (neutral) => neutral,
    (neutral) => neutral.toUpperCase(),
    (neutral) => words(neutral).map(capital).join(''),
    (neutral) =>
      words(neutral)
        .map((word, index) => (index === 0 ? word : capital(word)))
        .join(''),
  ),
});

/** Three files as such a platform would export them. */
function exportsOf({ delimiters: [open, close], blank, condition, loop, name }: Unseen): SourceText[] {
  const tag = (inner: string): string => `${open}${blank}${inner}${blank}${close}`;
  const items =
    loop[1] === 'as' ? `${name('loans')} as ${name('loan')}` : `${name('loan')} ${loop[1]} ${name('loans')}`;
  const rows = ['branch', 'last_name', 'home_town'].map(
    (field) =>
      `<tr><td style="color:#333">Hello ${tag(name('first_name'))} (of ${tag(name(field))}): <a href="https://x.example/?m=${tag(name('member_number'))}&amp;a=1">see</a></td></tr>`,
  );
  return [1, 2, 3].map(
    (number) =>
      new SourceText(
        `export-${number}.html`,
        `<!doctype html><html><head><style>a{b:c}@media x{d{e:f}}</style></head><body><table>
${rows.join('\n')}
<tr><td>${tag(`${condition[0]} ${name('vip_member')}`)}Hi ${tag(name('last_name'))}${tag(condition[1])}No${tag(condition[2])}</td></tr>
<tr><td>${tag(`${condition[0]} ${name('branch')} = "Mill Yard"`)}here${tag(condition[2])}</td></tr>
${tag(`${loop[0]} ${items}`)}<tr><td>${tag(`${name('loan')}.${name('tool_name')}`)}</td></tr>${tag(loop[2])}
</table></body></html>`,
      ),
  );
}

describe('learning a dialect', () => {
  test('finds delimiters, names and blocks of platforms that it has not seen, and drafts a file that proves', () => {
    fc.assert(
      fc.property(unseen, (platform) => {
        const files = exportsOf(platform);
        const learned = learnDialect(files);
        const [open, close] = platform.delimiters;
        expect([learned?.delimiters.open, learned?.delimiters.close]).toEqual([open, close]);
        if (learned === null) return;
        const names = learned.names.map(({ name }) => name);
        for (const name of ['first_name', 'member_number', 'home_town']) expect(names).toContain(platform.name(name));
        const { dialect } = readDialect(new SourceText('draft', draftDialect('unseen', learned)));
        if (dialect === null) throw new Error('The draft cannot be read.');
        expect(dialect.samples.length).toBeGreaterThan(1);
        expect(failedSamples(dialect)).toEqual([]);
        // The whole of an export can be read by what was learned from it.
        const neutral = toNeutral(files[0]?.text ?? '', dialect);
        expect(neutral).toContain('Hello @{first_name} (of @{branch})');
        expect(neutral).toContain('@{if vip_member}Hi @{last_name}@{else}No@{end}');
        expect(neutral).toContain('@{if branch == "Mill Yard"}here@{end}');
        expect(neutral).toContain('@{each loans as loan}<tr><td>@{loan.tool_name}</td></tr>@{end}');
      }),
      { numRuns: 150 },
    );
  });

  test('says nothing where nothing stands around names again and again', () => {
    const plain = '<p>Dear reader (of this), see "the page": it has 5 % more. a@x.example, b@x.example</p>';
    expect(learnDialect([new SourceText('a.html', plain)])).toBeNull();
    expect(learnDialect([new SourceText('a.html', '')])).toBeNull();
  });
});
