import type { Rule } from '../facts/rule.js';

export const quoteCurly: Rule = {
  code: 'quote-curly',
  group: 'structure',
  severity: 'error',
  sentence: 'A curly quote stands where a straight one should: {found}',
  remedy: 'Write " in its place.',
  why: 'HTML knows straight quotes alone (HTML standard, 13.1.2.3): the curly one becomes part of the value.',
  bad: '<p><a href=”https://alderlane.example/”>News</a></p>',
  good: '<p><a href="https://alderlane.example/">News</a></p>',
  needs: [],
  *find(page) {
    for (const element of page.elements)
      for (const { value, span } of element.attributes.values())
        if (
          /^[“”„«‘’]|[“”„]$/.test(value) &&
          !/^(?:alt|title|content|aria-label|placeholder)$/.test(
            page.doc.source.slice(span).split('=')[0]?.trim() ?? '',
          )
        )
          yield { place: page.place(span), data: { found: page.doc.source.slice(span).slice(0, 40) } };
  },
};
