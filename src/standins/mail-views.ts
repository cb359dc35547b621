import { escapeHtml } from '../core/html/escape.js';
import { readMail, type ReadMail } from '../mail/read-mail.js';
import { kilobytes } from '../core/text/amounts.js';

/** A mail that the simulated mailbox keeps. */
export interface KeptMail {
  readonly number: number;
  readonly bytes: Uint8Array;
  /** Who sent it, and who was to get it, as the envelope says. */
  readonly sender: string;
  readonly readers: readonly string[];
  readonly at: Date;
}

const STYLES = `
:root { color-scheme: light; --ink: #24231f; --faint: #6c6a62; --line: #ddd8cb; --ground: #fbfaf6; --accent: #2f5d50 }
* { box-sizing: border-box }
body { margin: 0; font: 15px/1.5 Arial, "Liberation Sans", sans-serif; color: var(--ink); background: var(--ground) }
header { padding: 16px 24px; border-bottom: 1px solid var(--line); background: #fff }
h1 { margin: 0; font-size: 20px; overflow-wrap: anywhere }
main { padding: 16px 24px; max-width: 1280px }
a { color: var(--accent) }
table { border-collapse: collapse; width: 100%; background: #fff; border: 1px solid var(--line) }
th, td { text-align: left; padding: 8px 12px; border-bottom: 1px solid var(--line); vertical-align: top; overflow-wrap: anywhere }
th { font-weight: normal; color: var(--faint); font-size: 13px }
.size { text-align: right; white-space: nowrap }
.faint { color: var(--faint) }
dl { display: grid; grid-template-columns: max-content 1fr; gap: 2px 16px; margin: 0 }
dt { color: var(--faint) } dd { margin: 0; overflow-wrap: anywhere }
.pair { display: grid; grid-template-columns: minmax(0, 3fr) minmax(0, 2fr); gap: 16px; margin-top: 16px }
.pair h2 { margin: 0 0 8px; font-size: 15px }
iframe { width: 100%; height: 78vh; border: 1px solid var(--line); background: #fff }
pre { margin: 0; padding: 16px; height: 78vh; overflow: auto; border: 1px solid var(--line); background: #fff; font: 13px/1.45 "DejaVu Sans Mono", monospace; white-space: pre-wrap; overflow-wrap: anywhere }
@media (max-width: 800px) { .pair { grid-template-columns: 1fr } }
`;

/** The page that lists the mails, the newest first. */
export async function listPage(mails: readonly KeptMail[]): Promise<string> {
  const rows = await Promise.all([...mails].reverse().map(listRow));
  const content =
    rows.length === 0
      ? '<p>No mail has come in yet. <code>inscriba proof</code> sends some.</p>'
      : `<table><tr><th>Subject<th>For<th>From<th>Came in<th class="size">Size</tr>${rows.join('')}</table>`;
  const count = mails.length === 1 ? '1 mail' : `${mails.length} mails`;
  return whole(
    'Simulated mailbox',
    `<header><h1>Simulated mailbox</h1><span class="faint">${count}; nothing is sent on</span></header><main>${content}</main>`,
  );
}

async function listRow({ number, bytes, readers, sender, at }: KeptMail): Promise<string> {
  const subject = await readMail(bytes).then(
    (mail) => mail.subject,
    () => null,
  );
  const cells = [
    `<a href="/mail/${number}">${escapeHtml(subject ?? '(no subject)')}</a>`,
    escapeHtml(readers.join(', ')),
    escapeHtml(sender),
    escapeHtml(timeOf(at)),
  ];
  return `<tr>${cells.map((cell) => `<td>${cell}</td>`).join('')}<td class="size">${kilobytes(bytes.length)}</td></tr>`;
}

/** The page that shows a mail: what its header says, its HTML and its text side by side. */
export function mailPage({ number, readers, sender, at, bytes }: KeptMail, mail: ReadMail): string {
  const files = mail.parts.flatMap(({ name, contentId, bytes: content }, index) =>
    contentId === null
      ? [
          `<a href="/mail/${number}/part/${index}">${escapeHtml(name ?? `part ${index}`)}</a> <span class="faint">${kilobytes(content.length)}</span>`,
        ]
      : [],
  );
  const pictures = mail.parts.filter(({ contentId }) => contentId !== null).length;
  const facts: (readonly [string, string])[] = [
    ['From', escapeHtml(mail.from === '' ? sender : mail.from)],
    ['For', escapeHtml(readers.join(', '))],
    ['Came in', escapeHtml(timeOf(at))],
    ...(files.length === 0 ? [] : [['Attachments', files.join(', ')] as const]),
    ...(pictures === 0 ? [] : [['Pictures', `${pictures} in the mail`] as const]),
    ['Size', `${kilobytes(bytes.length)} · <a href="/mail/${number}/source">source</a>`],
  ];
  const subject = escapeHtml(mail.subject ?? '(no subject)');
  return whole(
    mail.subject ?? '(no subject)',
    `<header><a href="/">All mails</a><h1>${subject}</h1></header><main>
<dl>${facts.map(([name, value]) => `<dt>${name}</dt><dd>${value}</dd>`).join('')}</dl>
<div class="pair"><section><h2>HTML</h2>${
      mail.html === null
        ? '<p class="faint">The mail has none.</p>'
        : `<iframe src="/mail/${number}/html" sandbox="allow-popups" title="The HTML of the mail"></iframe>`
    }</section><section><h2>Plain text</h2><pre>${escapeHtml(unflowed(mail.text ?? 'The mail has none.'))}</pre></section></div></main>`,
  );
}

/** Text as its reader shows it: lines that go on are joined (RFC 3676, 4). */
function unflowed(text: string): string {
  return text
    .replace(/\r\n/g, '\n')
    .replace(/(?<!^--) \n(?!>|\n)/gm, ' ')
    .replace(/^ (?=[ >]|From )/gm, '');
}

function timeOf(date: Date): string {
  return date.toISOString().slice(11, 19);
}

function whole(title: string, body: string): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapeHtml(title)}</title><style>${STYLES}</style></head>
<body>${body}</body></html>
`;
}
