import { expect, test } from '@jest/globals';
import { computeStyles } from '../../../src/core/css/cascade/computed.js';
import { appliesAtWidth, declarationsOf, onlyOn } from '../../../src/core/css/cascade/document-cascade.js';
import { collectRules } from '../../../src/core/css/cascade/rules.js';
import { readSheets } from '../../../src/core/css/cascade/sheets.js';
import { indexElements } from '../../../src/core/css/selectors/element-index.js';
import { selectorSetting } from '../../../src/core/css/syntax/tagged-values.js';
import { parseHtml } from '../../../src/core/html/parse.js';
import { shownProperties } from '../../../src/core/plaintext/shown-style.js';
import { SourceText } from '../../../src/core/text/source-text.js';

const ignore = (): void => undefined;

/** The values of what decides a text version, of each element, with all that a page says or with what was asked for alone. */
function shownValues(html: string, isAskedFor?: (property: string) => boolean): string[][] {
  const { doc } = parseHtml(new SourceText('page.html', html), []);
  const index = indexElements(doc);
  const sheets = readSheets(doc, [], () => null, ignore);
  const rules = collectRules(sheets, selectorSetting(doc), ignore, isAskedFor);
  const declared = declarationsOf(index, rules, ignore, isAskedFor);
  const { styles } = computeStyles(index, ({ order }) =>
    (declared[order] ?? []).filter((item) => appliesAtWidth(item, 1000)),
  );
  return styles.map((style) => shownProperties.map((property) => style.get(property)));
}

/** Ways to say something of them, and the property whose value each changes. */
const sayings: readonly [declarations: string, changed: string][] = [
  ['display: none', 'display'],
  ['--d: none; display: var(--d)', 'display'],
  ['font: 0/1 serif', 'font-size'],
  ['font: bold 0 serif', 'font-size'],
  ['font: clamp(2px, 4px, 9px)/1.2 serif', 'font-size'],
  ['font: 700 min(1em, 9px) serif', 'font-size'],
  ['font-size: larger', 'font-size'],
  ['height: 2em', 'height'],
  ['block-size: 0', 'height'],
  ['max-block-size: 0', 'max-height'],
  ['max-inline-size: 3em', 'max-width'],
  ['overflow-x: hidden', 'overflow'],
  ['overflow-y: scroll', 'overflow'],
  ['list-style: square inside', 'list-style-type'],
  ['list-style-type: upper-roman', 'list-style-type'],
  ['text-align: end', 'text-align'],
  ['text-transform: uppercase', 'text-transform'],
  ['visibility: hidden', 'visibility'],
  ['white-space: pre', 'white-space'],
  ['word-spacing: 2em', 'word-spacing'],
];

const beside = 'color: #234; padding: 3px; border: 1px solid; margin-inline: 4px; direction: rtl; float: left';
const page = (css: string, attribute: string): string =>
  `<!doctype html><html><head><style>${css}</style></head><body><div class="a"><p style="${attribute}">x <b>y</b></p></div></body></html>`;

test.each(sayings)('%s is asked for with what it changes, in a sheet, nested and in an attribute', (said, changed) => {
  const plain = shownValues(page('', ''));
  const at = (shownProperties as readonly string[]).indexOf(changed);
  for (const html of [
    page(`p { ${beside}; ${said} } .b { color: red }`, ''),
    page(`.a { ${beside}; & p { ${said}; ${beside} } }`, ''),
    page(`.a { ${beside} } @media (min-width: 600px) { p { ${said} } }`, beside),
    page(`p { ${beside} }`, `${beside}; ${said}`),
  ]) {
    const all = shownValues(html);
    expect(shownValues(html, onlyOn(shownProperties))).toEqual(all);
    expect(all.map((values) => values[at])).not.toEqual(plain.map((values) => values[at]));
  }
});
