import type { Rule } from '../facts/rule.js';
import { isUnfilled } from '../facts/starter-text.js';

export const senderUnfilled: Rule = {
  code: 'sender-unfilled',
  group: 'footer',
  severity: 'warning',
  sentence: 'Under sender.{key}, inscriba.yaml still says "{value}"',
  remedy: 'Write your own there.',
  why: 'What a starter puts there is an example: readers would see it, or answer to an address that is nobody’s.',
  bad: { html: '<p>Soon</p>', sender: { address: 'sender@your-domain.example', replyTo: null, postalAddress: null } },
  good: { html: '<p>Soon</p>', sender: { address: 'desk@alderlane.example', replyTo: null, postalAddress: null } },
  needs: ['project'],
  *find(page) {
    for (const [key, value] of Object.entries(page.input.project?.sender ?? {}))
      if (typeof value === 'string' && isUnfilled(value))
        yield { place: null, data: { key: key.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`), value } };
  },
};
