import type { Rule } from '../facts/rule.js';

export const picturesWeight: Rule = {
  code: 'pictures-weight',
  group: 'pictures',
  severity: 'warning',
  sentence: 'The pictures of this page have {size} MB together',
  remedy: 'Make the largest lighter, or leave some out: inscriba images shrink says what each has.',
  why: 'A mail is read on the road, by the minute and the megabyte.',
  bad: {
    html: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p><p><img src="a.png" width="300" height="200" alt="A plane"></p>',
    pictures: {
      'saw.png': { width: 600, height: 400, bytes: 900_000 },
      'a.png': { width: 600, height: 400, bytes: 500_000 },
    },
  },
  good: {
    html: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
    pictures: { 'saw.png': { width: 600, height: 400, bytes: 90_000 } },
  },
  needs: ['finished', 'pictures'],
  *find(page) {
    const sizes = new Map(
      page.pictures.flatMap(({ src, file }) => (file === null ? [] : [[src, file.bytes] as const])),
    );
    const sum = [...sizes.values()].reduce((total, bytes) => total + bytes, 0);
    const [first] = page.pictures;
    if (sum > MOST_BYTES && first !== undefined)
      yield { place: page.placeOf(first.element), data: { size: (sum / 1024 / 1024).toFixed(1) } };
  },
};

const MOST_BYTES = 1024 * 1024;
