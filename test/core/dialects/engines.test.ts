import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { Finding } from '../../../src/core/findings/finding.js';
import { convertTags } from '../../../src/core/dialects/convert/convert-tags.js';
import { neutralDialect, type Dialect } from '../../../src/core/dialects/dialect.js';
import { declaredItemShape } from '../../../src/core/dialects/field-shape.js';
import type { MergeField, MergeFields } from '../../../src/core/dialects/model.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { loadDialect } from '../../../src/project/config/dialects.js';
import { comparable, languages, render, type Language } from '../../support/template-engines.js';
import { repository } from '../../support/project.js';

const dialects = new Map<string, Dialect>([['neutral', neutralDialect]]);
for (const name of languages) {
  const { dialect } = await loadDialect(name, repository);
  if (dialect !== null) dialects.set(name, dialect);
}

const dialectOf = (name: string): Dialect => {
  const dialect = dialects.get(name);
  if (dialect === undefined) throw new Error(`${name} cannot be loaded.`);
  return dialect;
};

const field = (type: MergeField['type'], rest: Partial<MergeField> = {}): MergeField => ({
  type,
  sample: null,
  fallback: null,
  ...rest,
});

const fields: MergeFields = new Map([
  ['first_name', field('text')],
  ['story', field('text')],
  ['points', field('number')],
  ['vip', field('flag')],
  ['tags', field('list', { item: declaredItemShape('text') })],
  [
    'loans',
    field('list', {
      item: declaredItemShape({ tool: 'text', fee: 'number', late: 'flag', spares: { list: { label: 'text' } } }),
    }),
  ],
]);

interface Converted {
  readonly text: string | null;
  readonly codes: readonly string[];
  readonly verdicts: readonly string[];
}

function convert(text: string, from: string, to: string): Converted {
  const findings: Finding[] = [];
  const setting = { from: dialectOf(from), to: dialectOf(to), others: [], fields, answers: null };
  const { text: result, tags } = convertTags(new SourceText('x', text), setting, (item) => findings.push(item));
  return { text: result, codes: findings.map(({ code }) => code), verdicts: tags.map(({ verdict }) => verdict) };
}

/** What the recipient's data may be: filled, empty, missing, zero, false, with quotes and markup. */
const texts = fc.constantFrom<(string | null | undefined)[]>(
  undefined,
  null,
  '',
  'Ines',
  '0',
  'false',
  `a "q" & <b>it's</b>`,
);
const numbers = fc.constantFrom<(number | null | undefined)[]>(undefined, null, 0, 3, 5, 2.5);
const flags = fc.constantFrom<(boolean | null | undefined)[]>(undefined, null, false, true);
const spares = fc.array(fc.record({ label: texts }, { requiredKeys: [] }), { maxLength: 2 });
const data = fc.record({
  first_name: texts,
  story: texts,
  points: numbers,
  vip: flags,
  tags: fc.array(fc.constantFrom('a', '<b>'), { maxLength: 3 }),
  loans: fc.array(fc.record({ tool: texts, fee: numbers, late: flags, spares }), { maxLength: 3 }),
});

/** Neutral texts: what stands in them may use the fields, and the items of the loops around. */
function texted(loops: readonly ('tag' | 'loan' | 'spare')[], depth: number): fc.Arbitrary<string> {
  const inLoan = loops.includes('loan');
  const innermost = loops.slice(-1);
  const textPaths = [
    'first_name',
    ...(inLoan ? ['loan.tool'] : []),
    ...(loops.includes('spare') ? ['spare.label'] : []),
  ];
  const path = fc.constantFrom(...textPaths);
  const condition = fc.oneof(
    fc.constantFrom('vip', 'not vip', 'points', 'not points', 'tags', 'not loans', 'vip and points', 'vip or points'),
    fc.constantFrom('not (vip or points)', '(vip or points) and first_name', 'vip and (points or first_name)'),
    fc.constantFrom('points > 3', 'first_name == "Ines"', 'not first_name == "0"', 'points != 3', 'vip and not points'),
    path,
    path.map((own) => `not ${own}`),
    ...(inLoan ? [fc.constantFrom('loan.fee', 'not loan.late', 'loan.spares')] : []),
  );
  const words = fc.constantFrom(
    'Hello ',
    '\n',
    '<b>x</b>',
    '<tr><td>a</td></tr>',
    'C:\\',
    '{',
    '}',
    '{{',
    '}}',
    '{%',
    '{#',
    'desk@{"@"}',
    '\\\\',
    '&amp;',
    '@media print{#hero{color:red}}',
    'a{color:',
    '$',
    '%}',
    '"',
    "'",
  );
  const output = fc.oneof(
    path.map((own) => `@{${own}}`),
    path.map((own) => `@{+${own}}`),
    path.map((own) => `<a title="@{${own} ?? "it's"}">`),
    path.map((own) => `<a title='@{${own} ?? "say \\"hi\\""}'>`),
    path.map((own) => `@{${own} | upper ?? "none & <none>"}`),
    path.map((own) => `@{(${own} ?? "none") | upper}`),
    path.map((own) => `@{vip ? "yes" : ${own}}`),
    path.map((own) => `<p class="@{if vip}a@{else}b @{${own}}@{end}" title='@{if not points}@{${own}}@{end}'>`),
    path.map((own) => `<table>@{if vip}<tr><td>@{${own}}</td></tr>@{end}<tr></tr></table>`),
    path.map((own) => `<i class="@{if ${own} == "it's"}x@{else}@{${own} | lower ?? "it's"}@{end}">`),
    path.map((own) => `@{(${own} ?? "none") | replace "n" "q"}`),
    fc.constantFrom('@{tags | join ", "}', '@{tags | size}', '@{first_name ?? "x" | upper}'),
    ...innermost.map((item) =>
      fc.constantFrom(
        `@{${item}.#index}`,
        `@{${item}.#index0} of @{${item}.#length}`,
        `@{if ${item}.#first}1@{end}@{if not ${item}.#last},@{end}`,
      ),
    ),
    fc.constantFrom('@{points}', '@{"{{ x }}"}', '@{+"{% y %}"}', '@@{ ?', '@{# note }'),
    ...(loops.includes('tag') ? [fc.constant('@{tag}')] : []),
  );
  const leaf = fc.oneof({ weight: 2, arbitrary: words }, { weight: 2, arbitrary: output });
  if (depth === 0) return fc.array(leaf, { maxLength: 3 }).map((parts) => parts.join(''));
  const inner = texted(loops, depth - 1);
  const loop = (head: string, body: fc.Arbitrary<string>): fc.Arbitrary<string> =>
    fc.oneof(
      body.map((text) => `@{each ${head}}${text}@{end}`),
      fc.tuple(body, inner).map(([text, other]) => `@{each ${head}}${text}@{else}${other}@{end}`),
    );
  const block = fc.oneof(
    fc.tuple(condition, inner).map(([test, text]) => `@{if ${test}}${text}@{end}`),
    fc.tuple(condition, inner, inner).map(([test, yes, no]) => `@{if ${test}}${yes}@{else}${no}@{end}`),
    fc
      .tuple(condition, inner, condition, inner)
      .map(([test, yes, other, no]) => `@{if ${test}}${yes}@{else if ${other}}${no}@{end}`),
    ...(loops.includes('tag') ? [] : [loop('tags as tag', texted([...loops, 'tag'], depth - 1))]),
    ...(inLoan ? [] : [loop('loans as loan', texted([...loops, 'loan'], depth - 1))]),
    ...(inLoan && !loops.includes('spare')
      ? [loop('loan.spares as spare', texted([...loops, 'spare'], depth - 1))]
      : []),
  );
  return fc
    .array(fc.oneof({ weight: 3, arbitrary: leaf }, { weight: 2, arbitrary: block }), { maxLength: 4 })
    .map((parts) => parts.join(''));
}

/** More may be asked for where a change needs a longer look. */
const runs = Number(process.env['ENGINE_RUNS'] ?? 200);

describe('rendered by the engines themselves', () => {
  const pairs = languages.flatMap((a) => languages.filter((b) => b !== a).map((b) => [a, b] as const));

  test('a neutral text says the same in every language that can say it', () => {
    let compared = 0;
    fc.assert(
      fc.property(texted([], 2), data, (neutral, values) => {
        const written = languages.flatMap((language) => {
          const { text } = convert(neutral, 'neutral', language);
          return text === null ? [] : [{ language, text }];
        });
        const [first, ...others] = written.map(({ language, text }) => ({
          language,
          text,
          rendered: comparable(render(language, text, values)),
        }));
        for (const other of others) {
          compared += 1;
          expect({ ...other, rendered: other.rendered }).toEqual({ ...other, rendered: first?.rendered });
        }
      }),
      { numRuns: runs },
    );
    expect(compared).toBeGreaterThan(runs);
  });

  test.each(pairs)('%s → %s renders the same', (from, to) => {
    let compared = 0;
    fc.assert(
      fc.property(texted([], 2), data, (neutral, values) => {
        const { text: original } = convert(neutral, 'neutral', from);
        if (original === null) return;
        const { text: converted } = convert(original, from, to);
        if (converted === null) return;
        compared += 1;
        expect({ original, converted, rendered: comparable(render(to, converted, values)) }).toEqual({
          original,
          converted,
          rendered: comparable(render(from, original, values)),
        });
      }),
      { numRuns: runs },
    );
    expect(compared).toBeGreaterThan(runs / 20);
  });

  const native: [from: Language, text: string][] = [
    ['liquid', '{% case first_name %} {% when "Ines" %}1{% when "0", "false" or "b" %}2{% else %}3{% endcase %}'],
    ['liquid', '{% case points %}{% when 3 %}three{% when 5 %}five{% endcase %}.'],
    ['liquid', '{% unless vip %}a{% else %}b{% endunless %}'],
    ['liquid', '{{ tags | size }}{{ tags.size }}{% if tags.size > 1 %}many{% endif %}{{ tags | join: "; " | escape }}'],
    [
      'liquid',
      '{% for x in loans %}{{ forloop.index }}{{ forloop.length }}{% unless forloop.last %},{% endunless %}{% endfor %}',
    ],
    ['liquid', '{{ first_name | default: "none" | replace: "n", "q" | escape }}{{ 2.5 | round }}'],
    ['jinja', '{{ tags | length }}{% if tags | length > 1 %}many{% endif %}{{ tags | join("; ") }}'],
    ['jinja', '{% for x in loans %}{{ loop.index0 }}{{ loop.index }}{% if loop.first %}a{% endif %}{% endfor %}'],
    [
      'handlebars',
      '{{tags.length}}{{#each loans}}{{@index}}{{#if @first}}a{{/if}}{{#unless @last}},{{/unless}}{{/each}}',
    ],
  ];

  test.each(native)('%s: %s renders the same in every language that can say it', (from, text) => {
    let compared = 0;
    for (const to of languages.filter((language) => language !== from)) {
      const { text: converted, codes } = convert(text, from, to);
      expect({ codes: codes.filter((code) => code !== 'merge-loss') }).toEqual({ codes: [] });
      if (converted === null) continue;
      for (const values of fc.sample(data, { numRuns: 60, seed: 7 })) {
        compared += 1;
        expect({ to, converted, values, rendered: comparable(render(to, converted, values)) }).toEqual({
          to,
          converted,
          values,
          rendered: comparable(render(from, text, values)),
        });
      }
    }
    expect(compared).toBeGreaterThan(0);
  });

  test.each(languages)('%s → neutral → back gives the same bytes', (language: Language) => {
    fc.assert(
      fc.property(texted([], 2), (neutral) => {
        const { text: original } = convert(neutral, 'neutral', language);
        // Text that happens to be a whole neutral comment is a left-over tag, and refused as one.
        if (original === null || original.includes('@{#')) return;
        const { text: back } = convert(original, language, 'neutral');
        expect({ original, back, codes: convert(original, language, 'neutral').codes }).not.toMatchObject({
          back: null,
        });
        expect({ back, again: convert(back ?? '', 'neutral', language).text }).toEqual({ back, again: original });
      }),
      { numRuns: runs },
    );
  });
});
