import { catalogue, type CatalogueEntry, type FindingCode, type Severity } from './catalogue.js';
import { resolveOrigin } from '../text/mapped-text.js';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';

export type { CatalogueEntry, FindingCode, Severity } from './catalogue.js';

/** Where something stands: a source and a span in it. */
export interface Place {
  readonly source: SourceText;
  readonly span: Span;
}

/** One thing that Inscriba has to say about its input. */
export interface Finding {
  /** One of the catalogue, or that of a rule of the check. */
  readonly code: string;
  /** Null where there is no text to point at (a missing file, a wrong argument). */
  readonly place: Place | null;
  /** What fills the `{holes}` of the catalogue's sentences. */
  readonly data: Readonly<Record<string, string>>;
  /** Where the parts are used that the place lies in, the outermost first. */
  readonly uses?: readonly Place[];
  /** How grave it is and its sentences, where they are not those of the catalogue. */
  readonly entry?: CatalogueEntry;
}

/** Where passes put what they find; they go on afterwards. */
export type Report = (finding: Finding) => void;

/**
 * Takes in words why a thing cannot be had, and gives null, for its caller to return. Whoever asked for the thing knows its
 * place, and makes a finding of the words.
 */
export type Refuse = (detail: string) => null;

/** Reports refusals as findings. */
export function refusing(report: Report, findingOf: (detail: string) => Finding): Refuse {
  return (detail) => {
    report(findingOf(detail));
    return null;
  };
}

/** Reports on to another, and knows whether an error was among what it passed on. */
export interface WatchedReport {
  readonly report: Report;
  readonly hasFailed: () => boolean;
}

/**
 * Watches what is reported: a step that comes to nothing for its errors says so by `hasFailed`.
 * @param fails which findings those are, where not every error is one
 */
export function watched(to: Report, fails: (item: Finding) => boolean = isError): WatchedReport {
  let failed = false;
  const report = (item: Finding): void => {
    if (fails(item)) failed = true;
    to(item);
  };
  return { report, hasFailed: () => failed };
}

/** Makes a finding. */
export function finding(code: FindingCode, place: Place | null, data: Readonly<Record<string, string>> = {}): Finding {
  return { code, place, data };
}

/** A finding about a text that was put together from others, at the place that an author wrote. */
export function atOrigin(item: Finding): Finding {
  if (item.place === null) return item;
  const { origin, uses } = resolveOrigin(item.place);
  const all = [...uses, ...(item.uses ?? [])].map((use) => resolveOrigin(use).origin);
  return all.length === 0 ? { ...item, place: origin } : { ...item, place: origin, uses: all };
}

/** Leaves out what has been said: the same finding, at the same place, about the same thing. */
export function withoutRepeats(findings: readonly Finding[]): Finding[] {
  const said = new Set<string>();
  return findings.filter((item) => {
    const key = identityOf(item);
    return said.has(key) ? false : said.add(key);
  });
}

/** What makes two findings the same. */
export function identityOf(item: Finding): string {
  const { code, place, data } = item;
  const file = place?.source.name ?? '';
  if (entryOf(item).oncePerFile === true) return JSON.stringify([code, file, data['property'] ?? '']);
  return JSON.stringify([code, place === null ? '' : `${file}:${place.span.start}:${place.span.end}`, data]);
}

/** What is said of a finding of its kind. */
export function entryOf({ code, entry }: Finding): CatalogueEntry {
  // What comes without an entry of its own is made by `finding`, of the catalogue.
  return entry ?? catalogue[code as FindingCode];
}

/** How grave a finding is. */
export function severityOf(item: Finding): Severity {
  return entryOf(item).severity;
}

/** True for errors. */
export function isError(item: Finding): boolean {
  return severityOf(item) === 'error';
}

/** The sentence that says what is wrong. */
export function reasonOf(item: Finding): string {
  return fill(entryOf(item).reason, item.data);
}

/** The sentence that says what to do. */
export function fixOf(item: Finding): string {
  return fill(entryOf(item).fix, item.data).trim();
}

/**
 * The exit code that a list of findings asks for: 70 when one is a defect of Inscriba, else 2 when one is about usage or
 * configuration, else 3 when a service outside failed, else 1 when one is an error (or, in strict mode, when there is any),
 * else 0.
 */
export function exitCodeOf(findings: readonly Finding[], strict = false): 0 | 1 | 2 | 3 | 70 {
  const entries = findings.map(entryOf);
  if (entries.some((entry) => entry.defect === true)) return 70;
  if (entries.some((entry) => entry.usage === true && entry.severity === 'error')) return 2;
  if (entries.some((entry) => entry.service === true && entry.severity === 'error')) return 3;
  if (entries.some((entry) => entry.severity === 'error')) return 1;
  return strict && entries.length > 0 ? 1 : 0;
}

/** "Did you mean …?" advice for a name that nobody knows. */
export function adviceForName(nearest: string | null, known: readonly string[], otherwise: string): string {
  if (nearest !== null) return `Did you mean "${nearest}"?`;
  return known.length > 0 ? `Known are: ${known.join(', ')}.` : otherwise;
}

function fill(template: string, data: Readonly<Record<string, string>>): string {
  // A hole that no datum fills stays as written: "@{field}" in a fix is an example, not a hole.
  return template.replace(/(?<!@)\{(\w+)\}/g, (hole, name: string) =>
    Object.hasOwn(data, name) ? (data[name] ?? hole) : hole,
  );
}
