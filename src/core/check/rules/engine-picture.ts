import type { Rule } from '../facts/rule.js';
import { engineHits } from '../facts/engine-hits.js';

export const enginePicture: Rule = {
  code: 'engine-picture',
  group: 'engines',
  severity: 'warning',
  sentence: '{feature} does not work in {engines}: {happens}',
  remedy: '{instead}',
  why: 'Readers see an empty box where their program does not show a picture.',
  bad: '<p><img src="data:image/png;base64,iVBORw0KGgo=" width="300" height="200" alt="A saw"></p>',
  good: '<p><img src="saw.png" width="300" height="200" alt="A saw"></p>',
  needs: ['compiled'],
  *find(page) {
    yield* engineHits(page, 'pictures', shownNowhere);
  },
};

/** Kinds that a rule of their own names. */
const shownNowhere: ReadonlySet<string> = new Set(['webp', 'avif', 'svg', 'tiff', 'bmp', 'heic']);
