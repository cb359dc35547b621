import type { Rule } from '../facts/rule.js';

export const textLinksDiffer: Rule = {
  code: 'text-links-differ',
  group: 'plain text',
  severity: 'warning',
  sentence: 'The plain-text version lacks the link to {address}',
  remedy: 'Write it there, too: inscriba text does.',
  why: 'Who reads the plain version cannot go there, and filters compare the two.',
  bad: { html: '<p><a href="https://alderlane.example/hours">Opening hours</a></p>', text: 'Opening hours' },
  good: {
    html: '<p><a href="https://alderlane.example/hours">Opening hours</a></p>',
    text: 'Opening hours: https://alderlane.example/hours',
  },
  needs: ['text', 'finished'],
  *find(page) {
    const text = page.input.text ?? '';
    if (text.trim() === '') return;
    const told = new Set<string>();
    for (const { element, href, hasTag } of page.links) {
      if (href === null || hasTag || !/^https?:/i.test(href) || told.has(href)) continue;
      told.add(href);
      if (!isIn(text, href))
        yield {
          place: page.placeOfAttribute(element, 'href'),
          data: { address: href.length > 80 ? `${href.slice(0, 79)}…` : href },
        };
    }
  },
};

/** Whether a text holds an address, with or without its scheme and last slash. */
function isIn(text: string, address: string): boolean {
  const bare = address.replace(/^https?:\/\//i, '').replace(/\/$/, '');
  return text.includes(bare);
}
