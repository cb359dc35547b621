import { createHash } from 'node:crypto';
import { detectMimeType, encodeWord } from 'nodemailer/lib/mime-funcs';
import MimeNode from 'nodemailer/lib/mime-node';
import type { MailFile, OutgoingMail, WrittenMail } from './mail.js';

/**
 * The parts of a mail that would break its header: control characters, by which whoever fills in a value could add
 * headers and readers (RFC 5322, 2.2). In words; empty where all is well.
 */
export function headerProblems(mail: OutgoingMail): string[] {
  const headers: (readonly [string, string])[] = [
    ['the subject', mail.subject],
    ['the name of the sender', mail.from.name],
    ['the address of the sender', mail.from.address],
    ['the address for answers', mail.replyTo ?? ''],
    ...mail.to.map((address) => ['the address of a reader', address] as const),
    ...mail.unsubscribe.map((address) => ['the address for leaving', address] as const),
    ...[...mail.pictures, ...mail.attachments].map(({ name }) => [`the name of the file ${name}`, name] as const),
  ];
  return headers.filter(([, value]) => /[\p{Cc}\u2028\u2029]/u.test(value)).map(([what]) => what);
}

/**
 * Writes a mail: its text and its HTML as alternatives, the plainer one first (RFC 2046, 5.1.4), the pictures with the HTML
 * that shows them (RFC 2387), attachments beside all that.
 */
export async function composeMail(mail: OutgoingMail): Promise<WrittenMail> {
  const digest = digestOf(mail);
  const messageId = `<${digest.slice(0, 32)}@${mail.from.address.split('@')[1] ?? 'mail.invalid'}>`;
  const root = withContent(mail, { baseBoundary: digest.slice(32), boundaryPrefix: 'part' });
  const headers: [string, string | { prepared: boolean; value: string } | object | null][] = [
    ['From', { name: mail.from.name, address: mail.from.address }],
    ['Reply-To', mail.replyTo],
    ['To', mail.to.length === 0 ? null : [...mail.to]],
    ['Subject', subjectValue(mail.subject)],
    ['Date', mail.date.toUTCString().replace('GMT', '+0000')],
    ['Message-ID', messageId],
    ['X-Unsent', mail.isUnsent ? '1' : null],
    ...unsubscribeHeaders(mail.unsubscribe),
  ];
  for (const [key, value] of headers) if (value !== null) root.setHeader(key, value);
  const built = await root.build();
  return { bytes: new Uint8Array(built), messageId };
}

/**
 * A subject that looks like encoded words has to be encoded itself, or its reader would decode it (RFC 2047, 5), and so has
 * a word that no line can hold: it would be folded before it begins.
 */
function subjectValue(subject: string): string | { prepared: boolean; foldLines: boolean; value: string } {
  if (!/=\?|\S{60}/.test(subject)) return subject;
  return { prepared: true, foldLines: true, value: encodeWord(subject, 'Q', 52) };
}

/** RFC 2369, and RFC 8058 where readers can leave without more than a press. */
function unsubscribeHeaders(addresses: readonly string[]): [string, { prepared: boolean; value: string }][] {
  if (addresses.length === 0) return [];
  const value = addresses.map((address) => `<${new URL(address).href}>`).join(', ');
  const list: [string, { prepared: boolean; value: string }] = ['List-Unsubscribe', { prepared: true, value }];
  if (!addresses.some((address) => /^https:/i.test(address))) return [list];
  return [list, ['List-Unsubscribe-Post', { prepared: true, value: 'List-Unsubscribe=One-Click' }]];
}

type NodeOptions = NonNullable<ConstructorParameters<typeof MimeNode>[1]>;

function withContent(mail: OutgoingMail, options: NodeOptions): MimeNode {
  const safe = { ...options, disableFileAccess: true, disableUrlAccess: true };
  const alternative = (make: (type: string) => MimeNode): MimeNode => {
    const node = make('multipart/alternative');
    addText(node, 'text/plain; charset=utf-8; format=flowed', mail.text);
    addHtml(node, mail);
    return node;
  };
  if (mail.attachments.length === 0) return alternative((type) => new MimeNode(type, safe));
  const mixed = new MimeNode('multipart/mixed', safe);
  alternative((type) => mixed.createChild(type));
  for (const attachment of mail.attachments) addFile(mixed, attachment, 'attachment');
  return mixed;
}

function addHtml(parent: MimeNode, { html, pictures }: OutgoingMail): void {
  const type = 'text/html; charset=utf-8';
  if (pictures.length === 0) return addText(parent, type, html);
  const related = parent.createChild('multipart/related; type="text/html"');
  addText(related, type, html);
  for (const picture of pictures) addFile(related, picture, 'inline').setHeader('Content-ID', `<${picture.contentId}>`);
}

/** Text goes as quoted-printable: its lines survive any server, and its bytes stay readable. */
function addText(parent: MimeNode, type: string, text: string): void {
  const node = parent.createChild(type);
  node.setHeader('Content-Transfer-Encoding', 'quoted-printable');
  node.setContent(Buffer.from(text.replace(/\r\n?|\n/g, '\r\n')));
}

function addFile(parent: MimeNode, { name, type, bytes }: MailFile, disposition: 'inline' | 'attachment'): MimeNode {
  const node = parent.createChild(type === '' ? detectMimeType(name) : type);
  node.setHeader('Content-Disposition', { prepared: true, value: `${disposition}; ${fileName(name)}` });
  node.setHeader('Content-Transfer-Encoding', 'base64');
  node.setContent(Buffer.from(bytes));
  return node;
}

/** The name of a file as a parameter (RFC 2183, 2.3); other letters than those of ASCII as RFC 2231, 4 has them. */
function fileName(name: string): string {
  if (/^[\x20-\x7e]*$/.test(name)) return `filename="${name.replace(/["\\]/g, '\\$&')}"`;
  const encoded = encodeURIComponent(name).replace(
    /['()*]/g,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`,
  );
  return `filename*=utf-8''${encoded}`;
}

/**
 * What a mail is, in 64 hexadecimal digits: its name among mails, and the boundaries of its parts. A draft is the same
 * whenever it is made; what is sent twice is two mails.
 */
function digestOf({ text, html, pictures, attachments, date, ...rest }: OutgoingMail): string {
  const hash = createHash('sha256')
    .update(JSON.stringify([rest, rest.isUnsent ? null : date]))
    .update('\0')
    .update(text)
    .update('\0')
    .update(html);
  for (const { name, bytes } of [...pictures, ...attachments])
    hash.update('\0').update(name).update('\0').update(bytes);
  return hash.digest('hex');
}
