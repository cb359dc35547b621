import type { Rule } from '../facts/rule.js';
import { engineHits } from '../facts/engine-hits.js';
import { unsupportedElements } from '../../findings/wording/html.js';

export const engineElement: Rule = {
  code: 'engine-element',
  group: 'engines',
  severity: 'warning',
  sentence: '{feature} does not work in {engines}: {happens}',
  remedy: '{instead}',
  why: 'Programs leave out elements that they do not know, or that could do something.',
  bad: '<p>Reserved <meter value="3" max="5"></meter></p>',
  good: '<p>Reserved: 3 of 5</p>',
  needs: ['compiled'],
  *find(page) {
    yield* engineHits(page, 'elements', unsupportedElements);
  },
};
