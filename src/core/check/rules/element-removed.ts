import type { Rule } from '../facts/rule.js';
import { unsupportedElements } from '../../findings/wording/html.js';
import type { ElementNode } from '../../html/tree.js';

export const elementRemoved: Rule = {
  code: 'element-removed',
  group: 'structure',
  severity: 'error',
  sentence: 'Mail programs take <{tag}> out',
  remedy: '{advice}',
  why: 'What could do something in a mail is taken out before it is shown, and filters take it for an attack.',
  bad: '<p>Soon</p><script>count()</script>',
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    for (const element of page.elements) {
      const { tag } = element;
      const advice = unsupportedElements.get(tag) ?? own.get(tag);
      if (advice === undefined || /^(?:button|template|slot|details|dialog)$/.test(tag) || isOwnDrawing(element.parent))
        continue;
      yield { place: page.placeOf(element), data: { tag, advice } };
    }
  },
};

const own: ReadonlyMap<string, string> = new Map([
  ['base', 'Write whole addresses.'],
  ['applet', 'Remove it.'],
  ['frameset', 'Write one page.'],
]);

/** What is in such an element goes with it. */
function isOwnDrawing(parent: ElementNode | null): boolean {
  for (let element = parent; element !== null; element = element.parent)
    if (unsupportedElements.has(element.tag)) return true;
  return false;
}
