import { afterEach, describe, expect, test } from '@jest/globals';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { TestFolder } from '../../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

/** Converts standard input; what was found is given as `place severity code`. */
function convert(input: string, from: string, to: string, ...more: string[]): [number | null, string, string[]] {
  folder = new TestFolder();
  const { code, out, err } = folder.run(['convert', '-', '--from', from, '--to', to, '--quiet', ...more], { input });
  return [code, out, [...err.matchAll(/^<stdin>:(\S+ {2}\w+ {2}\S+)/gm)].map(([, what = '']) => what)];
}

describe('marks of the open languages', () => {
  test('case and when become conditions, and are losses with a place where those cannot be said', () => {
    const text = '{% case a %}{% when "x", "y" %}1{% else %}2{% endcase %}';
    expect(convert(text, 'liquid', 'jinja')).toEqual([0, '{% if a == "x" or a == "y" %}1{% else %}2{% endif %}', []]);
    expect(convert(text, 'liquid', 'tansy')[2]).toContain('1:1  error  merge-loss');
    expect(convert(text, 'liquid', 'tansy', '--allow-loss').slice(0, 2)).toEqual([0, '2']);
  });

  test('unless and else', () => {
    const text = '{% unless a %}1{% else %}2{% endunless %}';
    expect(convert(text, 'liquid', 'handlebars')).toEqual([0, '{{#unless a}}1{{else}}2{{/unless}}', []]);
  });

  test('counters of loops and the filters that they share', () => {
    const loop = '{% for x in xs %}{{ forloop.index }} {{ x.tool | truncate: 9 | upcase }}{% endfor %}';
    const [code, out, findings] = convert(loop, 'liquid', 'neutral');
    expect([code, out, findings]).toEqual([0, '@{each xs as x}@{+x.#index} @{+x.tool | truncate 9 | upper}@{end}', []]);
    const filters = '{{ a | size }} {{ a | plus: 2 | times: 3 | minus: 1 | round: 1 }} {{ a | replace: "x", "y" }}';
    expect(convert(filters, 'liquid', 'tansy')[2]).toHaveLength(3);
    expect(convert(filters, 'liquid', 'tansy', '--allow-loss')[0]).toBe(0);
  });

  test('each tag that was repaired is told with its line', () => {
    const [, , findings] = convert(
      '{{#if\u00a0x }}b{{/if}}\n{{<b>name</b>}}\n<a href="%7B%7Burl%7D%7D">x</a>',
      'handlebars',
      'liquid',
    );
    expect(findings).toEqual([
      '1:1  warning  tag-repaired',
      '2:1  warning  tag-repaired',
      '3:10  warning  tag-repaired',
    ]);
  });

  test('a tag of another dialect is named by it where the two share delimiters', () => {
    folder = new TestFolder();
    const run = folder.run(['convert', '-', '--from', 'mustache', '--to', 'oxbow', '--quiet'], {
      input: '{{#if x}}a{{/if}}',
    });
    expect([run.code, run.err.split('\n')[0], run.err.match(/error {2}/g)?.length]).toEqual([
      1,
      '<stdin>:1:1  error  tag-foreign  Here is a tag of another dialect, Handlebars (template language): {{#if x}}',
      1,
    ]);
  });

  test('blocks that are nested too deep to be meant are one finding', () => {
    const deep = `${'{{#if a}}'.repeat(3000)}x${'{{/if}}'.repeat(3000)}`;
    expect(convert(deep, 'handlebars', 'oxbow')).toEqual([1, '', ['1:1801  error  merge-deep']]);
  });

  test.each([
    ['160 spaces in a tag', `{%${' '.repeat(160)}if a${' '.repeat(160)}%}x{%${' '.repeat(160)}endif %}`, 'jinja', 0],
    ['8,000 raw blocks', '{% raw %}x{% endraw %}'.repeat(8000), 'jinja', 0],
    ['50,000 tildes', '~'.repeat(50_000), 'bellmoor', 1],
  ])('%s are converted in bounded time', (_, text, from, code) => {
    expect(convert(text, from, 'liquid')[0]).toBe(code);
  });
});

describe('fields that a dialect maps to paths', () => {
  const mapping = `dialect: ours
title: Ours
delimiters: [{ open: '{{', close: '}}' }]
tags: { field: '{{ {field} }}' }
fields: { first_name: contact.given_name }
`;

  test('are written and read back', () => {
    folder = new TestFolder().write({ 'inscriba.yaml': 'fields: {}\n', 'dialects/ours.yaml': mapping });
    const run = (input: string, from: string, to: string): string =>
      folder.run(['convert', '-', '--from', from, '--to', to, '--quiet'], { input }).out;
    expect(run('@{first_name}', 'neutral', 'ours')).toBe('{{ contact.given_name }}');
    expect(run('{{ contact.given_name }}', 'ours', 'neutral')).toBe('@{first_name}');
  });

  test('a mapping that cannot be read back is a finding at its line of the dialect file', () => {
    const ambiguous = mapping.replace('given_name }', 'given_name, surname: contact.given_name }');
    folder = new TestFolder().write({ 'inscriba.yaml': 'fields: {}\n', 'dialects/ours.yaml': ambiguous });
    const run = folder.run(['dialect', 'check', 'ours']);
    expect(run.err).toMatch(/^dialects\/ours\.yaml:5:\d+ {2}\w+ {2}mapping-read/m);
  });
});

test('dialect show tells the shape of the package, limits and what a message needs', () => {
  folder = new TestFolder();
  const { out } = folder.run(['dialect', 'show', 'oxbow']);
  expect(out.slice(out.indexOf('\n\nIt imports'))).toBe(`

It imports files in a folder.
It refuses a message without @{link.unsubscribe} and @{sender.postal_address}.
It takes web fonts.
All other names are written as in first_name.
≈ marks what it says in other words, which a conversion reports as rewritten.
— marks what it cannot say: such a tag is an error at its place.
`);
});

describe('dialect learn', () => {
  const exported = `<p>Hi [[first_name|default:"friend"]], [[branch]]</p>
[[#vip]]<p>a</p>[[/vip]]
<ul>[[each loan in loans]]<li>[[loan.tool]]</li>[[end]]</ul>
`;

  test('finds fallbacks in the form of a filter and blocks of one mark', () => {
    folder = new TestFolder().write({ 'a.html': exported });
    const { code, out, err } = folder.run(['dialect', 'learn', 'a.html', '--name', 'ours']);
    expect([code, err]).toEqual([0, '7 tags between [[ and ]]: 2 names, conditions, loops\n']);
    expect(out).toContain(`  fallback: '[[{field}|default:"{text}"]]'
  if: '[[#{condition}]]'
  end_if: '[[/{condition}]]'
  each: '[[each {item} in {list}]]'
  end_each: '[[end]]'
`);
    folder.write({ 'dialects/ours.yaml': out });
    const text = folder.run(['convert', 'a.html', '--from', 'ours', '--to', 'neutral', '--quiet']).out;
    expect(text).toBe(`<p>Hi @{first_name ?? "friend"}, @{branch}</p>
@{if vip}<p>a</p>@{end}
<ul>@{each loans as loan}<li>@{loan.tool}</li>@{end}</ul>
`);
  });

  test('files without tags give no draft', () => {
    folder = new TestFolder().write({ 'a.html': `<p>${'!'.repeat(20_000)} ((((()))))) ]] [[ ${'𝒳'.repeat(5000)}</p>` });
    const run = folder.run(['dialect', 'learn', 'a.html', '--out', 'dialects/ours.yaml']);
    expect([run.code, run.err.includes('learn-nothing'), existsSync(join(folder.path, 'dialects'))]).toEqual([
      1,
      true,
      false,
    ]);
  });
});
