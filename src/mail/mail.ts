/** A mailbox: an address, and the name of whose it is. */
export interface Mailbox {
  readonly name: string;
  readonly address: string;
}

/** A file within a mail. */
export interface MailFile {
  readonly name: string;
  /** Its media type (RFC 2045, 5); empty where its name says enough. */
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** A picture that the HTML of a mail shows by its name as a part (RFC 2392). */
export interface MailPicture extends MailFile {
  readonly contentId: string;
}

/** A mail, before it is written. */
export interface OutgoingMail {
  readonly from: Mailbox;
  readonly replyTo: string | null;
  /** Who gets it; nobody yet for a draft. */
  readonly to: readonly string[];
  readonly subject: string;
  /** `format=flowed` (RFC 3676). */
  readonly text: string;
  readonly html: string;
  readonly pictures: readonly MailPicture[];
  readonly attachments: readonly MailFile[];
  /** Addresses by which readers leave, https or mailto (RFC 2369); none where they are not known. */
  readonly unsubscribe: readonly string[];
  /** True for a draft, which mail programs open to be sent. */
  readonly isUnsent: boolean;
  readonly date: Date;
}

/** A mail as it goes on its way (RFC 5322): the same input makes the same bytes. */
export interface WrittenMail {
  readonly bytes: Uint8Array;
  /** With its angle brackets. */
  readonly messageId: string;
}
