import type { Rule } from '../facts/rule.js';

export const pictureWeighty: Rule = {
  code: 'picture-weighty',
  group: 'pictures',
  severity: 'warning',
  sentence: 'This picture has {size} KB',
  remedy: 'Make it lighter: inscriba images shrink does that.',
  why: 'On the road a reader waits for it, and some programs give up.',
  bad: {
    html: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
    pictures: { 'saw.png': { width: 600, height: 400, bytes: 900_000 } },
  },
  good: {
    html: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
    pictures: { 'saw.png': { width: 600, height: 400, bytes: 90_000 } },
  },
  needs: ['finished', 'pictures'],
  *find(page) {
    const told = new Set<string>();
    for (const { element, src, file } of page.pictures) {
      if (file === null || file.bytes <= MOST_BYTES || told.has(src)) continue;
      told.add(src);
      yield { place: page.placeOf(element), data: { size: String(Math.round(file.bytes / 1024)) } };
    }
  },
};

const MOST_BYTES = 200 * 1024;
