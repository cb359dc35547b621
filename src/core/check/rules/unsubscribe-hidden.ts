import type { Rule } from '../facts/rule.js';
import type { Page } from '../page/page.js';
import type { ShownText } from '../page/texts.js';
import { contrastOf } from '../page/grounds.js';
import { elementsOf } from '../../html/tree.js';

export const unsubscribeHidden: Rule = {
  code: 'unsubscribe-hidden',
  group: 'footer',
  severity: 'error',
  sentence: 'The way to leave can hardly be seen: {detail}',
  remedy: 'Show it as any other text is shown.',
  why: 'A way out that is hidden is none: readers mark the mail as unwanted, and regulators fine it.',
  bad: '<p><a href="https://alderlane.example/leave" style="color:#fcfcfc;background-color:#ffffff">Unsubscribe</a></p>',
  good: '<p><a href="https://alderlane.example/leave" style="color:#333333">Unsubscribe</a></p>',
  needs: [],
  *find(page) {
    const shown = new Map(page.texts('desk').map((text) => [text.element, text]));
    for (const { element, href, isUnsubscribe, pictures } of page.links) {
      if (href === null || !isUnsubscribe || pictures.length > 0) continue;
      const texts = [...elementsOf(element)].flatMap((inner) => shown.get(inner) ?? []);
      const detail =
        texts.length === 0
          ? 'it is not shown'
          : (texts.map((text) => faultOf(page, text)).find((fault) => fault !== null) ?? null);
      if (detail !== null) yield { place: page.placeOf(element), data: { detail } };
    }
  },
};

/** Smaller is not read, in px; fainter is not seen. */
const LEAST_SIZE = 9;
const LEAST_CONTRAST = 2;

function faultOf(page: Page, { element, style }: ShownText): string | null {
  const size = parseFloat(style.get('font-size')) || 16;
  if (size < LEAST_SIZE) return `its text is ${size} px high`;
  const { beneath, inkOn } = page.grounds('desk');
  const ground = beneath(element);
  const color = ground === null ? null : inkOn(ground, style);
  if (ground === null || color === null) return null;
  const contrast = contrastOf(color, ground);
  return contrast < LEAST_CONTRAST ? `its contrast is ${contrast.toFixed(1)} to 1` : null;
}
