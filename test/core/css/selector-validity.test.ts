import { describe, expect, test } from '@jest/globals';
import { inlineText } from '../../support/inline-text.js';
import type { Finding } from '../../../src/core/findings/finding.js';

/** What a rule with a selector does to a paragraph with a link in it, and what is told of it. */
function withRule(selector: string): { readonly html: string; readonly codes: readonly string[] } {
  const findings: Finding[] = [];
  const page = `<!doctype html><html><head><style>${selector}{color:red}</style></head><body><p class="a" title="x">Saws <a class="b" href="#">here</a></p></body></html>`;
  const html = inlineText(page, { findings });
  return { html: /<body>(.*)<\/body>/.exec(html)?.[1] ?? '', codes: findings.map(({ code }) => code) };
}

describe('selectors that browsers take', () => {
  test.each([
    [':root, :host, p', 'p'],
    ['p:is(.a, ..b)', 'p'],
    ['p:where(:nth-child(2n+), .a)', 'p'],
    ['p:is(.a, ::before)', 'p'],
    ['p:-webkit-any(.a, .c)', 'p'],
    ['p:has(> .b)', 'p'],
    ['P[TITLE="X" i]', 'p'],
    ['p[title=\\78 ]', 'p'],
    ['a:not(.a, :host)', 'a'],
    ['a:is()', ''],
    ['a:host', ''],
    ['a:not(:defined)', ''],
  ])('%s', (selector, matched) => {
    const { html, codes } = withRule(selector);
    const red = [...html.matchAll(/<(\w+)[^>]*style="color:red"/g)].map(([, tag]) => tag).join(' ');
    expect(red).toBe(matched);
    expect(codes.filter((code) => code === 'css-ignored')).toEqual([]);
  });
});

describe('selectors that browsers throw away with their rule', () => {
  test.each([
    'p, a:not()',
    'p:not(::before)',
    'p, .a*',
    'p, .aa*|*',
    'p:has(:has(.b))',
    'p:has(a::before)',
    'p[title="x" q]',
    'p, a:nonsense',
    'p..a',
    'p, :nth-child(2n+)',
  ])('%s', (selector) => {
    const { html, codes } = withRule(selector);
    expect(html).not.toContain('style=');
    expect(codes).toContain('css-ignored');
  });
});
