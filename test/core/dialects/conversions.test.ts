import { describe, expect, test } from '@jest/globals';
import type { Finding } from '../../../src/core/findings/finding.js';
import { verdictCounts } from '../../../src/core/dialects/convert/conversion-report.js';
import { convertTags, type ConvertedTag } from '../../../src/core/dialects/convert/convert-tags.js';
import type { Dialect } from '../../../src/core/dialects/dialect.js';
import { declaredItemShape } from '../../../src/core/dialects/field-shape.js';
import type { MergeFields } from '../../../src/core/dialects/model.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { dialectNames, loadDialect } from '../../../src/project/config/dialects.js';
import { repository } from '../../support/project.js';

const dialects = new Map<string, Dialect>();
for (const name of await dialectNames(repository)) {
  const { dialect } = await loadDialect(name, repository);
  if (dialect !== null) dialects.set(name, dialect);
}

const dialectOf = (name: string): Dialect => {
  const dialect = dialects.get(name);
  if (dialect === undefined) throw new Error(`${name} cannot be loaded.`);
  return dialect;
};

const declared: MergeFields = new Map([
  ['first_name', { type: 'text', sample: 'Ines', fallback: null }],
  ['points', { type: 'number', sample: 3, fallback: null }],
  ['tags', { type: 'list', item: declaredItemShape('text'), sample: [], fallback: null }],
  ['loans', { type: 'list', item: declaredItemShape({ tool: 'text', name: 'text' }), sample: [], fallback: null }],
]);

interface Result {
  readonly text: string | null;
  readonly verdicts: string;
  readonly codes: readonly string[];
}

function convert(text: string, pair: string, fields: MergeFields = new Map()): Result {
  const [from = '', to = ''] = pair.split(' → ');
  const findings: Finding[] = [];
  const setting = { from: dialectOf(from), to: dialectOf(to), others: [...dialects.values()], fields, answers: null };
  const result = convertTags(new SourceText('x', text), setting, (item) => findings.push(item));
  return {
    text: result.text,
    verdicts: result.tags.map(({ verdict }) => verdict).join(' '),
    codes: findings.map(({ code }) => code),
  };
}

/** What is said otherwise, and how well. */
const said: [pair: string, from: string, to: string, verdicts?: string][] = [
  ['liquid → handlebars', '{% if x %}a{% endif %}', '{{#if x}}a{{/if}}', 'rewritten exact'],
  ['handlebars → liquid', '{{#if x}}a{{/if}}', '{% if x != blank %}a{% endif %}', 'exact exact'],
  ['liquid → neutral', '{% if x %}{{ y }}{% endif %}', '@{if given x}@{+y}@{end}'],
  ['liquid → neutral', '{% if points and points != 0 %}a{% endif %}', '@{if points}a@{end}'],
  ['liquid → neutral', '{% if a and points and points != 0 %}a{% endif %}', '@{if given a and points}a@{end}'],
  ['liquid → neutral', '{% if loans.size > 0 %}a{% endif %}', '@{if loans}a@{end}'],
  ['liquid → neutral', '{% unless x %}a{% endunless %}', '@{if not given x}a@{end}'],
  ['liquid → neutral', '{{ due | date: "%-d %B %Y" | escape }}', '@{due | date "d MMMM yyyy"}'],
  ['jinja → neutral', '{{ x or "t" }}{{ x if x else "t" }}', '@{x ?? "t"}@{x ?? "t"}', 'exact exact'],
  ['jinja → neutral', '{{ x | default("t") }}', '@{x ?? "t"}', 'rewritten'],
  ['jinja → neutral', '{% if loans | length %}a{% endif %}', '@{if loans}a@{end}'],
  [
    'jinja → liquid',
    '{% if a and b or c %}x{% endif %}',
    '{% if c != blank or a != blank and b != blank %}x{% endif %}',
  ],
  ['jinja → liquid', '{% if not (a == b) %}x{% endif %}', '{% unless a == b %}x{% endunless %}'],
  [
    'jinja → handlebars',
    '{% if a and not b %}x{% endif %}',
    '{{#if a}}{{#unless b}}x{{/unless}}{{/if}}',
    'rewritten exact',
  ],
  ['jinja → mustache', '{{ "a" if vip else "b & c" }}', '{{#vip}}a{{/vip}}{{^vip}}b &amp; c{{/vip}}', 'rewritten'],
  [
    'neutral → mustache',
    '<a title="@{x ?? \'say "hi"\'}">',
    '<a title="{{#x}}{{x}}{{/x}}{{^x}}say &quot;hi&quot;{{/x}}">',
  ],
  ['neutral → liquid', '@{if vip}a@{else}b@{end}', '{% if vip != blank %}a{% else %}b{% endif %}'],
  ['neutral → handlebars', '@{log}@{if if}x@{end}', '{{this.[log]}}{{#if this.[if]}}x{{/if}}'],
  ['neutral → handlebars', '@{each xs as log}@{log.a}@{end}', '{{#each xs as |log_2|}}{{log_2.a}}{{/each}}'],
  ['mustache → neutral', '{{end}} {{each}}', '@{(end)} @{(each)}'],
  [
    'handlebars → jinja',
    '{{#each xs}}{{this}} {{n}} {{../top}} {{@root.x}}{{/each}}',
    '{% for x_2 in xs %}{{ x_2 }} {{ x_2.n }} {{ top }} {{ x }}{% endfor %}',
  ],
  ['handlebars → liquid', '{{~#if a~}} x {{~else~}} y {{~/if~}} z', '{% if a != blank %}x{% else %}y{% endif %}z'],
  ['handlebars → jinja', 'C:\\\\{{x}} \\{{y}}', 'C:\\{{ x }} {{ "{{" }}y}}'],
  ['liquid → handlebars', 'a{color:{{ c }}} C:\\{{ x }}', 'a{color:{{{c}~}} } C:\\\\{{{x}}}'],
  ['liquid → jinja', '@media print{#hero{color:red}}{{ x }}', '@media print{{ "{#" }}hero{color:red}}{{ x | safe }}'],
  [
    'jinja → neutral',
    'desk@{{ domain }} {% raw %}{{ first_name }}{% endraw %}',
    'desk@{"@"}@{domain} @{+"{{ first_name }}"}',
  ],
  ['liquid → neutral', 'a@{b', 'a@@{b'],
  ['mustache → liquid', '{{=<% %>=}}{{<% x %>}}<%={{ }}=%>{{y}}', '{{ "{{" }}{{ x | escape }}}}{{ y | escape }}'],
  ['neutral → jinja', "@{if a == 'it\"s'}x@{end}", "{% if a == 'it\"s' %}x{% endif %}"],
  ['neutral → jinja', "@{# it's } x", "{# it's #} x"],
  ['jinja → neutral', "{# it's #}{# {{ x }} #}y", "@{# it's }y", 'exact removed'],
  // Quotes that would end the attribute: HTML says a fallback, and an engine does not mind the rest.
  [
    'neutral → liquid',
    `<p class="@{if a == \"it's\"}@{b}@{end}" title="@{x ?? \"it's\"}" id="@{x | upper ?? \"it's\"}">`,
    `<p class="{% if a == "it's" %}{{ b | escape }}{% endif %}" title="{% if x != blank %}{{ x | escape }}{% else %}it's{% endif %}" id="{{ x | upcase | default: "it's" | escape }}">`,
    'exact exact exact rewritten exact',
  ],
  // What editors of HTML do to tags.
  ['bellmoor → liquid', '~~FIRST<b>_NAME~~</b>', '{{ first_name | escape }}<b></b>', 'repaired'],
  ['bellmoor → liquid', '~<i>~FIRST_NAME~~</i>', '{{ first_name | escape }}<i></i>', 'repaired'],
  ['liquid → jinja', '{{ x | default: &quot;t&quot; | escape }}', '{{ x | default("t", true) }}', 'repaired'],
  [
    'liquid → jinja',
    '{{ x | default: “t” | escape }}{{ y&nbsp;}}',
    '{{ x | default("t", true) }}{{ y | safe }}',
    'repaired repaired',
  ],
  [
    'liquid → jinja',
    '<a href="/?a={{%20x%20}}&b=%7B%7By%7D%7D">',
    '<a href="/?a={{ x | safe }}&b={{ y | safe }}">',
    'repaired repaired',
  ],
  ['oxbow → liquid', '&lt;ox:field name=&quot;x&quot;/&gt;', '{{ x | escape }}', 'repaired'],
  [
    'liquid → jinja',
    '<p title="%7B%7By%7D%7D">&#123;&#123; x }}</p>',
    '<p title="%7B%7By%7D%7D">&#123;&#123; x }}</p>',
    '',
  ],
];

describe('a conversion', () => {
  test.each(said)('%s: %s', (...[pair, from, to, verdicts]: [string, string, string, string?]) => {
    const result = convert(from, pair);
    const repaired = result.verdicts.split(' ').filter((verdict) => verdict === 'repaired');
    // What is repaired is said each time.
    expect({ text: result.text, codes: result.codes }).toEqual({ text: to, codes: repaired.map(() => 'tag-repaired') });
    if (verdicts !== undefined) expect(result.verdicts).toBe(verdicts);
  });

  test('is counted by tags, regions and blocks', () => {
    const entry = (kind: ConvertedTag['kind'], verdict: ConvertedTag['verdict']): ConvertedTag => ({
      ...{ kind, verdict, from: '', to: '', message: '' },
      span: { start: 0, end: 0 },
    });
    const two = [entry('tag', 'exact'), entry('tag', 'loss')];
    expect(verdictCounts([])).toBe('0 tags');
    expect(verdictCounts(two)).toBe('2 tags: 1 exact, 1 loss');
    expect(verdictCounts([entry('tag', 'unknown')])).toBe('1 tag: 1 unknown');
    expect(
      verdictCounts([...two, entry('region', 'exact'), entry('block', 'removed'), entry('block', 'rewritten')]),
    ).toBe('2 tags, 1 region, 2 blocks: 2 exact, 1 rewritten, 1 removed, 1 loss');
    expect(verdictCounts([entry('block', 'removed')])).toBe('0 tags, 1 block: 1 removed');
  });

  test('fields that the project declares decide what a name means', () => {
    expect(
      convert('{{#tags}}{{.}}{{/tags}}{{#first_name}}{{.}}{{/first_name}}', 'mustache → handlebars', declared),
    ).toEqual({
      text: '{{#each tags as |tag|}}{{tag}}{{/each}}{{#if first_name}}{{first_name}}{{/if}}',
      verdicts: 'exact exact exact exact exact exact',
      codes: [],
    });
    expect(convert('{{#loans}}{{tool}} {{first_name}}{{/loans}}', 'mustache → jinja', declared)).toMatchObject({
      text: '{% for loan in loans %}{{ loan.tool }} {{ first_name }}{% endfor %}',
      verdicts: 'exact exact exact exact',
    });
    expect(convert('{{#if points}}a{{/if}}', 'handlebars → liquid', declared).text).toBe(
      '{% if points and points != 0 %}a{% endif %}',
    );
    expect(convert('{{#if loans}}a{{/if}}', 'handlebars → jinja', declared).text).toBe(
      '{% if loans | length %}a{% endif %}',
    );
  });

  test('what nothing decides is assumed, and said to be', () => {
    expect(convert('{{#vip}}a{{/vip}}', 'mustache → jinja')).toEqual({
      text: '{% if vip %}a{% endif %}',
      verdicts: 'assumed exact',
      codes: [],
    });
    expect(convert('{{#xs}}{{own}}{{/xs}}', 'mustache → jinja').verdicts).toBe('assumed assumed exact');
    expect(convert('{{x}}{{#x}}a{{/x}}', 'mustache → jinja').verdicts).toBe('exact exact exact');
  });

  const refused: readonly (readonly [pair: string, text: string, codes: string[]])[] = [
    ['jinja → handlebars', '{% if a == "b" %}x{% endif %}', ['merge-loss']],
    ['jinja → handlebars', '{{ x | upper }}', ['merge-loss']],
    ['jinja → handlebars', '{% if a or b %}x{% endif %}', ['merge-loss']],
    ['jinja → handlebars', '{% if a and b %}x{% else %}y{% endif %}', ['merge-loss']],
    ['jinja → liquid', '{% if a and b or c and d %}x{% endif %}', ['merge-loss']],
    ['neutral → liquid', `@{if a == "say \\"it's\\""}x@{end}`, ['merge-loss']],
    ['neutral → jinja', '@{loop}', ['merge-loss']],
    ['neutral → ferrywire', '@{+"[= Secret ]"}', ['merge-loss']],
    ['jinja → bellmoor', '{% raw %}~~FIRST~~{% endraw %}', ['merge-loss']],
    ['mustache → neutral', '{{not}}', ['merge-loss']],
    ['handlebars → mustache', '{{#if loans.length}}x{{/if}}', ['merge-loss']],
    ['liquid → mustache', '{% for x in xs %}{% if n %}{{ x }}{% endif %}{% endfor %}{{ n }}', ['merge-loss']],
    ['jinja → liquid', '{{ x | truncate(5) }}', ['merge-loss']],
    ['liquid → jinja', '{{ x | truncate: 5 }}', ['merge-loss']],
    ['liquid → handlebars', '{% for x in xs %}{{ forloop.index }}{% endfor %}', ['merge-loss']],
    ['jinja → liquid', '{{ loop.index }}', ['tag-unknown']],
    ['jinja → liquid', '{% if not a == b %}{% endif %}', ['tag-unknown']],
    ['handlebars → jinja', '{{> header}}{{@index}}', ['tag-unknown', 'tag-unknown']],
    ['liquid → jinja', 'a {{ name', ['dialect-tag-unclosed']],
    ['liquid → jinja', '{{ name }', ['dialect-tag-unclosed']],
    ['liquid → jinja', '{% if x %}a', ['merge-unclosed']],
    ['liquid → jinja', 'a{% endif %}', ['merge-stray']],
    ['handlebars → jinja', '{{#if a}}{{#each b}}{{/if}}{{/each}}', ['merge-crossed', 'merge-crossed']],
    ['mustache → jinja', '{{#a}}x{{/b}}', ['merge-crossed']],
    ['liquid → handlebars', '~~FIRST~~ {{ x }}', ['tag-foreign']],
  ];

  test.each(refused)('%s: %s is refused', (pair, text, codes) => {
    const result = convert(text, pair);
    expect({ text: result.text, codes: result.codes }).toEqual({ text: null, codes });
  });

  test.each(['liquid', 'jinja', 'handlebars', 'mustache', 'bellmoor'])(
    'to the same dialect keeps every byte (%s)',
    (name) => {
      const text = '{% if x %}{{~ odd | thing }} {{{ y }}}\r\n{{# z }} ~~WHAT IS THIS~~\r\n';
      expect(convert(text, `${name} → ${name}`)).toMatchObject({ text, codes: [] });
    },
  );

  test('no input makes it fail: what it cannot read it refuses', () => {
    const pieces = [
      '{{',
      '}}',
      '{%',
      '%}',
      '{#',
      '#}',
      '{{{',
      '}}}',
      'if',
      'x',
      '/',
      '#',
      '|',
      '"',
      '~',
      '\\',
      '@{',
      ' ',
      '<b>',
      'as',
      '.',
    ];
    let seed = 7;
    const next = (limit: number): number => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return seed % limit;
    };
    for (let run = 0; run < 400; run += 1) {
      const text = Array.from({ length: next(14) }, () => pieces[next(pieces.length)] ?? '').join('');
      for (const from of ['liquid', 'jinja', 'handlebars', 'mustache', 'neutral'])
        expect(() => convert(text, `${from} → ferrywire`)).not.toThrow();
    }
  });
});
