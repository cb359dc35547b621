import { scaledPictures } from '../page/pictures.js';
import type { Rule } from '../facts/rule.js';

export const pictureBlurred: Rule = {
  code: 'picture-blurred',
  group: 'pictures',
  severity: 'warning',
  sentence: 'This picture has {own} px, and is shown {shown} px wide',
  remedy: 'Use a larger one, at best {most} px wide.',
  why: 'What is shown larger than it is looks blurred.',
  bad: {
    html: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
    pictures: { 'saw.png': { width: 150, height: 100 } },
  },
  good: {
    html: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
    pictures: { 'saw.png': { width: 600, height: 400 } },
  },
  needs: ['pictures'],
  *find(page) {
    for (const { element, own, shown, data } of scaledPictures(page.pictures))
      if (own < shown * 0.95 && own > 16) yield { place: page.placeOf(element), data };
  },
};
