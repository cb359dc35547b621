import type { Rule } from '../facts/rule.js';
import { commentsOf } from '../facts/metas.js';
import type { Span } from '../../text/span.js';

export const conditionalOpen: Rule = {
  code: 'conditional-open',
  group: 'structure',
  severity: 'error',
  sentence: 'This conditional comment has no <![endif] in it',
  remedy: 'End it with <![endif]-->.',
  why: 'The word engine goes on hiding, or showing, until the next one ends: the rest of the mail is gone there.',
  bad: '<!--[if mso]><table><tr><td><!-- > --><p>Soon</p>',
  good: '<!--[if mso]><p>Soon</p><![endif]-->',
  needs: [],
  *find(page) {
    for (const { value, span } of commentsOf(page)) {
      const isHidden = /^\[if [^\]]*\]>/i.test(value) && !/^\[if [^\]]*\]><!-*$/i.test(value);
      if (isHidden && !/<!\[endif\]\s*$/i.test(value)) yield { place: page.place(span) };
    }
    let open: Span | null = null;
    for (const { value, span } of commentsOf(page)) {
      if (/^\[if [^\]]*\]><!-*$/i.test(value)) {
        if (open !== null) yield { place: page.place(open) };
        open = span;
      } else if (/^\s*<!\[endif\]$/i.test(value)) open = null;
    }
    if (open !== null) yield { place: page.place(open) };
  },
};
