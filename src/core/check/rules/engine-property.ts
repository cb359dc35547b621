import type { Rule } from '../facts/rule.js';
import { engineHits } from '../facts/engine-hits.js';

export const engineProperty: Rule = {
  code: 'engine-property',
  group: 'engines',
  severity: 'warning',
  sentence: '{feature} does not work in {engines}: {happens}',
  remedy: '{instead}',
  why: 'Mail programs know CSS of very different ages, and leave out what they do not know.',
  bad: '<div style="display: grid; grid-template-columns: 1fr 1fr"><p>Saw</p><p>Plane</p></div>',
  good: '<p style="color: #223344">Saw</p>',
  needs: ['compiled'],
  *find(page) {
    yield* engineHits(page, 'properties');
  },
};
