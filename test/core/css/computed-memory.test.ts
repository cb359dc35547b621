import { describe, expect, test } from '@jest/globals';
import { StyledPage, views, type ViewName } from '../../../src/core/check/page/styled-page.js';
import { properties } from '../../../src/core/css/values/properties.js';
import { parseHtml } from '../../../src/core/html/parse.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { styledDocument } from '../../support/styled-documents.js';

const pageOf = (html: string): StyledPage =>
  new StyledPage({ doc: parseHtml(new SourceText('page.html', html), []).doc, pictures: null });

const names = Object.keys(views) as ViewName[];

/** All values of all elements of a page in a view. */
const valuesIn = (page: StyledPage, view: ViewName): string[] =>
  page.styles(view).map((style) => [...properties.keys()].map((property) => style.get(property)).join('|'));

const valueOf = (page: StyledPage, view: ViewName, id: string, property: string): string => {
  const element = page.elements.find(({ attributes }) => attributes.get('id')?.value === id);
  return (element === undefined ? null : page.styleOf(element, view))?.get(property) ?? '';
};

describe('what is computed of an element once, for several views', () => {
  test('follows the window, its parent, custom properties and the scheme as if each view came first', () => {
    const page = pageOf(`<!doctype html><html><head><style>
      :root { font-size: 16px; color-scheme: light dark; --pad: 2vw }
      #wide { width: 50vw } #wide-child { font-size: 2em } #calc { margin-left: calc(10vw + 1px) }
      #own { padding-left: var(--pad) } #rem { width: 2rem } #scheme { color: light-dark(#111111, #eeeeee) }
      #grows { font-size: 4vw } #in-growing { width: 1em } #inherits { width: inherit } #still { width: 10px }
      @media (max-width: 600px) { #still { color: #ff0000 } }
    </style></head><body>
      <div id="wide"><p id="wide-child">a</p><p id="inherits">b</p></div><p id="calc">c</p><p id="own">d</p><p id="rem">e</p>
      <p id="scheme">f</p><div id="grows"><p id="in-growing">g</p></div><p id="still"><b id="bold">h</b></p></body></html>`);
    const seen = names.map((view) => [
      valueOf(page, view, 'wide', 'width'),
      valueOf(page, view, 'wide-child', 'font-size'),
      valueOf(page, view, 'inherits', 'width'),
      valueOf(page, view, 'calc', 'margin-left'),
      valueOf(page, view, 'own', 'padding-left'),
      valueOf(page, view, 'rem', 'width'),
      valueOf(page, view, 'scheme', 'color'),
      valueOf(page, view, 'in-growing', 'width'),
      valueOf(page, view, 'bold', 'color'),
    ]);
    expect(seen).toEqual([
      ['500px', '32px', '500px', '101px', '20px', '32px', '#111111', '40px', '#000000'],
      ['187.5px', '32px', '187.5px', '38.5px', '7.5px', '32px', '#111111', '15px', '#ff0000'],
      ['500px', '32px', '500px', '101px', '20px', '32px', '#eeeeee', '40px', '#ffffff'],
      ['187.5px', '32px', '187.5px', '38.5px', '7.5px', '32px', '#eeeeee', '15px', '#ff0000'],
    ]);
  });

  test('follows the size of the root alone', () => {
    const page = pageOf(`<!doctype html><html><head><style>
      p { width: 2rem } @media (max-width: 600px) { :root { font-size: 20px } }
    </style></head><body style="font-size:10px"><p id="rem">a</p></body></html>`);
    expect(names.map((view) => valueOf(page, view, 'rem', 'width'))).toEqual(['32px', '40px', '32px', '40px']);
  });

  test('follows which of two conditions holds', () => {
    const page = pageOf(`<!doctype html><html><head><style>
      @media (max-width: 600px) { p { width: 1px } } @media (min-width: 601px) { p { width: 2px } }
    </style></head><body><p id="one">a</p></body></html>`);
    expect(names.map((view) => valueOf(page, view, 'one', 'width'))).toEqual(['2px', '1px', '2px', '1px']);
  });

  test('is what a page that is looked at in that view alone comes to, in 20 documents', () => {
    for (let seed = 1; seed <= 20; seed += 1) {
      const { html } = styledDocument(seed);
      const page = pageOf(html);
      const alone = new Map(names.map((view) => [view, valuesIn(pageOf(html), view)]));
      for (const view of [...names].reverse())
        expect({ seed, view, values: valuesIn(page, view) }).toEqual({ seed, view, values: alone.get(view) });
    }
  });
});
