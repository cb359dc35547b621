import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { parseHtml } from '../../../src/core/html/parse.js';
import { attribute, elementsOf, textContent, type ElementNode } from '../../../src/core/html/tree.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { TestFolder } from '../../support/project.js';
import { Random } from '../../support/random.js';
import { languages, render } from '../../support/template-engines.js';

/** Texts that mean something in one language or another, whole, or beginning or ending a tag. */
const hostile = [
  '{{ first_name }}',
  '{{{first_name}}}',
  '{{&first_name}}',
  '{% if first_name %}x{% endif %}',
  '{# note #}',
  '{{! note }}',
  '{{=<% %>=}}',
  '{{#if first_name}}',
  '{{/if}}',
  '{% raw %}',
  '{% endraw %}',
  '{% comment %}',
  '@{first_name}',
  '@@{first_name}',
  '${a}',
  '\\{{first_name}}',
  '\\',
  '\\\\',
  '{',
  '}',
  '{{',
  '}}',
  '{%',
  '%}',
  '{#',
  '#}',
  '@',
  '@{',
  'first_name',
  '~~FIRST_NAME~~',
  '$(first_name)',
  '"',
  "'",
  '<b>&amp;',
];

const random = new Random(11);
const rows = Array.from({ length: 120 }, (_, number) => ({
  id: `e${number}`,
  a: hostile[number % hostile.length] ?? '',
  b: random.pick(hostile),
}));

/** All places where a value may stand: text, beside another and beside what an author wrote, attributes, addresses, subject. */
const message = `<!doctype html>
<html lang="en"><head><title>S \${a}\${b}</title><meta name="edition-name" content="\${id}"><meta name="preheader" content="P \${b}\${a}"></head><body>
<p id="both">\${a}\${b}</p><p id="apart">{\${a}{ \${b}}</p><p id="tag">\${a}@{first_name}\${b}</p>
<p><a id="said" title="\${a}\${b}" href="https://a.example/?q=\${a | url}">link</a><img id="shown" alt="\${b}{\${a}" src="https://a.example/x.png" width="10" height="10"></p>
</body></html>`;

let folder: TestFolder;

beforeAll(() => {
  folder = new TestFolder().write({
    'inscriba.yaml': [
      'name: Data',
      'sender: { name: Desk, address: desk@alderlane.example }',
      'fields: { first_name: { sample: Ines } }',
      // The data is odd on purpose, and so is what it makes of a subject and of texts.
      'checks: { subject-capitals: off, tag-of-platform: off }',
      `destinations: { ${languages.map((name) => `${name}: { dialect: ${name} }`).join(', ')} }`,
    ].join('\n'),
    'data/rows.json': JSON.stringify(rows),
    'messages/m.html': message.replace(
      '<meta name="edition-name"',
      '<meta name="editions" content="../data/rows.json"><meta name="edition-name"',
    ),
  });
  const { code, err } = folder.run(['build', '--quiet']);
  expect({ code, err: err.slice(0, 2000) }).toEqual({ code: 0, err: '' });
}, 120_000);

afterAll(() => folder.remove());

const values = { first_name: 'Ines' };

function byId(html: string): ReadonlyMap<string, ElementNode> {
  const { doc } = parseHtml(new SourceText('x', html), []);
  return new Map([...elementsOf(doc.root)].map((element) => [attribute(element, 'id') ?? '', element]));
}

describe('data never becomes a tag', () => {
  test.each(languages)('%s: the engine prints all data as it is, in HTML, text and subject', (language) => {
    for (const { id, a, b } of rows) {
      const read = (name: string): string => folder.read(`out/${language}/m/${id}/${name}`);
      const elements = byId(render(language, read('index.html'), values));
      const text = (name: string): string => textContent(elements.get(name) as ElementNode);
      const plain = render(language, read('index.txt'), values).replace(/\s+/g, '');
      const { subject } = JSON.parse(read('manifest.json')) as { subject: string };
      expect({
        id,
        both: text('both'),
        apart: text('apart'),
        tag: text('tag'),
        title: attribute(elements.get('said') as ElementNode, 'title'),
        alt: attribute(elements.get('shown') as ElementNode, 'alt'),
        plain: plain.includes(`${a}${b}{${a}{${b}}`.replace(/\s+/g, '')),
        subject: render(language, subject, values),
      }).toEqual({
        id,
        both: a + b,
        apart: `{${a}{ ${b}}`,
        tag: `${a}Ines${b}`,
        title: a + b,
        alt: `${b}{${a}`,
        plain: true,
        subject: `S ${a}${b}`,
      });
    }
  });
});
