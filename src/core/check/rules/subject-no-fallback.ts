import type { Rule } from '../facts/rule.js';
import { splitAtSentinels } from '../../html/tags.js';
import { bareField, hasDeclaredFallback, isGuarded, tagNumbered } from '../facts/tag-facts.js';

export const subjectNoFallback: Rule = {
  code: 'subject-no-fallback',
  group: 'inbox line',
  severity: 'warning',
  sentence: 'Where {field} is empty, a gap stands in the subject',
  remedy: 'Say what stands in its place: @{{field} ?? "…"}.',
  why: 'The subject is what a reader sees first, and "Hello ," says that nobody looked.',
  bad: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Hello @{first_name}, the lathe is back</title></head><body><p>Soon</p></body></html>',
  },
  good: {
    html: '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Hello @{first_name ?? "neighbour"}, the lathe is back</title></head><body><p>Soon</p></body></html>',
  },
  needs: [],
  *find(page) {
    for (const piece of splitAtSentinels(page.title)) {
      const tag = typeof piece === 'number' ? tagNumbered(page, piece) : null;
      const field = bareField(tag);
      if (tag === null || field === null || isGuarded(page, tag, field) || hasDeclaredFallback(page, field)) continue;
      yield { place: tag.place, data: { field } };
    }
  },
};
