import { describe, expect, test } from '@jest/globals';
import { engineNames, type EngineName, type Feature } from '../../../src/core/engines/engine.js';
import { conditionHolds, openConditions } from '../../../src/core/engines/conditional-comments.js';
import { isRead } from '../../../src/core/engines/engine-styles.js';
import { simulate, type Simulation } from '../../../src/core/engines/simulate.js';
import { shapesAsBoxes } from '../../../src/core/engines/vector-shapes.js';
import { declarationFor, engineFeatures, ruleFor } from '../../support/engine-features.js';

const features = engineFeatures();

const seen = (html: string, engine: EngineName, said: Partial<Simulation> = {}): string =>
  simulate(html, { engine, scheme: 'light', pictures: 'shown', ...said }, features);

const ofKind = (kind: Feature['kind']): [string, Feature][] =>
  features.filter((feature) => feature.kind === kind).map((feature) => [feature.name, feature]);

describe('each feature is there for the engines that read it, and gone for the others', () => {
  // What the word engine makes of these depends on the element; see below.
  const byElement = new Set([
    'margin',
    'padding',
    'display: inline-block',
    'float',
    'margin: auto',
    'margin: negative',
  ]);

  test.each(ofKind('properties'))('%s', (name, { support }) => {
    const declaration = declarationFor(name);
    for (const engine of engineNames) {
      if (engine === 'word' && byElement.has(name)) continue;
      // An example may hold what another feature forbids: what is asked is whether this one keeps it.
      const alone = features.filter((feature) => feature.kind !== 'properties' || feature.name === name);
      const html = simulate(`<p style="${declaration}">x</p>`, { engine, scheme: 'light', pictures: 'shown' }, alone);
      const kept = name === 'margin: auto' ? html.includes('auto') : html.includes(declaration.split(':')[0] ?? '');
      expect({ engine, kept }).toEqual({ engine, kept: isRead(support[engine]) });
    }
  });

  test.each([...ofKind('at-rules'), ...ofKind('selectors')])('%s', (_, feature) => {
    for (const engine of engineNames.filter((name) => name !== 'strict-webmail')) {
      const alone = features.filter(
        ({ kind, name }) => !/^(?:at-rules|selectors)$/.test(kind) || name === feature.name,
      );
      const page = `<style>.other{color:blue}${ruleFor(feature)}</style><p>x</p>`;
      const html = simulate(page, { engine, scheme: 'light', pictures: 'shown' }, alone);
      expect({ engine, kept: html.includes('mark') }).toEqual({ engine, kept: isRead(feature.support[engine]) });
      const keepsSheet = feature.support[engine] !== 'drops-the-sheet';
      expect({ engine, other: html.includes('other') }).toEqual({ engine, other: keepsSheet });
    }
  });

  test.each(ofKind('elements').filter(([name]) => name !== 'style'))('<%s>', (name, { support }) => {
    const page =
      name === 'link' || name === 'base'
        ? `<head><${name} href="https://a.example/"></head>`
        : `<div><${name}>x</${name}></div>`;
    for (const engine of engineNames)
      expect({ engine, kept: seen(page, engine).includes(`<${name}`) }).toEqual({
        engine,
        kept: isRead(support[engine]),
      });
  });

  test.each(ofKind('attributes'))('%s=""', (name, { support }) => {
    for (const engine of engineNames) {
      const kept = seen(`<p ${name}="x">x</p><img ${name}="x" src="a.png">`, engine).includes(`${name}="x"`);
      expect({ engine, kept }).toEqual({ engine, kept: isRead(support[engine]) });
    }
  });

  test.each(ofKind('pictures').filter(([name]) => name !== 'animated gif'))(
    'a picture that is %s',
    (name, { support }) => {
      const src = name === 'data' ? 'data:image/png;base64,AAAA' : `a.${name}`;
      for (const engine of engineNames)
        expect({ engine, kept: seen(`<img src="${src}" alt="A saw">`, engine).includes('<img') }).toEqual({
          engine,
          kept: isRead(support[engine]),
        });
    },
  );
});

describe('the word engine', () => {
  test.each([
    ['a<!--[if mso]><b>w</b><![endif]-->b', 'a<b>w</b>b'],
    ['<!--[if !mso]><!--><i>others</i><!--<![endif]-->', ''],
    ['<!--[if !mso]>--><i>others</i><!--<![endif]-->', ''],
    ['<![if !mso]><i>others</i><![endif]>', ''],
    ['<!--[if gte mso 9]><b>new</b><![endif]--><!--[if lt mso 9]><b>old</b><![endif]-->', '<b>new</b>'],
    ['<!--[if mso]><td><![endif]--><!--[if !mso]><!--><td class="a"><!--<![endif]-->x', '<td>x'],
    ['<!-- a remark --><p>x</p>', '<!-- a remark --><p>x</p>'],
    ['<!--[if mso]>never ended', 'never ended'],
  ])('opens comments: %s', (html, opened) => expect(openConditions(html)).toBe(opened));

  test.each<[string, boolean]>([
    ['mso', true],
    ['!mso', false],
    [' mso 16 ', true],
    ['mso 15', false],
    ['(gte mso 9)&(lte mso 12)', false],
    ['(gte mso 9)|(IE)', true],
    ['IE', false],
    ['!(IE)', true],
    ['gte vml 1', true],
    ['true', true],
    ['', false],
    ['(((', false],
  ])('knows conditions: %s', (condition, holds) => expect(conditionHolds(condition)).toBe(holds));

  test('lays out text in paragraphs and cells alone', () => {
    const html =
      '<table><tr><td style="padding:8px"><div style="margin:4px;padding:6px;color:red">x</div></td></tr></table>';
    expect(seen(html, 'word')).toBe(
      '<table><tr><td style="padding:8px"><div style="color:red">x</div></td></tr></table>',
    );
    expect(seen('<p style="margin:4px auto;float:left">x</p>', 'word')).toBe('<p style="margin:4px 0">x</p>');
    expect(seen('<table><tr><td style="padding:0;mso-padding-alt:4px 8px">x</td></tr></table>', 'word')).toContain(
      'style="padding:0;padding:4px 8px"',
    );
    expect(seen('<div style="mso-hide:all">x</div>', 'word')).toBe('<div style="display:none">x</div>');
    expect(seen('<img src="a.png" width="200" style="width:100%;border:0">', 'word')).toContain('style="border:0"');
  });

  test('keeps the colour of a background whose picture it does not show', () => {
    expect(seen(`<div style="background:#eee url('a.png') no-repeat">x</div>`, 'word')).toBe(
      '<div style="background-color:#eee">x</div>',
    );
  });

  test('draws shapes as boxes', () => {
    const button =
      '<v:roundrect href="https://a.example/" style="width:200px;height:40px;v-text-anchor:middle" arcsize="10%" stroke="f" fillcolor="#2f5d50"><w:anchorlock/><center>Go</center></v:roundrect>';
    expect(shapesAsBoxes(button)).toBe(
      '<div style="width:200px;height:40px;display:inline-block;box-sizing:border-box;vertical-align:top;text-align:center;background-color:#2f5d50;border-radius:4px;line-height:40px"><center>Go</center></div>',
    );
    const backdrop =
      '<v:rect fill="true" stroke="false" style="width:600px"><v:fill type="frame" src="a.png" color="#111111"/><v:textbox inset="1px,2px,3px,4px"><div>x</div></v:textbox></v:rect>';
    expect(shapesAsBoxes(backdrop)).toBe(
      `<div style="width:600px;display:inline-block;box-sizing:border-box;vertical-align:top;text-align:center;background-color:#111111;background-image:url('a.png');background-size:100% 100%;border-radius:0"><div style="padding:2px 3px 4px 1px;text-align:left"><div>x</div></div></div>`,
    );
  });
});

describe('web mail', () => {
  test('gives names of its own to classes and ids', () => {
    const html = '<style>.a .b-c,#d[title=".e"]{color:red}</style><p class="a b-c" id="d"><a href="#d">x</a></p>';
    // Attributes in selectors take the rule along there.
    expect(seen(html.replace('[title=".e"]', ''), 'webmail')).toBe(
      '<style>.m_a .m_b-c,#m_d{color:red;}\n</style><p class="m_a m_b-c" id="m_d"><a href="#m_d">x</a></p>',
    );
  });

  test('leaves out a style element that is too long', () => {
    const long = `<style>${'.a{color:red}'.repeat(700)}</style><p class="a">x</p>`;
    expect(seen(long, 'webmail')).toBe('<style></style><p class="m_a">x</p>');
    expect(seen(long, 'webkit')).toContain('.a{color:red;}');
  });

  test('that is strict drops the head', () => {
    expect(seen('<head><style>.a{color:red}</style></head><p style="color:blue;gap:4px">x</p>', 'strict-webmail')).toBe(
      '<head></head><p style="color:blue">x</p>',
    );
  });
});

describe('schemes', () => {
  const page =
    '<head><meta name="color-scheme" content="light dark"><style>:root{color-scheme:light dark}@media (prefers-color-scheme:dark){p{color:#fff}}@media (prefers-color-scheme: light) and (max-width:600px){p{color:#000}}</style></head><p bgcolor="#ffffff">x</p>';

  test('are settled, whatever the scheme of the window is', () => {
    expect(seen(page, 'webkit', { scheme: 'dark' })).toBe(
      '<head><meta name="color-scheme" content="dark"><style>:root{color-scheme:dark;}\n@media (min-width:0){p{color:#fff;}\n}\n@media (max-width:0) and (max-width:600px){p{color:#000;}\n}\n</style></head><p bgcolor="#ffffff">x</p>',
    );
    expect(seen(page, 'webkit')).toContain('content="light"');
    expect(seen(page, 'webkit')).toContain('@media (max-width:0){p{color:#fff;}');
  });

  test('that are inverted turn colours round, and leave pictures and words alone', () => {
    const html = `<head></head><p style="color:#000000;background:white url('red.png');border:1px solid #336699;font-family:red" bgcolor="#ffffff">x</p>`;
    expect(seen(html, 'webkit', { scheme: 'inverted' })).toBe(
      `<head><style>html{background-color:#000000;color:#ffffff}a:link{color:#1111ff}</style></head><p style="color:#ffffff;background:#000000 url('red.png');border:1px solid #6699cc;font-family:red" bgcolor="#000000">x</p>`,
    );
  });
});

describe('pictures that are off', () => {
  test('leave their room, their frame and their alternative in the letters of their style', () => {
    const html =
      '<img src="a.png" alt="Saws &amp; files" width="200" height="80" style="color:red;font-size:20px" data-place="4">';
    expect(seen(html, 'webkit', { pictures: 'off' })).toBe(
      '<span role="img" data-place="4" style="display:inline-block;overflow:hidden;box-sizing:border-box;width:200px;height:80px;color:red;font-size:20px;outline:1px dotted #999;outline-offset:-1px">Saws &amp; files</span>',
    );
  });

  test('are none behind text either', () => {
    const html = '<table><tr><td background="a.png" style="background:#eee url(a.png)">x</td></tr></table>';
    expect(seen(html, 'webkit', { pictures: 'off' })).toBe(
      '<table><tr><td style="background-color:#eee">x</td></tr></table>',
    );
  });
});

describe('whatever comes', () => {
  test.each([
    '',
    '<',
    '<style>',
    '<style>.a{',
    '<img',
    '<p style="color:">',
    "<p style='a:\"b'>x",
    '<!--[if mso]>',
    '\u0000<p>',
    '<v:rect',
    '😀<p class="😀">x</p>',
  ])('%j makes a page for each engine', (html) => {
    for (const engine of engineNames)
      for (const scheme of ['light', 'dark', 'inverted'] as const)
        expect(typeof seen(html, engine, { scheme, pictures: 'off' })).toBe('string');
  });

  test('a page that uses nothing stays as it is', () => {
    const html =
      '<!doctype html><html lang="en"><head><title>x</title></head><body><p align="center">Saws &amp; files</p></body></html>';
    for (const engine of engineNames) expect(seen(html, engine)).toBe(html);
  });
});
