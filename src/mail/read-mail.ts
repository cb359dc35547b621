/** A part of a mail that is a file. */
export interface ReadPart {
  readonly name: string | null;
  readonly type: string;
  /** Its name as a part, without angle brackets (RFC 2392); null for one that nothing shows. */
  readonly contentId: string | null;
  readonly bytes: Uint8Array;
}

/** A mail, read. */
export interface ReadMail {
  readonly subject: string | null;
  readonly from: string;
  readonly to: readonly string[];
  readonly html: string | null;
  readonly text: string | null;
  readonly parts: readonly ReadPart[];
}

/** Reads a mail (RFC 5322, MIME). What cannot be read throws. The only file that knows the borrowed reader. */
export async function readMail(bytes: Uint8Array): Promise<ReadMail> {
  const { default: PostalMime } = await import('postal-mime');
  const mail = await PostalMime.parse(bytes);
  return {
    subject: mail.subject ?? null,
    from: [mail.from?.name, mail.from?.address].filter((part) => part !== undefined && part !== '').join(' · '),
    to: (mail.to ?? []).map(({ address, name }) => address ?? name),
    html: mail.html ?? null,
    text: mail.text ?? null,
    parts: mail.attachments.map(({ filename, mimeType, contentId, content }) => ({
      name: filename,
      type: mimeType,
      contentId: contentId?.replace(/^<|>$/g, '') ?? null,
      bytes: typeof content === 'string' ? Buffer.from(content) : new Uint8Array(content),
    })),
  };
}
