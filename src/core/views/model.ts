/** What a preview knows of a message, as it goes from the server to the page. */

/** How a message stands: nothing is wrong, something was found, or there is nothing to show. */
export type MessageState = 'fine' | 'findings' | 'broken';

/** A message as the wall shows it. */
export interface WallMessage {
  readonly name: string;
  /** Null until it has been built. */
  readonly state: MessageState | null;
  readonly subject: string;
  readonly topic: string | null;
  readonly keywords: readonly string[];
  readonly editions: readonly string[];
  readonly destinations: readonly string[];
  /** Of its HTML for the first destination, in bytes. */
  readonly weight: number;
  readonly counts: Readonly<Record<'error' | 'warning' | 'note', number>>;
  /** Another whenever its output is. */
  readonly digest: string;
}

/** All messages. */
export interface Wall {
  readonly project: string;
  readonly messages: readonly WallMessage[];
}

/** Something that was found. */
export interface PreviewFinding {
  readonly code: string;
  readonly severity: 'error' | 'warning' | 'note';
  readonly message: string;
  readonly fix: string;
  /** `messages/a.html:12:3`; null where it stands nowhere. */
  readonly place: string | null;
  /** The line with the place marked, as it is printed. */
  readonly frame: string;
  /** The mark of the element that it is about; null where there is none. */
  readonly mark: number | null;
}

export interface PreviewLink {
  readonly address: string;
  readonly words: string;
  readonly count: number;
  readonly mark: number | null;
}

export interface PreviewPicture {
  readonly name: string;
  /** Where the preview serves it. */
  readonly address: string;
  /** Of its file, in px. */
  readonly width: number;
  readonly height: number;
  /** How wide it shows at most, in px; null where nothing says. */
  readonly shown: number | null;
  /** As it travels, and as it lies in the project. */
  readonly bytes: number;
  readonly bytesBefore: number;
}

/** An edition of a message at a destination, as the bench shows it. */
export interface BenchMessage {
  readonly name: string;
  readonly edition: string | null;
  readonly editions: readonly string[];
  readonly destination: string | null;
  readonly destinations: readonly string[];
  readonly state: MessageState;
  /** Whether there is anything to show: what is broken may have been whole before. */
  readonly hasPage: boolean;
  readonly sender: string;
  readonly subject: string;
  readonly preheader: string | null;
  readonly findings: readonly PreviewFinding[];
  readonly text: string;
  readonly links: readonly PreviewLink[];
  readonly pictures: readonly PreviewPicture[];
  /** Of the HTML, in bytes. */
  readonly weight: number;
  /** What the package's card says; null where there is none. */
  readonly card: string | null;
  /** Where elements were written, by their marks: `messages/a.html:12`. */
  readonly places: readonly (string | null)[];
  readonly samples: readonly string[];
  /** What a row holds before anybody chooses, in words; empty for the usual views. */
  readonly views?: readonly string[];
  /** Where pictures that are slices of others are served. */
  readonly slices: readonly string[];
  readonly digest: string;
}

/** A message that is another than it was: sent as an event. */
export interface ChangedMessage {
  readonly name: string;
  /** Null while its page alone can be asked for, and the rest is not yet known. */
  readonly digest: string | null;
}
