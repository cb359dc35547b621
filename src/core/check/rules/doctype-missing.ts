import type { Rule } from '../facts/rule.js';

export const doctypeMissing: Rule = {
  code: 'doctype-missing',
  group: 'structure',
  severity: 'warning',
  sentence: 'The page has no doctype',
  remedy: 'Begin it with <!doctype html>.',
  why: 'Without one browsers go back to the rules of old ones (HTML standard, 13.2.6.4.1): tables do not inherit text sizes, and boxes are measured otherwise.',
  bad: {
    html: '<!-- --><html lang="en"><head><meta charset="utf-8"><title>Repair Day</title></head><body><p>Soon</p></body></html>',
  },
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    if (page.doc.doctype === null) yield { place: page.place(null) };
  },
};
