import { adviceForName, finding, identityOf, isError, type Finding, type Report } from '../findings/finding.js';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import { voidElements } from '../html/vocabulary.js';
import { nearestName } from '../text/nearest.js';

/** What is found only where links are asked. */
export const linkCodes: readonly string[] = ['link-dead', 'link-unreachable', 'link-loop', 'link-slow', 'link-moved'];

/** A comment by which an author accepts a finding. */
export interface Acceptance {
  readonly source: SourceText;
  readonly code: string;
  readonly reason: string;
  readonly span: Span;
  /** Where what it accepts begins. */
  readonly range: Span;
}

/** A finding that its author has accepted, and why. */
export interface AcceptedFinding {
  readonly finding: Finding;
  readonly reason: string;
}

const comments =
  /<!--\s*accept\s+([^\s:>]*)\s*(?::\s*([\s\S]*?))?\s*-->|\/\*\s*accept\s+([^\s:*]*)\s*(?::\s*([\s\S]*?))?\s*\*\//g;

/** The comments of a file that accept something. */
function acceptancesIn(source: SourceText): Acceptance[] {
  return [...source.text.matchAll(comments)].map((match) => {
    const isStyle = match[0].startsWith('/*');
    const end = match.index + match[0].length;
    return {
      source,
      code: (isStyle ? match[3] : match[1]) ?? '',
      reason: ((isStyle ? match[4] : match[2]) ?? '').replace(/\s+/g, ' ').trim(),
      span: { start: match.index, end },
      range: isStyle ? styleRange(source.text, end) : markupRange(source.text, end),
    };
  });
}

/** The element that comes next; of a text that comes before one, up to the end of its line. */
function markupRange(text: string, from: number): Span {
  const rest = text.slice(from);
  const tag = /^\s*(?:<!--[\s\S]*?-->\s*)*<([a-z][^\s/>]*)(?:[^"'>]|"[^"]*"|'[^']*')*>/i.exec(rest);
  if (tag !== null) return { start: from, end: endOfElement(text, tag[1] ?? '', from + tag[0].length) };
  const line = /^\s*[^\n]*/.exec(rest);
  return { start: from, end: from + (line?.[0].length ?? 0) };
}

/** Where an element ends, by its tags alone; one without an end tag ends with its start tag. */
function endOfElement(text: string, name: string, from: number): number {
  if (voidElements.has(name.toLowerCase())) return from;
  const tags = new RegExp(`<(/?)${name.replace(/[^\w-]/g, '')}(?=[\\s/>])[^>]*>`, 'gi');
  tags.lastIndex = from;
  let depth = 1;
  for (let match = tags.exec(text); match !== null; match = tags.exec(text)) {
    depth += match[1] === '/' ? -1 : 1;
    if (depth === 0) return match.index + match[0].length;
  }
  return from;
}

/** A declaration up to its semicolon, or a rule up to its last bracket. */
function styleRange(text: string, from: number): Span {
  let depth = 0;
  for (let at = from; at < text.length; at += 1) {
    const char = text[at];
    if (char === '{') depth += 1;
    if (char === '}') depth -= 1;
    const isEnd = (char === ';' && depth === 0) || (char === '}' && depth <= 0);
    if (isEnd) return { start: from, end: at + 1 };
  }
  return { start: from, end: text.length };
}

/**
 * Parts findings into those that stand and those that their authors have accepted. An error of a build cannot be accepted:
 * nothing is made where it stands.
 * @param sources the files whose comments count
 * @param codes all codes that there are
 * @param report told of comments that accept nothing, that name no code or give no reason
 */
export function withAcceptances(
  findings: readonly Finding[],
  sources: readonly SourceText[],
  { codes, canAccept }: { readonly codes: readonly string[]; readonly canAccept: (item: Finding) => boolean },
  report: Report,
): { readonly standing: Finding[]; readonly accepted: AcceptedFinding[] } {
  /** What each comment accepts: one finding, however often that comes up. */
  const used = new Map<Acceptance, string>();
  const all = sources.flatMap(acceptancesIn);
  const standing: Finding[] = [];
  const accepted: AcceptedFinding[] = [];
  for (const item of findings) {
    const identity = identityOf(item);
    const isFree = (acceptance: Acceptance): boolean => (used.get(acceptance) ?? identity) === identity;
    const by = canAccept(item)
      ? all.find((acceptance) => acceptance.reason !== '' && isFree(acceptance) && accepts(acceptance, item))
      : undefined;
    if (by === undefined) standing.push(item);
    else {
      used.set(by, identity);
      accepted.push({ finding: item, reason: by.reason });
    }
  }
  for (const acceptance of all) {
    const place = { source: acceptance.source, span: acceptance.span };
    const { code, reason } = acceptance;
    if (!codes.includes(code)) {
      const advice = adviceForName(nearestName(code, codes), [], 'docs/checks.md lists them.');
      report(finding('accept-unknown', place, { code, advice }));
    } else if (reason === '') report(finding('accept-reason', place, { code }));
    else if (!used.has(acceptance) && !linkCodes.includes(code)) report(finding('accept-unused', place, { code }));
  }
  return { standing, accepted };
}

function accepts({ source, code, range }: Acceptance, item: Finding): boolean {
  if (item.code !== code) return false;
  if (item.place === null) return true;
  if (item.place.source.name !== source.name) return false;
  const { start, end } = item.place.span;
  if (start === 0 && end === 0) return true;
  return start >= range.start && start < range.end;
}

/** Whether an author may accept a finding: not where it keeps something from being made. */
export function isAcceptable(item: Finding, ruleCodes: ReadonlySet<string>): boolean {
  return ruleCodes.has(item.code) || !isError(item);
}
