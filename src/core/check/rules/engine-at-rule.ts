import type { Rule } from '../facts/rule.js';
import { engineHits } from '../facts/engine-hits.js';

export const engineAtRule: Rule = {
  code: 'engine-at-rule',
  group: 'engines',
  severity: 'warning',
  sentence: '{feature} does not work in {engines}: {happens}',
  remedy: '{instead}',
  why: 'What a program does not know it leaves out, and web mail often the whole style element with it.',
  bad: '<style>@layer base { p { color: #223344 } }</style><p>Saw</p>',
  good: '<style>@media (max-width: 600px) { p { font-size: 18px } }</style><p>Saw</p>',
  needs: ['compiled'],
  *find(page) {
    yield* engineHits(page, 'at-rules');
  },
};
