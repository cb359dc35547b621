import type { Rule } from '../facts/rule.js';
import { familiesIn } from '../page/grounds.js';

export const fontGenericMissing: Rule = {
  code: 'font-generic-missing',
  group: 'fonts',
  severity: 'note',
  sentence: 'The fonts that begin with {family} end without a generic one',
  remedy: 'Put sans-serif, serif or monospace at the end.',
  why: 'Where none of them is at hand, the program chooses, and most choose Times (CSS Fonts 4, 2.1).',
  bad: '<p style="font-family: Karrik, Arial">Soon</p>',
  good: '<p style="font-family: Karrik, Arial, sans-serif">Soon</p>',
  needs: ['finished'],
  *find(page) {
    const told = new Set<string>();
    for (const text of page.texts('desk')) {
      const families = familiesIn(text.style);
      const [family] = families;
      const key = families.join();
      if (family === undefined || family === '' || told.has(key) || families.some((name) => generic.test(name)))
        continue;
      told.add(key);
      yield { place: page.placeOf(text.element), data: { family } };
    }
  },
};

const generic = /^(?:serif|sans-serif|monospace|cursive|fantasy|system-ui|ui-\w+|math|emoji|inherit|initial|unset)$/i;
