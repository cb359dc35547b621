import type { Rule } from '../facts/rule.js';
import { charsetOf } from '../facts/metas.js';
import { firstElement } from '../../html/tree.js';

export const charsetMissing: Rule = {
  code: 'charset-missing',
  group: 'structure',
  severity: 'warning',
  sentence: 'The page does not say how its letters are encoded',
  remedy: 'Write <meta charset="utf-8"> at the beginning of its head.',
  why: 'Where neither the page nor the mail around it says so, programs guess, and an é comes out as two strange signs (HTML standard, 4.2.5.4).',
  bad: { html: '<!doctype html><html lang="en"><head><title>Repair Day</title></head><body><p>Soon</p></body></html>' },
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    if (charsetOf(page) === null) yield { place: page.place(firstElement(page.doc.root, 'head')?.startTag ?? null) };
  },
};
