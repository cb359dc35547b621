import { CLIPPING_SIZE } from '../../engines/limits.js';
import type { Rule } from '../facts/rule.js';

export const htmlHeavy: Rule = {
  code: 'html-heavy',
  group: 'weight',
  severity: 'warning',
  sentence: 'The HTML has {size} KB, and some web mail cuts it off at about 100',
  remedy: 'Make it shorter, or split it: what stands at the end, the way to leave among it, is cut off first.',
  why: 'What is cut off is behind a link that hardly anybody follows, and the dot that counts who opens is gone.',
  bad: { html: `<p>Soon</p><!-- ${'x'.repeat(105_000)} -->` },
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    const size = new TextEncoder().encode(page.doc.source.text).length;
    if (size > CLIPPING_SIZE) yield { place: page.place(null), data: { size: String(Math.round(size / 1024)) } };
  },
};
