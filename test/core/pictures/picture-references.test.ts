import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { parseHtml } from '../../../src/core/html/parse.js';
import { pictureReferences, withAddress } from '../../../src/core/pictures/references.js';
import { shownWidths } from '../../../src/core/pictures/shown-widths.js';
import { contentsOfDrawing, isDrawing } from '../../../src/core/pictures/svg.js';
import { applyEdits } from '../../../src/core/text/apply-edits.js';
import { SourceText } from '../../../src/core/text/source-text.js';

const tag = { open: '~~', close: '~~', quotes: false, content: 'name' } as const;

function docOf(html: string): ReturnType<typeof parseHtml>['doc'] {
  return parseHtml(new SourceText('page.html', html), [tag]).doc;
}

function pathsIn(html: string): string[] {
  return pictureReferences(docOf(html)).map(({ path }) => path);
}

/** The HTML with each address written as another. */
function readdressed(html: string, address: (path: string) => string): string {
  const references = pictureReferences(docOf(html));
  return applyEdits(
    html,
    references.map((reference) => withAddress(reference, address(reference.path))),
  ).text;
}

describe('pictures are found wherever HTML names them', () => {
  test.each<[string, string, string[]]>([
    [
      'elements',
      '<img src=a.png><IMG SRC = "b.png"><input type=image src=\'c.png\'><input src="no.png">',
      ['a.png', 'b.png', 'c.png'],
    ],
    ['entities in addresses', '<img src="a&amp;b.png?x=1&amp;y=2">', ['a&b.png?x=1&y=2']],
    [
      'sets of sources',
      '<img srcset="a.png, b.png 2x,c.png 3x, data:image/png;base64,AA== 4x"><source srcset="d.webp 600w">',
      ['a.png', 'b.png', 'c.png', 'data:image/png;base64,AA==', 'd.webp'],
    ],
    ['old attributes', '<table background="t.gif"><tr><td background=c.gif>', ['t.gif', 'c.gif']],
    [
      'style attributes',
      `<p style="background:red url( 'a b.png' ) no-repeat;list-style-image:url(c.png)">`,
      ['a b.png', 'c.png'],
    ],
    [
      'style attributes with entities',
      '<p style="background:url(&quot;a.png&quot;)"><p style="background:url(&#39;b.png&#x27;)">',
      ['a.png', 'b.png'],
    ],
    ['escapes in CSS', '<style>p{background:url(a\\20 b.png)}</style>', ['a b.png']],
    [
      'style sheets, without fonts, sheets, comments and fragments',
      '<style>@import url(s.css);@font-face{src:url(f.woff)}/* url(x.png) */ p{background:url("a.png");clip-path:url(#c)}@media (max-width:9px){b{background-image:image-set("b.png" 1x, url(c.png) 2x)}}</style>',
      ['a.png', 'b.png', 'c.png'],
    ],
    [
      'shapes in comments for one engine',
      '<!--[if mso]><v:rect><v:fill type="frame" src="a.jpg" color="#fff"/></v:rect><td background="b.jpg"><![endif]--><!-- <img src="no.png"> -->',
      ['a.jpg', 'b.jpg'],
    ],
    [
      'what other engines read',
      '<!--[if !mso]><!--><img src="a.png"><!--<![endif]--><![if !vml]><img src="b.png"><![endif]>',
      ['a.png', 'b.png'],
    ],
    ['drawings within', '<svg><image href="a.png"/><image xlink:href="b.png"/></svg>', ['a.png', 'b.png']],
    ['rows outside of tables, unclosed elements', '<td background="a.png"><tr><img src="b.png"', ['a.png']],
    [
      'no text of scripts and titles',
      '<title><img src=no.png></title><textarea><img src=no.png></textarea><script>"<img src=no.png>"</script>',
      [],
    ],
    [
      'merge tags leave an address alone',
      '<img src="~~PIC~~"><img src="~~HOST~~/a.png"><img alt="~~X~~" src="b.png">',
      ['b.png'],
    ],
  ])('%s', (_, html, paths) => {
    expect(pathsIn(html)).toEqual(paths);
  });

  test('another address takes the place of the old one, and nothing else changes', () => {
    const html =
      '<IMG  SRC=a.png  alt = "x"\r\n><p style=\'background:url("b.png") ;; color : red\'>\t<!--[if mso]><v:fill src = \'c.png\' /><![endif]--><img srcset=" d.png  1x ,e.png 2x ">~~TAG~~ &nbsp &copy; <style>\n\tb { background : url( f.png ) }</style><td background=g.png>';
    const out = readdressed(html, (path) => `https://img.example/${path}?a=1&b=2`);
    const inText = (text: string): string => text.replace(/https:\/\/img\.example\/(\w\.png)\?a=1&(?:amp;)?b=2/g, '$1');
    expect(inText(out)).toBe(html);
    expect(out.match(/&amp;b=2/g)?.length).toBe(6);
    expect(out).toContain('url( https://img.example/f.png?a=1&b=2 )');
  });

  test('an address never breaks what it stands in', () => {
    const spots = [
      '<img src=#>',
      '<img src="#">',
      "<img src='#'>",
      '<p style="background:url(#)">',
      '<p style=\'background:url("#")\'>',
      '<style>p{background:url(#)}</style>',
      '<img srcset="# 2x">',
      '<!--[if mso]><v:fill src="#"/><![endif]-->',
    ];
    fc.assert(
      fc.property(
        fc.constantFrom(...spots),
        fc.webPath(),
        fc.constantFrom('', "'", '"', ')', ' ', '<', '(', '`'),
        (spot, path, odd) => {
          const address = `https://img.example${path}${odd}x`;
          const out = readdressed(spot.replace('#', 'old.png'), () => address);
          const [found = ''] = pathsIn(out);
          expect(decodeURIComponent(found)).toBe(decodeURIComponent(address));
          expect(readdressed(out, () => 'old.png')).toBe(spot.replace('#', 'old.png'));
        },
      ),
    );
  });
});

describe('the width that a picture is shown at', () => {
  test('a drawing that only a bound holds keeps its own size', () => {
    const widths = shownWidths(docOf('<img src="a.svg" style="max-width:300px"><img src="b.svg" width="80">'));
    expect([...widths]).toEqual([
      ['a.svg', null],
      ['b.svg', 80],
    ]);
  });

  const widthOf = (html: string): number | null | undefined => shownWidths(docOf(html)).get('a.png');

  test.each<[string, string, number | null]>([
    ['an attribute', '<img src="a.png" width="240">', 240],
    ['a style wins over the attribute', '<img src="a.png" width="240" style="width:120px">', 120],
    ['a bound', '<img src="a.png" width="600" style="width:100%;max-width:300px">', 300],
    [
      'a share of a table',
      '<table width="600"><tr><td style="padding:0 20px"><img src="a.png" style="width:50%"></td></tr></table>',
      280,
    ],
    [
      'wider on a phone',
      '<style>@media (max-width:480px){.w{width:100%!important}}</style><img class="w" src="a.png" width="180">',
      480,
    ],
    [
      'as wide as its room on a phone',
      '<style>@media (max-width:480px){.w{width:100%!important}}</style><div style="padding:0 24px"><img class="w" src="a.png" width="180"></div>',
      432,
    ],
    ['the widest of two places', '<img src="a.png" width="100"><img src="a.png" width="250">', 250],
    ['what nothing says', '<img src="a.png">', null],
    ['behind content', '<img src="a.png" width="100"><td background="a.png">', null],
    ['in a comment for one engine', '<!--[if mso]><img src="a.png" width="90"><![endif]-->', 90],
  ])('%s', (_, html, width) => {
    expect(widthOf(`<!doctype html><body style="margin:0">${html}`)).toBe(width);
  });
});

describe('what bad input costs', () => {
  test('elements that are nested deep are measured', () => {
    const depth = 20_000;
    const html = `${'<div style="padding:0 1px">'.repeat(20)}${'<div>'.repeat(depth)}<img src="a.png" style="width:50%">`;
    expect(shownWidths(docOf(`<!doctype html><body style="margin:0">${html}`)).get('a.png')).toBe(580);
  });

  test('a text that begins like a drawing, over and over, is told from one at once', () => {
    const comments = '<!---->\n'.repeat(50_000);
    expect([isDrawing(`${comments}x`), isDrawing(`<?xml version="1.0"?>${comments}<svg/>`)]).toEqual([false, true]);
  });
});

describe('drawings are told from other texts', () => {
  test.each<[string, boolean]>([
    ['<svg xmlns="x">', true],
    [' \n<s:SVG>', true],
    ['<?xml version="1.0"?><!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "svg11.dtd"><svg>', true],
    ['<!DOCTYPE svg [<!ENTITY a "b"><!ENTITY c "d">]><!-- <p> --><svg>', true],
    ['<!-- <svg> --><html>', false],
    ['<!-- <svg>', false],
    ['<svgx>', false],
    ['words, then <svg>', false],
    ['', false],
  ])('%s', (text, expected) => {
    expect(isDrawing(text)).toBe(expected);
  });
});

describe('drawings are looked through for what is more than shapes', () => {
  test.each<[string, string, readonly string[], readonly string[]]>([
    ['plain shapes', '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0"/><use href="#a"/></svg>', [], []],
    ['scripts', '<svg><script>1</script></svg>', ['<script>'], []],
    ['handlers', '<svg onload="x()"><a href="javascript:y()"/></svg>', ['onload="…"'], []],
    ['addresses that are scripts', '<svg><use href="JavaScript:y()"/></svg>', ['a script in an address'], []],
    ['pages', '<svg><foreignObject><p>x</p></foreignObject></svg>', ['<foreignobject>'], []],
    [
      'pictures from elsewhere',
      '<svg><image xlink:href="https://w.example/a.png"/><image href="file:///etc/passwd"/></svg>',
      [],
      ['https://w.example/a.png', 'file:///etc/passwd'],
    ],
    [
      'styles from elsewhere',
      '<svg><style>@import "x.css";p{fill:url(y.svg#z)}</style><rect style="fill:url(w.svg)"/></svg>',
      [],
      ['w.svg', 'y.svg#z', '@import'],
    ],
    ['pictures within', '<svg><image href="data:image/png;base64,AA"/></svg>', [], []],
  ])('%s', (_, text, active, external) => {
    const found = contentsOfDrawing(text);
    expect([found.active, [...found.external].sort()]).toEqual([active, [...external].sort()]);
  });
});
