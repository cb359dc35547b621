import type { Rule } from '../facts/rule.js';
import { plainWords } from '../page/texts.js';

export const capitalsLong: Rule = {
  code: 'capitals-long',
  group: 'reading',
  severity: 'note',
  sentence: '{count} letters in a row are capitals',
  remedy: 'Write it as other text is written; let a style make it larger or bolder.',
  why: 'Words are known by their shapes, and capitals are all alike: long stretches are read slowly, and some programs spell them out.',
  bad: '<p>THE SHED IS OPEN ON SATURDAY FROM NINE TO FIVE, AND ON SUNDAY TOO</p>',
  good: '<p>The shed is open on Saturday from nine to five, and on Sunday too.</p>',
  needs: [],
  *find(page) {
    for (const { element, style, words } of page.texts('desk')) {
      const letters = plainWords(words).replace(/[^\p{L}]/gu, '');
      const isWritten = letters === letters.toUpperCase() && letters !== letters.toLowerCase();
      if (letters.length >= LEAST && (isWritten || style.get('text-transform') === 'uppercase'))
        yield { place: page.placeOf(element), data: { count: String(letters.length) } };
    }
  },
};

const LEAST = 40;
