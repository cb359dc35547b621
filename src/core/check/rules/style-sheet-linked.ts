import type { Rule } from '../facts/rule.js';
import { isStyleLink } from '../../css/cascade/sheets.js';
import { attribute } from '../../html/tree.js';

export const styleSheetLinked: Rule = {
  code: 'style-sheet-linked',
  group: 'structure',
  severity: 'error',
  sentence: 'A style sheet in a file of its own does not reach readers',
  remedy: 'Inline it: inscriba inline puts its rules where they belong.',
  why: 'Mail programs load no style sheets: the mail shows without any of its styles.',
  bad: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Repair Day</title><link rel="stylesheet" href="mail.css"></head><body><p>Soon</p></body></html>',
  },
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    for (const element of page.withTag('link')) {
      const isFont = /\b(?:fonts?)\b/i.test(attribute(element, 'href') ?? '');
      if (isStyleLink(element) && !isFont) yield { place: page.placeOf(element) };
    }
  },
};
