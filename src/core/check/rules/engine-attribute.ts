import type { Rule } from '../facts/rule.js';
import { engineHits } from '../facts/engine-hits.js';

export const engineAttribute: Rule = {
  code: 'engine-attribute',
  group: 'engines',
  severity: 'warning',
  sentence: '{feature} does not work in {engines}: {happens}',
  remedy: '{instead}',
  why: 'Programs leave out attributes that they do not know, or that could do something.',
  bad: '<p onclick="count()">Saw</p>',
  good: '<p>Saw</p>',
  needs: ['compiled'],
  *find(page) {
    yield* engineHits(page, 'attributes');
  },
};
