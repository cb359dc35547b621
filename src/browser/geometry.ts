/// <reference lib="dom" />
/// <reference lib="dom.iterable" />
import type { Page } from 'playwright-core';

/** Where one word, picture or link lies on a page, in CSS px. */
export interface Placed {
  readonly what: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** What the nearest element around it is marked with by `data-place`; null where none is. */
  readonly mark: string | null;
}

/** A page as a whole, at the width that its window has. */
export interface Layout {
  /** The boxes of all visible words, pictures and links, each kind in document order. */
  readonly boxes: readonly Placed[];
  /** How wide and high all of it is, in px. */
  readonly scrollWidth: number;
  readonly scrollHeight: number;
  /** Whether rules generate text in it, which no element of it says. */
  readonly generates: boolean;
}

/**
 * How a page is laid out once what moves on it has come to its end; what moves for ever has not begun. It comes as one text: value
 * by value, the browser's driver takes longer than the browser.
 */
export async function readLayout(page: Page): Promise<Layout> {
  const text = await page.evaluate(() => {
    for (const animation of document.getAnimations())
      if (animation.effect?.getComputedTiming().endTime === Infinity) animation.cancel();
      else animation.finish();
    const boxes: { what: string; x: number; y: number; width: number; height: number; mark: string | null }[] = [];
    const add = (what: string, rect: DOMRect, element: Element | null): void => {
      const mark = element?.closest('[data-place]')?.getAttribute('data-place') ?? null;
      boxes.push({ what, x: rect.x + scrollX, y: rect.y + scrollY, width: rect.width, height: rect.height, mark });
    };
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
      if (node.parentElement?.closest('style,script,title') || !node.parentElement?.checkVisibility()) continue;
      for (const match of (node.textContent ?? '').matchAll(/[^\s\u00a0]+/g)) {
        const range = document.createRange();
        range.setStart(node, match.index);
        range.setEnd(node, match.index + match[0].length);
        for (const rect of range.getClientRects()) add(`word ${match[0]}`, rect, node.parentElement);
      }
    }
    for (const image of document.images)
      if (image.checkVisibility()) add(`picture ${image.alt}`, image.getBoundingClientRect(), image);
    for (const link of document.querySelectorAll('a[href]'))
      if (link.checkVisibility())
        add(`link ${(link.textContent ?? '').replace(/\s+/g, '')}`, link.getBoundingClientRect(), link);
    const { scrollWidth, scrollHeight } = document.documentElement;
    const generates = [...document.body.querySelectorAll('*')].some((element) =>
      ['::before', '::after'].some((part) => !/^(?:none|normal|"\s*")$/.test(getComputedStyle(element, part).content)),
    );
    return JSON.stringify({ boxes, scrollWidth, scrollHeight, generates });
  });
  return JSON.parse(text) as Layout;
}

/** Something that is not where it belongs, or is not there. */
export interface PlacedDifference {
  readonly kind: 'place' | 'content';
  readonly text: string;
  readonly by: number | null;
  readonly mark: string | null;
}

/**
 * Differences of more than a tolerance; empty where the pages agree.
 * @param mayHaveMore whether the second page may have text that the first one generates
 */
export function placedDifferences(
  expected: readonly Placed[],
  actual: readonly Placed[],
  tolerance: number,
  mayHaveMore = false,
): PlacedDifference[] {
  const list = (items: readonly Placed[]): string => items.map((item) => item.what).join(' | ');
  // What is shown in another order than it is written may be written in the order in which it is shown.
  if (!mayHaveMore && list(expected) !== list(actual) && list(asRead(expected)) === list(asRead(actual)))
    return placedDifferences(asRead(expected), asRead(actual), tolerance);
  const pairs = mayHaveMore ? inOrder(expected, actual) : list(expected) === list(actual) ? actual : null;
  if (pairs === null) {
    const at = expected.findIndex((item, index) => item.what !== actual[index]?.what);
    const text = `other content:\n  ${list(expected)}\n  ${list(actual)}`;
    return [{ kind: 'content', text, by: null, mark: expected[at]?.mark ?? null }];
  }
  return expected.flatMap((item, index): PlacedDifference[] => {
    const other = pairs[index];
    if (other === undefined) return [];
    const off = (['x', 'y', 'width', 'height'] as const).filter((key) => Math.abs(item[key] - other[key]) > tolerance);
    if (off.length === 0) return [];
    const by = Math.max(...off.map((key) => Math.abs(item[key] - other[key])));
    const text = off.map((key) => `${key} ${item[key].toFixed(2)} → ${other[key].toFixed(2)}`).join(', ');
    return [{ kind: 'place', text: `${item.what}: ${text}`, by, mark: item.mark }];
  });
}

/** Items by what they are, those alike from top to bottom and from left to right. */
function asRead(items: readonly Placed[]): Placed[] {
  const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
  return [...items].sort((a, b) => compare(a.what, b.what) || Math.round(a.y) - Math.round(b.y) || a.x - b.x);
}

/**
 * What of a page stands for each item of another, where all of them come in the same order. A browser's generated content is
 * no text of its page: the compiled one may have more. Such text is in the name of its link as well.
 */
function inOrder(expected: readonly Placed[], actual: readonly Placed[]): Placed[] | null {
  const found: Placed[] = [];
  let next = 0;
  for (const { what } of expected) {
    const isSame = (other: Placed): boolean =>
      other.what === what ||
      (what.startsWith('link ') && other.what.startsWith('link ') && other.what.includes(what.slice(5)));
    while (next < actual.length && !isSame(actual[next] as Placed)) next += 1;
    const other = actual[next];
    if (other === undefined) return null;
    found.push({ ...other, what });
    next += 1;
  }
  return found;
}
