import type { Rule } from '../facts/rule.js';
import { preheaderText } from '../facts/subject.js';

export const preheaderLong: Rule = {
  code: 'preheader-long',
  group: 'inbox line',
  severity: 'note',
  sentence: 'The preheader has {count} characters',
  remedy: 'Say it in {most}: no inbox shows more.',
  why: 'What is cut off in the middle of a sentence says less than a short one.',
  bad: { html: `<div style="display: none">${'Bring what is broken, we have tools. '.repeat(5)}</div><p>Soon</p>` },
  good: '<div style="display: none">Bring what is broken, we have the tools and the tea</div><p>Soon</p>',
  needs: [],
  *find(page) {
    const found = preheaderText(page);
    const count = found === null ? 0 : [...found.text].length;
    if (found !== null && count > MOST)
      yield { place: found.place, data: { count: String(count), most: String(MOST) } };
  },
};

const MOST = 140;
