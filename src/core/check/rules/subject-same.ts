import type { Rule } from '../facts/rule.js';
import { titlePlace } from '../facts/subject.js';
import { writtenValue } from '../../html/tree.js';

export const subjectSame: Rule = {
  code: 'subject-same',
  group: 'inbox line',
  severity: 'warning',
  sentence: 'The message {name} has the same subject',
  remedy: 'Say in each what is new.',
  why: 'Programs put mails with one subject together: the second is taken for the first and not opened.',
  bad: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Repair Day</title></head><body><p>Soon</p></body></html>',
    otherSubjects: { 'repair-day': 'Repair Day' },
  },
  good: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Repair Day in June</title></head><body><p>Soon</p></body></html>',
    otherSubjects: { 'repair-day': 'Repair Day' },
  },
  needs: ['project'],
  *find(page) {
    const own = page.title.toLowerCase();
    for (const [name, subject] of page.input.project?.otherSubjects ?? [])
      if (own !== '' && writtenValue(page.doc, page.title).toLowerCase() === subject.toLowerCase())
        yield { place: titlePlace(page), data: { name } };
  },
};
