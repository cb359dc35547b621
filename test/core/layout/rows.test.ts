import { describe, expect, test } from '@jest/globals';
import { compile } from '../../../src/core/index.js';

/** What a body with some rules is compiled to, for all engines but `word`, or the advice where it is refused. */
function compiled(css: string, body: string): string {
  const { value, findings } = compile(
    `<!doctype html><html lang="en"><head><title>T</title><style>${css}</style></head><body>${body}</body></html>`,
    {},
    {},
  );
  if (value === null) return findings.map(({ data }) => String(data['advice'] ?? '')).join('\n');
  return value.html.slice(value.html.indexOf('<body')).replace(/<!--.*?-->/gs, '');
}

/** The styles of the elements of a kind, in order, as far as they are about some properties. */
function styles(html: string, tag: string, ...properties: string[]): string[] {
  return [...html.matchAll(new RegExp(`<${tag}\\b[^>]*style="([^"]*)"`, 'g'))].map(([, style = '']) =>
    style
      .split(';')
      .filter((declaration) => properties.includes(declaration.split(':')[0] ?? ''))
      .join(';'),
  );
}

const two = '<div class="r"><div class="k x">A</div><div class="k y">B</div></div>';
const links =
  '<div class="r"><a class="x" href="https://a.example/">A</a><a class="y" href="https://a.example/">B</a></div>';

describe('columns that share a row by weights', () => {
  test('a rule between them stands in a cell of its own, and percentages share the rest', () => {
    const html = compiled('.r{display:flex}.k{flex:1}.y{border-left:1px solid #ccc}', two);
    expect(styles(html, 'td', 'width', 'border-left').slice(1)).toEqual([
      'width:50%',
      'width:1px;border-left:1px solid #ccc',
      'border-left:0;width:50%',
    ]);
  });

  test('padding that differs stands in cells of its own too, at the side at which text begins first', () => {
    const css = (more: string): string => `.r{display:flex;${more}}.k{flex:1;background:#eee}.y{padding:0 4px 0 9px}`;
    const widths = (more: string): string[] => styles(compiled(css(more), two), 'td', 'width').slice(1);
    expect(widths('')).toEqual(['width:50%', 'width:9px', 'width:50%', 'width:4px']);
    expect(widths('direction:rtl')).toEqual(['width:50%', 'width:4px', 'width:50%', 'width:9px']);
  });

  test.each([
    ['rounded corners', '.k{border-radius:4px}'],
    ['a shadow', '.k{box-shadow:0 0 4px #000}'],
    ['a picture behind them', '.k{background-image:url(a.png)}'],
    ['paint that is as high as its text', '.r{align-items:center}'],
  ])('but not with %s, which no cells side by side share', (_, more) => {
    expect(compiled(`.r{display:flex}.k{flex:1;background:#eee}.y{padding:0 9px}${more}`, two)).toContain(
      'Columns of this paint that grow beside each other need equal weights, side padding and borders: ',
    );
  });

  test('margins are around what they share alike', () => {
    const html = compiled('.r{display:flex}.k{flex:1;background:#eee;padding:4px}.y{margin-left:10px}', two);
    expect(styles(html, 'td', 'width', 'padding').slice(1)).toEqual([
      'padding:0;width:50%',
      'padding:4px',
      'width:10px;padding:0',
      'padding:0;width:50%',
      'padding:4px',
    ]);
  });

  test('gaps as padding of cells stand where the row begins and ends', () => {
    const padding = (direction: string): string[] =>
      styles(compiled(`.r{display:flex;gap:20px;direction:${direction}}.k{flex:1}`, two), 'td', 'padding').slice(1);
    expect(padding('ltr')).toEqual(['padding:0 10px 0 0', 'padding:0 0 0 10px']);
    expect(padding('rtl')).toEqual(['padding:0 0 0 10px', 'padding:0 10px 0 0']);
  });

  test('columns in percent leave whole weights to others', () => {
    const css = '.r{display:flex}.x{flex:0 0 20%}.k{flex:1}.y{flex:3.14159}';
    expect(
      compiled(css, '<div class="r"><div class="x">A</div><div class="k">B</div><div class="y">C</div></div>'),
    ).toBe('Beside columns in percent let the others grow by whole weights up to 12: flex: 1, flex: 2.');
  });
});

describe('columns that are shares of a row', () => {
  test('have padding and borders beside their share, as browsers measure it', () => {
    const html = compiled('.r{display:flex}.k{width:40%;padding:0 10px}.y{padding:0;border-right:2px solid #999}', two);
    expect(styles(html, 'td', 'width').slice(1)).toEqual([
      'width:10px',
      'width:40%',
      'width:10px',
      'width:40%',
      'width:2px',
      '',
    ]);
  });

  test('have them within it where they say so', () => {
    const html = compiled('.r{display:flex}.k{box-sizing:border-box;width:40%;padding:0 10px}', two);
    expect(styles(html, 'td', 'width').slice(1)).toEqual(['width:40%', 'width:40%', '']);
  });

  test('with rounded corners are asked to', () => {
    expect(compiled('.r{display:flex}.k{width:40%;padding:9px;background:#eee;border-radius:4px}', two)).toContain(
      'Write box-sizing: border-box beside it',
    );
  });
});

describe('links that are items of a row', () => {
  test('are as high as it where one of them is higher', () => {
    const html = compiled('.r{display:flex;gap:8px}a{padding:4px;background:#eee}.y{padding:9px}', links);
    expect(styles(html, 'a', 'height', 'padding')).toEqual(['padding:4px;height:100%', 'padding:9px;height:100%']);
    expect(html.match(/<td[^>]*height="1"/g)).toHaveLength(2);
  });

  test('say nothing of it where all are as high as each other anyway', () => {
    const html = compiled('.r{display:flex;gap:8px}a{padding:4px;background:#eee}', links);
    expect(styles(html, 'a', 'height')).toEqual(['', '']);
  });

  test('may break in columns of a width, so that one of them is higher', () => {
    const words = links.replace('B<', 'Return it on Saturday, or on any other day but Monday<');
    const html = compiled('.r{display:flex;gap:8px}a{flex:1;padding:4px;background:#eee}', words);
    expect(styles(html, 'a', 'height')).toEqual(['height:100%', 'height:100%']);
  });
});

describe('lists and tables that are items of a row', () => {
  test('a list has its padding once, and says nothing to a row that is a table', () => {
    const html = compiled(
      '.r{display:flex}ul{flex:1;background:#eee}',
      '<div class="r"><ul><li>A</li></ul><ul><li>B</li></ul></div>',
    );
    expect(html.match(/40px/g)).toHaveLength(2);
    expect(html).not.toContain('flex');
  });

  test('a table is as wide as its column, of which its own width is the share', () => {
    const html = compiled(
      '.a{width:40%;float:left}.b{width:60%;float:right}.w{overflow:hidden}',
      '<div class="w"><table class="a"><tr><td>A</td></tr></table><table class="b"><tr><td>B</td></tr></table></div>',
    );
    expect(styles(html, 'table', 'width').slice(-2)).toEqual(['width:100%', 'width:100%']);
    expect(html).toMatch(/width:40%.*width:60%/s);
    expect(html).not.toContain('float');
  });

  test('a share of the row that does not hold the padding is refused', () => {
    expect(compiled('.r{display:flex}ul{width:50%}', '<div class="r"><ul><li>A</li></ul></div>')).toContain(
      'Write box-sizing: border-box beside it',
    );
  });
});

describe('what keeps beside floats', () => {
  test.each(['overflow:hidden', 'display:flow-root', 'margin-left:60px'])('%s', (beside) => {
    const html = compiled(
      `.m{overflow:hidden}.p{float:left;width:60px}.b{${beside}}`,
      '<div class="m"><div class="p">P</div><div class="b">B</div></div>',
    );
    expect(styles(html, 'td', 'width').slice(-2)).toEqual(['width:60px', '']);
  });

  test('text that flows around a float is refused', () => {
    expect(compiled('.p{float:left;width:60px}', '<div><div class="p">P</div><p>Words</p></div>')).toContain(
      'Let the element around hold it',
    );
  });
});
