import type { Rule } from '../facts/rule.js';
import { longestSubject, titlePlace } from '../facts/subject.js';

export const subjectLong: Rule = {
  code: 'subject-long',
  group: 'inbox line',
  severity: 'note',
  sentence: 'The subject has {count} characters',
  remedy: 'Say what matters in the first {most}: the rest is cut off on most screens.',
  why: 'A phone shows about 35 characters of a subject, a desk about 60.',
  bad: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>On Saturday the fourteenth of May the shed is open for repairs of all kinds</title></head><body><p>Soon</p></body></html>',
  },
  good: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Repair Day on Saturday the 14th</title></head><body><p>Soon</p></body></html>',
  },
  needs: [],
  *find(page) {
    const count = [...longestSubject(page)].length;
    if (count > MOST) yield { place: titlePlace(page), data: { count: String(count), most: String(MOST) } };
  },
};

const MOST = 60;
