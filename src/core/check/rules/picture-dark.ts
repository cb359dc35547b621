import type { Rule } from '../facts/rule.js';
import { printColor } from '../../css/values/mixed-color.js';
import { isDim } from '../page/grounds.js';

export const pictureDark: Rule = {
  code: 'picture-dark',
  group: 'pictures',
  severity: 'warning',
  sentence: 'This picture is dark and transparent, and lies on {ground} in the dark scheme',
  remedy: 'Give it a light edge, or show another one in the dark.',
  why: 'What is drawn in dark colours on nothing vanishes on a dark ground: logos above all.',
  bad: {
    html: '<style>@media (prefers-color-scheme: dark) { .box { background-color: #111 } }</style><div class="box"><img src="sign.png" width="200" height="60" alt="Alder Lane"></div>',
    pictures: { 'sign.png': { width: 400, height: 120, isDark: true } },
  },
  good: {
    html: '<style>@media (prefers-color-scheme: dark) { .box { background-color: #111 } }</style><div class="box"><img src="sign.png" width="200" height="60" alt="Alder Lane"></div>',
    pictures: { 'sign.png': { width: 400, height: 120 } },
  },
  needs: ['pictures'],
  *find(page) {
    if (!page.hasDarkScheme) return;
    for (const { element, file } of page.pictures) {
      const shown = page.styleOf(element, 'darkDesk')?.get('display') !== 'none';
      const ground = file?.isDark === true && shown ? page.grounds('darkDesk').beneath(element) : null;
      if (ground !== null && isDim(ground))
        yield { place: page.placeOf(element), data: { ground: printColor(ground) } };
    }
  },
};
