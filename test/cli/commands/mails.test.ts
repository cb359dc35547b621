import { afterEach, describe, expect, test } from '@jest/globals';
import { createHash } from 'node:crypto';
import PostalMime from 'postal-mime';
import { headerOf, judgeMail, structureOf, type JudgedMail, type JudgedPart } from '../../support/mail-judge.js';
import { TestFolder } from '../../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

function pack(message: string, to = 'members'): { bytes: Buffer; mail: JudgedMail } {
  const run = folder.run(['pack', message, '--to', to, '--shape', 'eml', '--quiet']);
  expect([run.code, run.err]).toEqual([0, '']);
  const bytes = folder.bytes(`out/${to}/${message}/${message}.eml`);
  return { bytes, mail: judgeMail(bytes) };
}

function leaves(part: JudgedPart): JudgedPart[] {
  return part.parts.length === 0 ? [part] : part.parts.flatMap(leaves);
}

describe('a mail', () => {
  test('every message of the sample project: no defect, every picture found by its name, nothing beside', async () => {
    folder = TestFolder.demoProject();
    for (const message of ['may-newsletter', 'loans-due', 'membership-receipt', 'parts-specimen', 'repair-day']) {
      const { bytes, mail } = pack(message);
      expect([message, mail.defects]).toEqual([message, []]);
      const shown = new Set([...mail.html.matchAll(/\bcid:([^"')\s&]+)/g)].map((match) => `<${match[1] ?? ''}>`));
      const parts = leaves(mail.root).flatMap(({ contentId }) => (contentId === null ? [] : [contentId]));
      expect(shown.size).toBeGreaterThan(0);
      expect([message, [...parts].sort()]).toEqual([message, [...shown].sort()]);
      const read = await PostalMime.parse(bytes);
      expect([read.subject, read.html?.trim(), read.attachments.length]).toEqual([
        headerOf(mail, 'Subject'),
        mail.html.replaceAll('\r\n', '\n').trim(),
        parts.length,
      ]);
      const lines = bytes.toString('latin1').split('\r\n');
      // Lines end as the standard says, and no server has to break one.
      expect(lines.some((line) => /[\r\n]/.test(line) || line.length > 998)).toBe(false);
    }
  });

  test('text before HTML, pictures with the HTML, attachments beside all that', () => {
    folder = TestFolder.demoProject().write({ 'messages/Öffnung & mehr.pdf': Buffer.from([0, 1, 2, 255]) });
    folder.change(
      'messages/repair-day.html',
      '<meta name="preheader"',
      '<meta name="attachment" content="Öffnung &amp; mehr.pdf"><meta name="preheader"',
    );
    const { mail } = pack('repair-day');
    expect(mail.defects).toEqual([]);
    expect(structureOf(mail.root)).toMatch(
      /^multipart\/mixed\(multipart\/alternative\(text\/plain, multipart\/related\(text\/html(?:, image\/png){5}\)\), application\/pdf\)$/,
    );
    const attached = leaves(mail.root).filter(({ disposition }) => disposition === 'attachment');
    expect(attached.map(({ name, sha256 }) => [name, sha256])).toEqual([
      [
        'Öffnung & mehr.pdf',
        createHash('sha256')
          .update(Buffer.from([0, 1, 2, 255]))
          .digest('hex'),
      ],
    ]);
  });

  test('subjects: long, in any script, with merge tags; names of senders', () => {
    folder = TestFolder.demoProject().change(
      'inscriba.yaml',
      '  name: Alder Lane Tool Library\n  address',
      '  name: Zoë "W, L"\n  address',
    );
    for (const subject of [
      'Größe, Maß & Übung: 木の道具を借りる 🛠 — and so on, and so on, and so on, and so on, and so on, and so on, to the end of it',
      '@{first_name ?? "Nachbar"}, schöne Grüße',
      `${'long '.repeat(60)}end`,
      '=?utf-8?Q?looks_encoded?=',
      'a'.repeat(300),
    ]) {
      folder.write({
        'messages/odd.html': `<!doctype html><html lang="de"><head><title>${subject.replace('&', '&amp;')}</title></head><body><p>Grüße 🛠 <a href="@{link.unsubscribe}">x</a> @{sender.postal_address}</p></body></html>`,
      });
      const { mail } = pack('odd');
      expect([subject, mail.defects]).toEqual([subject, []]);
      expect(headerOf(mail, 'Subject')).toBe(
        subject.replace('@{first_name ?? "Nachbar"}', '~~FIRST_NAME?Nachbar~~').trim(),
      );
      expect(headerOf(mail, 'From')).toBe('"Zoë \\"W, L\\"" <desk@alderlane.example>');
      expect(mail.text).toContain('Grüße 🛠 x [1] ~~SENDER_POSTAL~~');
    }
  });

  test.each<[string, string, string | undefined, string | undefined]>([
    [
      'both ways',
      '[https://alderlane.example/leave?list=tools&x=%C3%A4, mailto:leave@alderlane.example]',
      '<https://alderlane.example/leave?list=tools&x=%C3%A4>, <mailto:leave@alderlane.example>',
      'List-Unsubscribe=One-Click',
    ],
    ['by mail alone', 'mailto:leave@alderlane.example', '<mailto:leave@alderlane.example>', undefined],
    ['not known', '', undefined, undefined],
  ])('leaving: %s', (_, given, list, post) => {
    folder = TestFolder.demoProject().change(
      'inscriba.yaml',
      '  unsubscribe: [https://alderlane.example/leave, mailto:leave@alderlane.example]\n',
      given === '' ? '' : `  unsubscribe: ${given}\n`,
    );
    const { mail } = pack('loans-due');
    expect([headerOf(mail, 'List-Unsubscribe'), headerOf(mail, 'List-Unsubscribe-Post')]).toEqual([list, post]);
    expect([headerOf(mail, 'Bcc'), headerOf(mail, 'To')]).toEqual([undefined, undefined]);
  });

  test('leaving: nothing but https and mailto', () => {
    folder = TestFolder.demoProject().change(
      'inscriba.yaml',
      'https://alderlane.example/leave',
      'http://alderlane.example/leave',
    );
    const run = folder.run(['build', 'repair-day']);
    expect([run.code, run.err]).toEqual([
      2,
      expect.stringContaining(
        '"unsubscribe[0]" should be an address, in plain letters, that begins with https: or mailto:',
      ),
    ]);
  });

  test('hosted pictures stay where they are; without a sender there is no mail', () => {
    folder = TestFolder.demoProject().change(
      'inscriba.yaml',
      'images: { mode: package }',
      'images: { mode: host, base_url: https://img.alderlane.example/ }',
    );
    folder.run(['pack', 'repair-day', '--to', 'members', '--shape', 'eml']);
    const mail = judgeMail(folder.bytes('out/members/repair-day/repair-day.eml'));
    expect(structureOf(mail.root)).toBe('multipart/alternative(text/plain, text/html)');
    expect(mail.html).toContain('src="https://img.alderlane.example/repair-day/');
    folder.write({
      'inscriba.yaml': 'name: x\ndestinations: { a: { dialect: neutral } }\n',
      'messages/x.html': '<!doctype html><html lang="en"><title>x</title><p>x',
    });
    const none = folder.run(['pack', 'x', '--shape', 'eml']);
    expect([none.code, none.err]).toEqual([2, expect.stringContaining('sender-missing')]);
  });

  test('the text is flowed: its lines join to the paragraphs of the text version', () => {
    folder = TestFolder.demoProject();
    const { mail } = pack('may-newsletter', 'archive');
    folder.run(['build', 'may-newsletter', '--to', 'archive']);
    const joined = (text: string): string =>
      text
        .replace(/\r\n/g, '\n')
        .replace(/ \n/g, ' ')
        .replace(/^ (?=[ >])/gm, '');
    const plain = folder.read('out/archive/may-newsletter/index.txt');
    expect(joined(mail.text).split(/\s+/)).toEqual(plain.split(/\s+/));
    expect(joined(mail.text)).toContain(
      'it took three evenings and one new belt. The bench lathe turns again, and it is quieter than it has been for years.\n',
    );
    expect(headerOf(mail, 'Content-Type')).toContain('multipart/alternative');
  });
});
