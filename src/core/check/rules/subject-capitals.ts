import type { Rule } from '../facts/rule.js';
import { titlePlace } from '../facts/subject.js';
import { plainWords } from '../page/texts.js';

export const subjectCapitals: Rule = {
  code: 'subject-capitals',
  group: 'inbox line',
  severity: 'warning',
  sentence: 'The subject is written in capitals',
  remedy: 'Write it as a sentence.',
  why: 'Readers take it for shouting, and filters for an unwanted mail.',
  bad: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>REPAIR DAY ON SATURDAY</title></head><body><p>Soon</p></body></html>',
  },
  good: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Repair Day on Saturday</title></head><body><p>Soon</p></body></html>',
  },
  needs: [],
  *find(page) {
    const letters = plainWords(page.title).replace(/[^\p{L}]/gu, '');
    if (letters.length >= 8 && letters === letters.toUpperCase() && letters !== letters.toLowerCase())
      yield { place: titlePlace(page) };
  },
};
