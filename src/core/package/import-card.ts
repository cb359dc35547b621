import { templateName, type MessageFacts } from './manifest.js';

/** The card that a person holds beside the platform's form: what to paste, in the order it is asked, and what to check. */
export function importCard(facts: MessageFacts, title: string): string {
  const name = templateName(facts);
  const values: (readonly [string, string | null])[] = [
    ['Name', name],
    ['Description', facts.description],
    ['Subject', facts.subject],
    ['  as a reader sees it', facts.subjectSample === facts.subject ? null : facts.subjectSample],
    ['Preheader', facts.preheader],
    ['Sender', facts.sender === null ? null : `${facts.sender.name} <${facts.sender.address}>`],
    ['Reply to', facts.sender?.replyTo ?? null],
    ['Topic', facts.topic],
    ['Attachments', facts.attachments.length === 0 ? null : facts.attachments.join(', ')],
    ...Object.entries(facts.extras).map(([key, value]): [string, string] => [key, value]),
    ['Keywords', facts.keywords.length === 0 ? null : facts.keywords.join(', ')],
  ];
  const shown = values.filter((entry): entry is readonly [string, string] => entry[1] !== null && entry[1] !== '');
  const width = Math.max(...shown.map(([label]) => label.length));
  const links = facts.links.map((link) => `  ${link}`);
  return [
    `How to import "${name}" into ${title}`,
    '',
    ...shown.map(([label, value]) => `${label.padEnd(width)}  ${value}`),
    '',
    ...(links.length === 0 ? [] : [`Links (${links.length}), for the tracking list`, ...links, '']),
    'After the import, check',
    '  [ ] the pictures show',
    '  [ ] the greeting shows the name of a test recipient, and its fallback without one',
    '  [ ] the unsubscribe link in the footer works',
    '  [ ] the plain-text version is there',
    '',
  ].join('\n');
}
