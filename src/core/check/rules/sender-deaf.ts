import type { Rule } from '../facts/rule.js';

export const senderDeaf: Rule = {
  code: 'sender-deaf',
  group: 'footer',
  severity: 'note',
  sentence: 'Answers to {address} reach nobody, by its name',
  remedy: 'Name an address under sender.reply_to in inscriba.yaml that somebody reads.',
  why: 'Readers answer mails, to leave among other things, and programs trust senders more whom readers write to.',
  bad: { html: '<p>Soon</p>', sender: { address: 'no-reply@alderlane.example', replyTo: null, postalAddress: null } },
  good: { html: '<p>Soon</p>', sender: { address: 'desk@alderlane.example', replyTo: null, postalAddress: null } },
  needs: ['project'],
  *find(page) {
    const sender = page.input.project?.sender ?? null;
    const address = sender === null ? '' : (sender.replyTo ?? sender.address);
    if (/^(?:no|do-?not)[-_.]?reply/i.test(address)) yield { place: null, data: { address } };
  },
};
