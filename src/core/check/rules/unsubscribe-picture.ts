import type { Rule } from '../facts/rule.js';

export const unsubscribePicture: Rule = {
  code: 'unsubscribe-picture',
  group: 'footer',
  severity: 'warning',
  sentence: 'The way to leave is only in a picture',
  remedy: 'Write it as text.',
  why: 'Many readers see no pictures, and look for the word.',
  bad: '<p><a href="https://alderlane.example/leave"><img src="leave.png" width="80" height="20" alt="Unsubscribe"></a></p>',
  good: '<p><a href="https://alderlane.example/leave">Unsubscribe</a></p>',
  needs: [],
  *find(page) {
    for (const { element, words, pictures, isUnsubscribe } of page.links)
      if (isUnsubscribe && pictures.length > 0 && words === '') yield { place: page.placeOf(element) };
  },
};
