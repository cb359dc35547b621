export type Severity = 'error' | 'warning' | 'note';

/** One kind of finding. `{name}` in a text is filled from the finding's data. */
export interface CatalogueEntry {
  readonly severity: Severity;
  /** What is wrong, in one sentence. */
  readonly reason: string;
  /** What to do about it. */
  readonly fix: string;
  /** True for what is said once for a file and a `{property}`, however often it stands there. */
  readonly oncePerFile?: true;
  /** Wrong usage or configuration: the process ends with 2 rather than 1. */
  readonly usage?: true;
  /** A service outside failed: the process ends with 3. */
  readonly service?: true;
  /** A defect of Inscriba itself: the process ends with 70. */
  readonly defect?: true;
}
