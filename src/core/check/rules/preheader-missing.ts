import type { Rule } from '../facts/rule.js';
import { titlePlace } from '../facts/subject.js';

export const preheaderMissing: Rule = {
  code: 'preheader-missing',
  group: 'inbox line',
  severity: 'note',
  sentence: 'Nothing says what inboxes show beside the subject',
  remedy: 'Write <meta name="preheader" content="…"> into the head of the message.',
  why: 'Inboxes take the first words of the mail in its place: "See this mail in a browser".',
  bad: { html: '<p>See this mail in a browser</p>', preheader: null },
  good: { html: '<p>Soon</p>', preheader: 'Bring what is broken, we have the tools and the tea' },
  needs: ['project'],
  *find(page) {
    if (page.input.preheader === null) yield { place: titlePlace(page) };
  },
};
