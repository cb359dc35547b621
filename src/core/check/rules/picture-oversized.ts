import { scaledPictures } from '../page/pictures.js';
import type { Rule } from '../facts/rule.js';

export const pictureOversized: Rule = {
  code: 'picture-oversized',
  group: 'pictures',
  severity: 'warning',
  sentence: 'This picture has {own} px, and is shown {shown} px wide',
  remedy: 'Make it {most} px wide: twice what is shown is enough for sharp screens.',
  why: 'Readers load pixels that nobody sees, on the road and by the megabyte.',
  bad: {
    html: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
    pictures: { 'saw.png': { width: 2400, height: 1600 } },
  },
  good: {
    html: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
    pictures: { 'saw.png': { width: 600, height: 400 } },
  },
  needs: ['finished', 'pictures'],
  *find(page) {
    for (const { element, own, shown, data } of scaledPictures(page.pictures))
      if (own > shown * MOST_TIMES) yield { place: page.placeOf(element), data };
  },
};

const MOST_TIMES = 2.5;
