import type { Rule } from '../facts/rule.js';
import { preheaderText } from '../facts/subject.js';

export const preheaderRepeats: Rule = {
  code: 'preheader-repeats',
  group: 'inbox line',
  severity: 'warning',
  sentence: 'The preheader says what the subject says',
  remedy: 'Say something else in it.',
  why: 'Inboxes show the two beside each other.',
  bad: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Repair Day on Saturday</title></head><body><div style="display: none">Repair Day on Saturday</div><p>Soon</p></body></html>',
  },
  good: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Repair Day on Saturday</title></head><body><div style="display: none">Bring what is broken, we have the tools and the tea</div><p>Soon</p></body></html>',
  },
  needs: [],
  *find(page) {
    const found = preheaderText(page);
    if (found !== null && page.title !== '' && found.text.toLowerCase() === page.title.toLowerCase())
      yield { place: found.place };
  },
};
