import type { Rule } from '../facts/rule.js';
import { faintTexts } from '../facts/contrast.js';

export const contrastInverted: Rule = {
  code: 'contrast-inverted',
  group: 'reading',
  severity: 'note',
  sentence: 'Where a program turns colours round, this text has a contrast of {contrast} to 1',
  remedy: 'Give text and ground more difference: {least} to 1 has to be left.',
  why: 'Several programs make a dark mail of a light one by themselves, and do not ask.',
  bad: '<p style="color: #ffff00; background-color: #000000">Soon</p>',
  good: '<p style="color: #222222">Soon</p>',
  needs: [],
  *find(page) {
    if (page.hasDarkScheme) return;
    const told = new Set(faintTexts(page, 'desk').map(({ place }) => place.span.start));
    for (const hit of faintTexts(page, 'desk', 'inverted'))
      if (!told.has(hit.place.span.start) && Number(hit.data.contrast) < MUCH_TOO_LOW)
        yield { place: hit.place, data: hit.data };
  },
};

/** Programs do not turn alike: only what is far too faint by any of them is told. */
const MUCH_TOO_LOW = 2;
