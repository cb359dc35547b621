import type { Rule } from '../facts/rule.js';
import { faintTexts } from '../facts/contrast.js';

export const contrastLow: Rule = {
  code: 'contrast-low',
  group: 'reading',
  severity: 'warning',
  sentence: '{color} on {ground} has a contrast of {contrast} to 1',
  remedy: 'Make the text darker or the ground lighter: {least} to 1 is what eyes need.',
  why: 'In sunlight, on old screens and with weak eyes it cannot be read (WCAG 2.2, 1.4.3).',
  bad: '<p style="color: #999999">Soon</p>',
  good: '<p style="color: #333333">Soon</p>',
  needs: [],
  *find(page) {
    for (const hit of faintTexts(page, 'desk')) yield { place: hit.place, data: hit.data };
  },
};
