import type { Rule } from '../facts/rule.js';
import { buttonHeight } from '../facts/button-height.js';

export const targetSmall: Rule = {
  code: 'target-small',
  group: 'reading',
  severity: 'note',
  sentence: 'This button is about {height} px high on a phone',
  remedy: 'Give it more padding: {least} px is what a thumb needs.',
  why: 'Who taps beside it opens something else, or nothing (WCAG 2.2, 2.5.8; 2.5.5 for the larger size).',
  bad: '<p><a href="https://alderlane.example/" style="display: inline-block; padding: 4px 10px; background-color: #225533; color: #ffffff; line-height: 18px; font-size: 15px">Reserve it</a></p>',
  good: '<p><a href="https://alderlane.example/" style="display: inline-block; padding: 13px 20px; background-color: #225533; color: #ffffff; line-height: 20px; font-size: 16px">Reserve it</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, words, pictures } of page.links) {
      const style = href === null || words === '' || pictures.length > 0 ? null : page.styleOf(element, 'phone');
      const height = style === null ? null : buttonHeight(element, style);
      if (height !== null && height < LEAST)
        yield { place: page.placeOf(element), data: { height: String(Math.round(height)), least: String(LEAST) } };
    }
  },
};

const LEAST = 44;
