import type { Rule } from '../facts/rule.js';
import { commentsOf } from '../facts/metas.js';

export const pageInPage: Rule = {
  code: 'page-in-page',
  group: 'structure',
  severity: 'error',
  sentence: 'A whole page stands within this page: here begins a second <{tag}>',
  remedy: 'Take out its <html>, <head> and <body>, and keep what is between.',
  why: 'Parsers throw the second one away with what is said on it (HTML standard, 13.2.6.4.7), platforms keep it, and both halves break.',
  bad: '<p>Soon</p><html><body><p>Footer</p></body></html>',
  good: '<p>Soon</p><p>Footer</p>',
  needs: ['finished'],
  *find(page) {
    const hidden = commentsOf(page).map(({ span }) => span);
    const seen = new Set<string>();
    for (const { tag, span } of page.startTags) {
      if (!/^(?:html|body)$/.test(tag) || hidden.some(({ start, end }) => start <= span.start && span.start < end))
        continue;
      if (seen.has(tag) && !seen.has('told')) {
        seen.add('told');
        yield { place: page.place(span), data: { tag } };
      }
      seen.add(tag);
      if (
        tag === 'html' &&
        page.body !== null &&
        page.body.startTag !== null &&
        page.body.startTag.start < span.start &&
        !seen.has('told')
      ) {
        seen.add('told');
        yield { place: page.place(span), data: { tag } };
      }
    }
    if (!seen.has('told') && page.body !== null && page.body.startTag === null) {
      const stray = page.startTags.find(({ tag }) => tag === 'body');
      if (stray !== undefined) yield { place: page.place(stray.span), data: { tag: 'body' } };
    }
  },
};
