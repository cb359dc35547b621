import type { Rule } from '../facts/rule.js';
import type { Page } from '../page/page.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementNode } from '../../html/tree.js';

export const targetsClose: Rule = {
  code: 'targets-close',
  group: 'reading',
  severity: 'note',
  sentence: 'These two pictures that lead elsewhere stand {gap} px apart',
  remedy: 'Put 8 px or more between them.',
  why: 'A thumb hits both, and one of the two is the wrong one.',
  bad: '<p><a href="https://alderlane.example/a"><img src="a.png" width="24" height="24" alt="Diary"></a><a href="https://alderlane.example/b"><img src="b.png" width="24" height="24" alt="Shop"></a></p>',
  good: '<p><a href="https://alderlane.example/a" style="margin-right: 12px"><img src="a.png" width="24" height="24" alt="Diary"></a><a href="https://alderlane.example/b"><img src="b.png" width="24" height="24" alt="Shop"></a></p>',
  needs: [],
  *find(page) {
    const links = new Map(page.links.map((link) => [link.element, link]));
    for (const { element, pictures, words } of page.links) {
      if (pictures.length !== 1 || words !== '') continue;
      const next = nextElement(element);
      const other = next === null ? undefined : links.get(next);
      if (other === undefined || other.pictures.length !== 1 || other.words !== '') continue;
      const [picture, second] = [pictures[0], other.pictures[0]];
      const gap = [
        page.styleOf(element, 'phone'),
        page.styleOf(other.element, 'phone'),
        picture && page.styleOf(picture, 'phone'),
        second && page.styleOf(second, 'phone'),
      ]
        .map((style, index) => (style ? edge(style, index % 2 === 0 ? 'right' : 'left') : 0))
        .reduce((sum, part) => sum + part, gapBetween(page, element));
      const small = [picture, second].every(
        (image) => (image === undefined ? 0 : (page.styleOf(image, 'phone')?.pixels('width') ?? 100)) < 44,
      );
      if (small && gap < 8) yield { place: page.placeOf(other.element), data: { gap: String(gap) } };
    }
  },
};

function edge(style: ComputedStyle, side: 'left' | 'right'): number {
  return (style.pixels(`margin-${side}`) ?? 0) + (style.pixels(`padding-${side}`) ?? 0);
}

/** The element that follows at once, with nothing but space between. */
function nextElement(element: ElementNode): ElementNode | null {
  const siblings = element.parent?.children ?? [];
  for (const node of siblings.slice(siblings.indexOf(element) + 1)) {
    if (node.kind === 'element') return node;
    if (node.kind === 'text' && node.value.trim() !== '') return null;
  }
  return null;
}

/** What a row puts between its items, or else the space that is written between the two. */
function gapBetween(page: Page, element: ElementNode): number {
  const { parent } = element;
  const row = parent === null ? null : page.styleOf(parent, 'phone');
  if (row !== null && /flex|grid/.test(row.get('display'))) return row.pixels('column-gap') ?? 0;
  const siblings = parent?.children ?? [];
  return siblings[siblings.indexOf(element) + 1]?.kind === 'text' ? 4 : 0;
}
