import type { Rule } from '../facts/rule.js';

export const altLong: Rule = {
  code: 'alt-long',
  group: 'pictures',
  severity: 'note',
  sentence: 'The alt of this picture has {count} characters',
  remedy: 'Say in a sentence what it shows, and put the rest into the text.',
  why: 'Programs that show it in place of the picture cut it off, and who hears it cannot stop and go back.',
  bad: { html: `<p><img src="saw.png" width="300" height="200" alt="${'A saw on the bench. '.repeat(20)}"></p>` },
  good: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  needs: [],
  *find(page) {
    for (const { element, alt } of page.pictures)
      if ((alt?.length ?? 0) > 300)
        yield { place: page.placeOfAttribute(element, 'alt'), data: { count: String(alt?.length) } };
  },
};
