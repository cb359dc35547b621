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
      if (link.checkVisibility()) add(`link ${link.textContent?.trim()}`, link.getBoundingClientRect());
    return placed;
  });
}

/** Differences of more than a tolerance, in words; empty where the pages agree. */
export function compareGeometry(expected: readonly Placed[], actual: readonly Placed[], tolerance: number): string[] {
  const differences: string[] = [];
  const list = (items: readonly Placed[]): string => items.map((item) => item.what).join(' | ');
  if (list(expected) !== list(actual)) differences.push(`other content:\n  ${list(expected)}\n  ${list(actual)}`);
  expected.forEach((item, index) => {
    const other = actual[index];
    if (other === undefined || other.what !== item.what) return;
    const off = (['x', 'y', 'width', 'height'] as const).filter((key) => Math.abs(item[key] - other[key]) > tolerance);
    if (off.length > 0)
      differences.push(
        `${item.what}: ${off.map((key) => `${key} ${item[key].toFixed(2)} → ${other[key].toFixed(2)}`).join(', ')}`,
      );
  });
  return differences;
}

/** The widths at which layouts are compared. */
export const judgedWidths = [320, 375, 480, 540, 600, 601, 700, 1000] as const;
