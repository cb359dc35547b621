import { describe, expect, test } from '@jest/globals';
import { compareStates, type MessageAt } from '../../../src/core/compare/compare-states.js';
import { describeMessage, isOther, looksOther, readsOther } from '../../../src/core/compare/describe-change.js';
import { reportPage } from '../../../src/core/compare/report-page.js';

const was: MessageAt = {
  html: '<p>Saws</p>',
  text: 'Saws are\nback.\n\nBring them.\n',
  subject: 'News',
  preheader: null,
  links: ['https://a.example/'],
  tags: ['@{first_name}'],
  pictures: ['saw-1234.png'],
  findings: [],
};

const said = (is: Partial<MessageAt>, looks: { view: string; share: number }[] | null = null): string =>
  describeMessage({
    ...{ name: 'may', edition: null, destination: 'members', fate: 'both', looks },
    change: compareStates(was, { ...was, ...is }),
  });

describe('what a message was and is', () => {
  test.each<[string, Partial<MessageAt>, string]>([
    ['nothing', {}, 'same bytes'],
    ['where a line is broken', { text: 'Saws\nare back.\n\nBring them.\n' }, 'other bytes'],
    ['a word', { text: 'Saws are\ngone.\n\nBring them.\n' }, 'words +1 −1'],
    ['the subject', { subject: 'Other news' }, 'words +1 −1'],
    ['a preheader', { preheader: 'Soon' }, 'words +1'],
    ['markup', { html: '<p>Saws</p> ' }, 'weight +1 B'],
    ['links and tags', { links: [], tags: ['@{first_name}', '@{branch}'] }, 'links −1; tags +1'],
    ['a picture', { pictures: ['saw-5678.png'] }, 'pictures +1 −1'],
    ['what was found', { findings: ['warning alt-missing'] }, 'findings +1'],
  ])('%s differs', (_, is, text) => expect(said(is)).toBe(text));

  test('looks are told beside it', () => {
    const html = '<p style="color:red">Saws</p>';
    expect(said({ html }, [{ view: '700 webkit light', share: 0 }])).toBe('same look; weight +18 B');
    expect(
      said({ html }, [
        { view: '700 webkit light', share: 0.0213 },
        { view: '375 webkit light', share: 0.00001 },
      ]),
    ).toBe('other look in 2 of 2 views (700 webkit light 2.1 %, 375 webkit light under 0.01 %); weight +18 B');
  });

  test('what is new, gone or broken differs in everything; what never built does not', () => {
    const base = { name: 'may', edition: null, destination: 'members', change: null, looks: null };
    const kinds = ['new', 'gone', 'broken-now', 'broken-before', 'broken'] as const;
    expect(kinds.map((fate) => [isOther, looksOther, readsOther].map((is) => is({ ...base, fate })))).toEqual([
      ...Array.from({ length: 4 }, () => [true, true, true]),
      [false, false, false],
    ]);
    expect(describeMessage({ ...base, fate: 'broken-now' })).toBe('does not build any more');
  });

  test('the page shows what differs, once for outputs that differ alike, and no markup of messages', () => {
    const change = compareStates(was, { ...was, text: '<script>alert(1)</script>' });
    const message = { name: 'may', edition: null, fate: 'both', change, looks: null, pictures: [] } as const;
    const page = reportPage(
      [
        { ...message, destination: 'members' },
        { ...message, destination: 'archive' },
        { ...message, name: 'june', destination: 'members', change: compareStates(was, was) },
      ],
      'Alder Lane',
      'main',
    );
    expect(page).toContain('<h2>may for members and archive</h2>');
    expect(page).toContain('1 of 2 messages differ. The same: june.');
    expect(page).toContain('&lt;script&gt;');
    expect(page).not.toContain('<script');
  });
});
