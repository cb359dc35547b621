import type { ElementNode } from '../../html/tree.js';
import type { Span } from '../../text/span.js';
import type { Rule } from '../facts/rule.js';

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
    const parts = page.frameTags.filter(({ tag }) => /^(?:html|body)$/.test(tag));
    const second = parts.find(({ tag, span }, index) => {
      const isTwice = parts.slice(0, index).some((before) => before.tag === tag);
      // The parser makes a body of what stands before: the one that is written comes too late.
      const isLate = tag === 'html' ? startsBefore(page.body, span) : page.body?.startTag === null;
      return isTwice || isLate;
    });
    if (second !== undefined) yield { place: page.place(second.span), data: { tag: second.tag } };
  },
};

function startsBefore(body: ElementNode | null, { start }: Span): boolean {
  return body?.startTag !== null && body?.startTag !== undefined && body.startTag.start < start;
}
