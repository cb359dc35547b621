import type { Rule } from '../facts/rule.js';
import { engineHits } from '../facts/engine-hits.js';

export const engineSelector: Rule = {
  code: 'engine-selector',
  group: 'engines',
  severity: 'warning',
  sentence: '{feature} does not work in {engines}: {happens}',
  remedy: '{instead}',
  why: 'What a program does not know it leaves out, and web mail often the whole style element with it.',
  bad: '<style>p:has(b) { color: #223344 }</style><p>Saw <b>one</b></p>',
  good: '<style>.saw { color: #223344 }</style><p class="saw">Saw</p>',
  needs: ['compiled'],
  *find(page) {
    yield* engineHits(page, 'selectors');
  },
};
