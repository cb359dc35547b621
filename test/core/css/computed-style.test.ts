import { describe, expect, test } from '@jest/globals';
import type { Declared } from '../../../src/core/css/cascade/cascade.js';
import { ComputedStyle, TakenValues } from '../../../src/core/css/cascade/computed-style.js';
import { computedValue, computedValues } from '../../../src/core/css/values/computed-value.js';
import { StyledPage } from '../../../src/core/check/page/styled-page.js';
import { properties } from '../../../src/core/css/values/properties.js';
import { readQuantity } from '../../../src/core/css/values/value.js';
import { parseHtml } from '../../../src/core/html/parse.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { styledDocument } from '../../support/styled-documents.js';

/** A style of some values, of which the author says those that are named. */
function styleOf(
  own: Readonly<Record<string, string | number>>,
  inherited: Readonly<Record<string, string | number>> = {},
  authored: readonly string[] = Object.keys(own),
): ComputedStyle {
  const said = new Map(authored.map((property) => [property, {} as Declared]));
  return new ComputedStyle(
    computedValues(Object.entries(own)),
    computedValues(Object.entries(inherited)),
    said,
    new TakenValues(null, said),
  );
}

describe('a computed value', () => {
  test.each<[value: string | number, text: string, number: number | null, unit: string | null, pixels: number | null]>([
    ['12px', '12px', 12, 'px', 12],
    ['-0.5px', '-0.5px', -0.5, 'px', -0.5],
    ['0', '0', 0, '', 0],
    ['1.5', '1.5', 1.5, '', null],
    ['50%', '50%', 50, '%', null],
    ['0%', '0%', 0, '%', null],
    ['2fr', '2fr', 2, 'fr', null],
    ['1e2px', '1e2px', 100, 'px', 100],
    ['auto', 'auto', null, null, null],
    ['none', 'none', null, null, null],
    ['', '', null, null, null],
    ['1px 2px', '1px 2px', null, null, null],
    ['calc(100% - 2px)', 'calc(100% - 2px)', null, null, null],
    ['#123456', '#123456', null, null, null],
    [12, '12px', 12, 'px', 12],
    [0, '0px', 0, 'px', 0],
    [-0, '0px', 0, 'px', 0],
    [1 / 3, '0.3333px', 0.3333, 'px', 0.3333],
    [1e-9, '0px', 0, 'px', 0],
  ])('%p is read once', (value, text, number, unit, pixels) => {
    expect(computedValue(value)).toEqual({
      text,
      quantity: number === null ? null : { number, unit },
      pixels,
    });
  });

  test('says on random pages what its text says, for each property of each element', () => {
    const wrong: string[] = [];
    for (let seed = 0; seed < 12; seed += 1) {
      const { doc } = parseHtml(new SourceText('page.html', styledDocument(seed).html), []);
      const page = new StyledPage({ doc, pictures: null });
      for (const style of page.styles('phone'))
        for (const property of properties.keys()) {
          const [said, text] = [style.quantity(property), style.get(property)];
          const read = readQuantity(text);
          if (said?.number !== read?.number || said?.unit !== read?.unit) wrong.push(`${seed} ${property}: ${text}`);
        }
    }
    expect(wrong).toEqual([]);
  });
});

describe('a computed style', () => {
  test('has its own values, those from above, and initial ones, in this order', () => {
    const style = styleOf({ width: '50%', color: '#111111' }, { color: '#222222', 'font-size': 20 });
    expect(
      ['width', 'color', 'font-size', 'height', 'padding-left', 'unheard-of'].map((name) => style.get(name)),
    ).toEqual(['50%', '#111111', '20px', 'auto', '0px', '']);
    expect([style.pixels('font-size'), style.pixels('width'), style.pixels('padding-left')]).toEqual([20, null, 0]);
  });

  test('shares are of what stands around, lengths of nothing', () => {
    const style = styleOf({ width: '25%', 'max-width': '300px', height: 'auto', 'min-width': 'calc(1px + 2%)' });
    const within = ['width', 'max-width', 'height', 'min-width'].map((name) => style.pixelsWithin(name, 480));
    expect(within).toEqual([120, 300, null, null]);
  });

  test('to look is not to take', () => {
    const style = styleOf({ width: '10px', height: '20px', 'max-width': '30px', gap: '1px' });
    style.pixels('width');
    style.quantity('height');
    style.pixelsWithin('max-width', 100);
    const taken = (): boolean[] => ['width', 'height', 'max-width'].map((name) => style.isTaken(name));
    expect(taken()).toEqual([false, false, false]);
    expect([style.takePixels('width'), style.takeValue('height').text, style.takePixelsWithin('max-width', 1)]).toEqual(
      [10, '20px', 30],
    );
    expect(taken()).toEqual([true, true, true]);
  });

  test('changed, it keeps who said what, and leaves the one that it was made of alone', () => {
    const before = styleOf({ 'margin-left': 'auto', color: '#111111' });
    const after = before.with(
      new Map<string, string | number>([
        ['margin-left', 12.5],
        ['display', 'none'],
      ]),
    );
    expect([after.get('margin-left'), after.pixels('margin-left'), after.get('display')]).toEqual([
      '12.5px',
      12.5,
      'none',
    ]);
    expect([before.get('margin-left'), before.get('display')]).toEqual(['auto', 'inline']);
    expect([after.isAuthored('margin-left'), after.isAuthored('display')]).toEqual([true, false]);
    after.take('margin-left');
    expect(before.isTaken('margin-left')).toBe(true);
  });

  test('a box around it says what it says to its row, and nothing of itself', () => {
    const item = styleOf(
      { 'flex-grow': '2', 'align-self': 'center', padding: '3px', 'padding-left': '3px', display: 'block' },
      { color: '#222222' },
    );
    const frame = item.frame([['margin-left', 7]]);
    const names = ['flex-grow', 'align-self', 'padding-left', 'display', 'color', 'margin-left'];
    expect(names.map((name) => frame.get(name))).toEqual(['2', 'center', '0px', 'block', '#222222', '7px']);
    expect(names.map((name) => item.wrapper().get(name))).toEqual(['2', 'center', '0px', 'block', '#222222', '0px']);
    const hidden = styleOf({ display: 'none', 'flex-grow': '1' });
    expect([hidden.wrapper().get('display'), hidden.frame([]).get('display')]).toEqual(['none', 'none']);
  });

  test('text that stands in it by itself has what inherits, and the lines of its text', () => {
    const style = styleOf(
      { 'text-decoration': 'underline', 'padding-left': '3px', color: '#111111' },
      { color: '#111111', 'font-size': 20 },
    );
    const inner = style.anonymous();
    const names = ['text-decoration', 'padding-left', 'color', 'font-size', 'display'];
    expect(names.map((name) => inner.get(name))).toEqual(['underline', '0px', '#111111', '20px', 'block']);
    expect(style.isTaken('text-decoration')).toBe(true);
  });
});
