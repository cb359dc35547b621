import { describe, expect, test } from '@jest/globals';
import { hintsOf } from '../../../src/core/css/cascade/attribute-hints.js';
import { StyledPage } from '../../../src/core/check/page/styled-page.js';
import { parseHtml } from '../../../src/core/html/parse.js';
import { elementsOf, type ElementNode } from '../../../src/core/html/tree.js';
import { SourceText } from '../../../src/core/text/source-text.js';

/** The element with the id `k` of a page, and what a browser computes for it on a wide window. */
function found(html: string): { node: ElementNode; value: (property: string) => string } {
  const { doc } = parseHtml(new SourceText('page.html', html), []);
  const node = [...elementsOf(doc.root)].find(({ attributes }) => attributes.get('id')?.value === 'k');
  if (node === undefined) throw new Error('Nothing has the id k.');
  const page = new StyledPage({ doc, pictures: null });
  return { node, value: (property) => page.styles('desk')[page.index.of.get(node)?.order ?? -1]?.get(property) ?? '' };
}

describe('what old attributes say', () => {
  test.each<[name: string, html: string, hints: [string, string][]]>([
    ['a cell has the padding of its table', '<table cellpadding=10><tr><td id=k>', [['padding', '10px']]],
    ['the nearest table', '<table cellpadding=10><tr><td><table cellpadding=0><tr><td id=k>', [['padding', '0px']]],
    ['a width', '<table><tr><td id=k width=50%>', [['width', '50%']]],
    ['a width with a unit', '<table id=k width=600px>', [['width', '600px']]],
    ['no width', '<table id=k width=wide>', []],
    ['no width of zero', '<table><tr><td id=k width=0>', []],
    ['a picture without a width', '<img id=k width=0>', [['width', '0px']]],
    ['a colour without its sign', '<table id=k bgcolor=ffeecc>', [['background-color', '#ffeecc']]],
    ['a name of a colour', '<body id=k bgcolor=white>', [['background-color', 'white']]],
    ['where text stands', '<table><tr id=k valign=BOTTOM>', [['vertical-align', 'bottom']]],
    ['text without breaks', '<table><tr><th id=k nowrap>', [['white-space', 'nowrap']]],
    ['a table that floats', '<table id=k align=left>', [['float', 'left']]],
    [
      'a table in the middle',
      '<table id=k align=center>',
      [
        ['margin-left', 'auto'],
        ['margin-right', 'auto'],
      ],
    ],
    ['blocks and text', '<div id=k align=center>', [['text-align', '-webkit-center']]],
    ['text alone', '<h2 id=k align=center>', [['text-align', 'center']]],
    ['justified text', '<p id=k align=justify>', [['text-align', 'justify']]],
    ['nothing that nobody knows', '<p id=k align=char>', []],
    ['a picture that floats', '<img id=k align=right>', [['float', 'right']]],
    [
      'space beside a picture',
      '<img id=k hspace=4>',
      [
        ['margin-left', '4px'],
        ['margin-right', '4px'],
      ],
    ],
    ['a border of a picture', '<img id=k border=3>', [['border', '3px solid']]],
    ['none', '<img id=k border=0>', []],
    ['the size of a font', '<font id=k size=5>', [['font-size', 'x-large']]],
    ['a size that is counted from the usual one', '<font id=k size=+1>', [['font-size', 'large']]],
    ['no smaller one than the smallest', '<font id=k size=-9>', [['font-size', 'x-small']]],
  ])('%s', (_, html, hints) => {
    expect(hintsOf(found(html).node)).toEqual(hints);
  });
});

describe('what comes of it', () => {
  test('any rule outranks an attribute', () => {
    const { value } = found('<style>td{padding:2px}</style><table cellpadding=10><tr><td id=k width=50>');
    expect([value('padding-left'), value('width')]).toEqual(['2px', '50px']);
  });

  test.each([
    ['<div align=center><p id=k>', 'center', '0px'],
    ['<center><div id=k style="width:200px">', 'center', 'auto'],
    ['<center><div id=k style="width:200px;margin-left:10px">', 'center', '10px'],
    ['<div align=right><div id=k style="max-width:200px">', 'right', 'auto'],
    ['<table><tr><td align=center><table id=k>', 'start', 'auto'],
    ['<table><tr><td align=center><table><tr><td id=k>', 'start', '0px'],
    ['<div style="text-align:center"><table id=k>', 'center', '0px'],
    ['<div style="text-align:center"><div id=k style="width:200px">', 'center', '0px'],
  ])('%s', (html, align, margin) => {
    const { value } = found(html);
    expect([value('text-align'), value('margin-left')]).toEqual([align, margin]);
  });
});
