import type { Rule } from '../facts/rule.js';
import { preheaderOf } from '../facts/preheader.js';

export const preheaderShort: Rule = {
  code: 'preheader-short',
  group: 'inbox line',
  severity: 'note',
  sentence: 'The preheader has {count} characters, and the first words of the mail follow it',
  remedy: 'Say more, {least} characters or so, or fill it up with characters that take no room.',
  why: 'Inboxes show a line of some length: what the preheader leaves of it, the beginning of the mail fills.',
  bad: '<div style="display: none">Soon</div><p>See this mail in a browser</p>',
  good: '<div style="display: none">Bring what is broken, we have the tools and the tea</div><p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    const found = preheaderOf(page);
    if (found !== null && !found.isFilled && [...found.text].length < LEAST)
      yield {
        place: page.place(found.node.span),
        data: { count: String([...found.text].length), least: String(LEAST) },
      };
  },
};

const LEAST = 40;
