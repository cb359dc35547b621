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
    for (const { element, file, shownWidth, isSpacer } of page.pictures) {
      if (
        file === null ||
        shownWidth === null ||
        isSpacer ||
        file.format === 'svg' ||
        file.width >= shownWidth * 0.95 ||
        file.width <= 16
      )
        continue;
      const data = { own: String(file.width), shown: String(shownWidth), most: String(Math.round(shownWidth * 2)) };
      yield { place: page.placeOf(element), data };
    }
  },
};
