import type { Rule } from '../facts/rule.js';
import { wordsIn } from '../page/links.js';

export const altRepeats: Rule = {
  code: 'alt-repeats',
  group: 'pictures',
  severity: 'note',
  sentence: 'The alt "{alt}" says what stands beside it',
  remedy: 'Write alt="": it is said already.',
  why: 'Who hears the mail hears it twice.',
  bad: '<p><a href="https://alderlane.example/saw"><img src="saw.png" width="300" height="200" alt="Tenon saw"> Tenon saw</a></p>',
  good: '<p><a href="https://alderlane.example/saw"><img src="saw.png" width="300" height="200" alt=""> Tenon saw</a></p>',
  needs: [],
  *find(page) {
    for (const { element, alt } of page.pictures) {
      const text = alt?.trim().toLowerCase() ?? '';
      const beside = element.parent === null ? '' : wordsIn(element.parent).toLowerCase();
      if (text.length > 2 && beside === text)
        yield { place: page.placeOfAttribute(element, 'alt'), data: { alt: alt ?? '' } };
    }
  },
};
