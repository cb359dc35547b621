import { thousands } from '../../text/amounts.js';
import type { Rule } from '../facts/rule.js';
import { charsetOf } from '../facts/metas.js';

export const charsetLate: Rule = {
  code: 'charset-late',
  group: 'structure',
  severity: 'warning',
  sentence: 'How letters are encoded is said only after {count} bytes',
  remedy: 'Move <meta charset="utf-8"> to the beginning of the head.',
  why: 'Programs look for it in the first 1,024 bytes (HTML standard, 4.2.5.4), and guess where they find none there.',
  bad: {
    html: `<!doctype html><html lang="en"><head><!-- ${'x'.repeat(1100)} --><meta charset="utf-8"><title>Repair Day</title></head><body><p>Soon</p></body></html>`,
  },
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    const found = charsetOf(page);
    if (found === null) return;
    const start = found.element.startTag?.start ?? 0;
    const bytes = new TextEncoder().encode(page.doc.source.text.slice(0, start)).length;
    if (bytes > 1024) yield { place: page.placeOf(found.element), data: { count: thousands(bytes) } };
  },
};
