import type { Rule } from '../facts/rule.js';
import { faintTexts } from '../facts/contrast.js';

export const contrastDark: Rule = {
  code: 'contrast-dark',
  group: 'reading',
  severity: 'warning',
  sentence: 'In the dark scheme {color} on {ground} has a contrast of {contrast} to 1',
  remedy: 'Give both a colour there, not only one: {least} to 1 is what eyes need.',
  why: 'A dark scheme that changes the ground and forgets the text hides it (WCAG 2.2, 1.4.3).',
  bad: '<style>@media (prefers-color-scheme: dark) { .box { background-color: #111111 } }</style><div class="box" style="color: #222222">Soon</div>',
  good: '<style>@media (prefers-color-scheme: dark) { .box { background-color: #111111; color: #eeeeee } }</style><div class="box">Soon</div>',
  needs: [],
  *find(page) {
    if (!page.hasDarkScheme) return;
    const light = new Set(faintTexts(page, 'desk').map(({ place }) => place.span.start));
    for (const hit of faintTexts(page, 'darkDesk'))
      if (!light.has(hit.place.span.start)) yield { place: hit.place, data: hit.data };
  },
};
