import { isError, type Finding, type Report } from '../findings/finding.js';
import type { Part, Template } from './nodes.js';
import type { BuildRecord } from '../expressions/values.js';

/** What a template is expanded with. */
export interface Expansion {
  /** The values that the page itself sees. */
  readonly values: BuildRecord;
  /** The values that parts see as well: those of the project and the message. */
  readonly shared: BuildRecord;
  readonly parts: ReadonlyMap<string, Part>;
  /** The names of all parts that the project has, read or not. */
  readonly partNames: readonly string[];
  readonly language: string;
  /** The names of the merge fields. */
  readonly fields: ReadonlySet<string>;
  readonly report: Report;
}

/** What fills the slots of a page: for a Markdown message, its text. */
export interface PageContent {
  /** Templates that go to the end of the head; their subject replaces the page's own. */
  readonly head: Template | null;
  readonly replacesTitle: boolean;
  readonly body: Template;
  /** Values of the front matter that hold build values or merge tags themselves. */
  readonly lines: ReadonlyMap<string, Template>;
}

/** Errors that leave out a value, and the page whole: what else is wrong with it can be told along with them. */
const aboutValues: ReadonlySet<Finding['code']> = new Set([
  'unknown-build-value',
  'build-value-plain',
  'build-value-kind',
  'build-value-arithmetic',
  'unknown-filter',
  'filter-input',
  'filter-parameter',
  'part-value-missing',
  'part-value-unknown',
  'frame-value-missing',
]);

/** Whether a finding means that a page could not be put together. */
export function breaksPage(item: Finding): boolean {
  return isError(item) && !aboutValues.has(item.code);
}
