import type { Place, Severity } from '../../findings/finding.js';
import type { Page, ProjectFacts } from '../page/page.js';

/** What a rule is about. */
export const groups = [
  'structure',
  'links',
  'pictures',
  'weight',
  'reading',
  'inbox line',
  'merge tags',
  'footer',
  'regions',
  'fonts',
  'plain text',
  'engines',
] as const;

export type Group = (typeof groups)[number];

/**
 * What a rule has to know beside the page: `finished` that it is finished HTML, which goes out as it is; `compiled` the
 * outputs that a message is compiled to (finished HTML is its own); `pictures` the files of its pictures; `text` its
 * plain-text version; `project` what the project says.
 */
export type Need = 'finished' | 'compiled' | 'pictures' | 'text' | 'project';

/** Something that a rule has to say. */
export interface Hit {
  readonly place: Place | null;
  /** What fills the holes of the rule's sentences. */
  readonly data?: Readonly<Record<string, string>>;
}

/** A page that shows what a rule is about. */
export interface Example {
  /** A whole page where it begins with a doctype; else what stands in the body of one. */
  readonly html: string;
  /** The plain-text version. */
  readonly text?: string;
  /** The files of its pictures, by their addresses. */
  readonly pictures?: Readonly<Record<string, ExamplePicture>>;
  /** What inboxes show beside the subject, where the message says it. */
  readonly preheader?: string | null;
  readonly sender?: ProjectFacts['sender'];
  readonly otherSubjects?: Readonly<Record<string, string>>;
}

export interface ExamplePicture {
  readonly width: number;
  readonly height: number;
  readonly bytes?: number;
  readonly format?: string;
  readonly isDark?: boolean;
}

/** A rule of the check: one file says all of it. */
export interface Rule {
  readonly code: string;
  readonly group: Group;
  readonly severity: Severity;
  /** What is wrong, in one sentence; `{name}` is filled from what a hit gives. */
  readonly sentence: string;
  /** What to do about it. */
  readonly remedy: string;
  /** Why it matters, with the specification or law where there is one. */
  readonly why: string;
  readonly bad: string | Example;
  readonly good: string | Example;
  readonly needs: readonly Need[];
  readonly find: (page: Page) => Iterable<Hit>;
}
