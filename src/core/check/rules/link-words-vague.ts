import type { Rule } from '../facts/rule.js';

export const linkWordsVague: Rule = {
  code: 'link-words-vague',
  group: 'links',
  severity: 'note',
  sentence: 'The words of this link, "{words}", say nothing of where it leads',
  remedy: 'Let the link stand on the words that say it: "the opening hours", not "here".',
  why: 'Who hears a mail goes from link to link and hears "here, here, here" (WCAG 2.2, 2.4.4).',
  bad: '<p>For the opening hours click <a href="https://alderlane.example/hours">here</a>.</p>',
  good: '<p>See the <a href="https://alderlane.example/hours">opening hours</a>.</p>',
  needs: [],
  *find(page) {
    for (const link of page.links) {
      const words = link.words
        .toLowerCase()
        .replace(/[.!:>»›→…]+$/, '')
        .trim();
      if (link.href !== null && link.pictures.length === 0 && vague.has(words))
        yield { place: page.placeOf(link.element), data: { words: link.words } };
    }
  },
};

const vague: ReadonlySet<string> = new Set([
  'here',
  'click here',
  'click',
  'tap here',
  'this',
  'this link',
  'link',
  'hier',
  'ici',
]);
