import type { Page } from 'playwright-core';

/** Where one word, picture or link lies on a page, in CSS px. */
export interface Placed {
  readonly what: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The boxes of all visible words, pictures and links, each kind in document order. */
export async function readGeometry(page: Page): Promise<Placed[]> {
  return page.evaluate(() => {
    const placed: { what: string; x: number; y: number; width: number; height: number }[] = [];
    const add = (what: string, rect: DOMRect): void => {
      placed.push({ what, x: rect.x + scrollX, y: rect.y + scrollY, width: rect.width, height: rect.height });
    };
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
      if (node.parentElement?.closest('style,script,title') || !node.parentElement?.checkVisibility()) continue;
      for (const match of (node.textContent ?? '').matchAll(/[^\s\u00a0]+/g)) {
        const range = document.createRange();
        range.setStart(node, match.index);
        range.setEnd(node, match.index + match[0].length);
        for (const rect of range.getClientRects()) add(`word ${match[0]}`, rect);
      }
    }
    for (const image of document.images)
      if (image.checkVisibility()) add(`picture ${image.alt}`, image.getBoundingClientRect());
    for (const link of document.querySelectorAll('a[href]'))
      if (link.checkVisibility())
        add(`link ${(link.textContent ?? '').replace(/\s+/g, '')}`, link.getBoundingClientRect());
    return placed;
  });
}

/** Whether a browser generates text on a page by `::before` or `::after`. */
export async function generatesText(page: Page): Promise<boolean> {
  return page.evaluate(() =>
    [...document.body.querySelectorAll('*')].some((element) =>
      ['::before', '::after'].some((part) => !/^(?:none|normal|"\s*")$/.test(getComputedStyle(element, part).content)),
    ),
  );
}

/**
 * Differences of more than a tolerance, in words; empty where the pages agree.
 * @param mayHaveMore whether the second page may have text that the first one generates
 */
export function compareGeometry(
  expected: readonly Placed[],
  actual: readonly Placed[],
  tolerance: number,
  mayHaveMore = false,
): string[] {
  const differences: string[] = [];
  const list = (items: readonly Placed[]): string => items.map((item) => item.what).join(' | ');
  // What is shown in another order than it is written may be written in the order in which it is shown.
  if (!mayHaveMore && list(expected) !== list(actual) && list(asRead(expected)) === list(asRead(actual)))
    return compareGeometry(asRead(expected), asRead(actual), tolerance);
  const pairs = mayHaveMore ? inOrder(expected, actual) : list(expected) === list(actual) ? actual : null;
  if (pairs === null) differences.push(`other content:\n  ${list(expected)}\n  ${list(actual)}`);
  expected.forEach((item, index) => {
    const other = (pairs ?? actual)[index];
    if (other === undefined || other.what !== item.what) return;
    const off = (['x', 'y', 'width', 'height'] as const).filter((key) => Math.abs(item[key] - other[key]) > tolerance);
    if (off.length > 0)
      differences.push(
        `${item.what}: ${off.map((key) => `${key} ${item[key].toFixed(2)} → ${other[key].toFixed(2)}`).join(', ')}`,
      );
  });
  return differences;
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

/** The widths at which layouts are compared. */
export const judgedWidths = [320, 375, 480, 540, 600, 601, 700, 1000] as const;
