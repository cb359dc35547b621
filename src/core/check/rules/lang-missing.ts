import type { Rule } from '../facts/rule.js';
import { attribute } from '../../html/tree.js';

export const langMissing: Rule = {
  code: 'lang-missing',
  group: 'reading',
  severity: 'warning',
  sentence: 'The page does not say in which language it is',
  remedy: 'Write it on <html>: <html lang="en">.',
  why: 'Programs that read aloud choose the voice by it (WCAG 2.2, 3.1.1), and those that translate or hyphenate the language.',
  bad: {
    html: '<!doctype html><html><head><meta charset="utf-8"><title>Repair Day</title></head><body><p>Soon</p></body></html>',
  },
  good: '<p>Soon</p>',
  needs: [],
  *find(page) {
    const lang = attribute(page.doc.root, 'lang');
    if ((lang === null || lang.trim() === '') && page.doc.root.startTag !== null)
      yield { place: page.placeOf(page.doc.root) };
    else if (page.doc.root.startTag === null && page.input.isFinished) yield { place: page.place(null) };
  },
};
