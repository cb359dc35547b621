import type { Rule } from '../facts/rule.js';

export const mostlyPicture: Rule = {
  code: 'mostly-picture',
  group: 'pictures',
  severity: 'warning',
  sentence: 'This mail is nearly all picture: {count} characters of text',
  remedy: 'Write as text what is to be read; inscriba slice makes live text of parts of a design.',
  why: 'Where pictures are blocked it is empty, filters distrust it, and nobody can enlarge, search or translate it.',
  bad: '<p><img src="saw.png" width="600" height="900" alt="All of our news"></p>',
  good: {
    html: `<p><img src="saw.png" width="300" height="200" alt="A saw"></p><p>${'On Saturday the shed is open for repairs of all kinds. '.repeat(3)}</p>`,
  },
  needs: [],
  *find(page) {
    const large = page.pictures.filter(({ shownWidth }) => (shownWidth ?? 0) >= LARGE);
    const text = page
      .texts('desk')
      .map(({ words }) => words)
      .join(' ');
    const [first] = large;
    if (first !== undefined && text.length < LEAST_TEXT)
      yield { place: page.placeOf(first.element), data: { count: String(text.length) } };
  },
};

/** So wide a picture carries the mail, in px; so much text a mail has beside it. */
const LARGE = 400;
const LEAST_TEXT = 100;
