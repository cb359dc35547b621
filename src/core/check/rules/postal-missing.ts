import type { Rule } from '../facts/rule.js';
import { systemValueOf } from '../facts/tag-facts.js';

export const postalMissing: Rule = {
  code: 'postal-missing',
  group: 'footer',
  severity: 'note',
  sentence: 'The postal address of the sender stands nowhere in the message',
  remedy: 'Put @{sender.postal_address} into its footer.',
  why: 'Law asks for it in advertising mails in many countries (in the EU Directive 2000/31, article 5).',
  bad: {
    html: '<p>Soon</p>',
    sender: {
      address: 'desk@alderlane.example',
      replyTo: 'hello@alderlane.example',
      postalAddress: '14 Alder Lane, Harrowby',
    },
  },
  good: {
    html: '<p>Soon</p><p>14 Alder Lane, Harrowby</p>',
    sender: {
      address: 'desk@alderlane.example',
      replyTo: 'hello@alderlane.example',
      postalAddress: '14 Alder Lane, Harrowby',
    },
  },
  needs: ['project'],
  *find(page) {
    const address = page.input.project?.sender?.postalAddress ?? '';
    const [street = ''] = address.split(',');
    const text = page
      .texts('desk')
      .map(({ words }) => words)
      .join(' ');
    const hasTag = page.input.tags.some((tag) => systemValueOf(tag) === 'sender.postal_address');
    if (address !== '' && !hasTag && !text.includes(street.trim()))
      yield { place: page.place(page.body?.startTag ?? null) };
  },
};
