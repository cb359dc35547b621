import { MOST_HEAD_BYTES } from '../../engines/limits.js';
import type { Rule } from '../facts/rule.js';

export const headHeavy: Rule = {
  code: 'head-heavy',
  group: 'weight',
  severity: 'warning',
  sentence: 'This style element has {size} KB, and web mail keeps no more than 8',
  remedy: 'Take out what nothing uses: inscriba inline --drop-unused does that.',
  why: 'Web mail leaves a longer one out as a whole: queries for phones and dark schemes are gone with it.',
  bad: {
    html: `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Repair Day</title><style>${'.a { color: #223344 }'.repeat(500)}</style></head><body><p>Soon</p></body></html>`,
  },
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    for (const element of page.withTag('style')) {
      const size = new TextEncoder().encode(
        page.doc.source.slice({ start: element.startTag?.end ?? 0, end: element.endTag?.start ?? 0 }),
      ).length;
      if (size > MOST_HEAD_BYTES) yield { place: page.placeOf(element), data: { size: (size / 1024).toFixed(1) } };
    }
  },
};
