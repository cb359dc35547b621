import type { Rule } from '../facts/rule.js';
import { charsetOf } from '../facts/metas.js';

export const charsetOther: Rule = {
  code: 'charset-other',
  group: 'structure',
  severity: 'error',
  sentence: 'The page says that it is {charset}, and it is UTF-8',
  remedy: 'Write <meta charset="utf-8">.',
  why: 'Programs that believe it show every letter beyond plain English wrong.',
  bad: {
    html: '<!doctype html><html lang="en"><head><meta charset="iso-8859-1"><title>Repair Day</title></head><body><p>Soon</p></body></html>',
  },
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    const found = charsetOf(page);
    if (found !== null && !/^utf-?8$/i.test(found.charset))
      yield { place: page.placeOf(found.element), data: { charset: found.charset } };
  },
};
