import { fixOf, reasonOf, type Finding } from './finding.js';

/** What the sentences of a finding propose to write. */
export interface Suggestion {
  /** What stands there, where the finding's place holds more than that; null for all of it. */
  readonly wrong: string | null;
  readonly meant: string;
}

/** What is probably meant, where the sentences of a finding say so: `Did you mean "tool"?`; null elsewhere. */
export function suggestionOf(item: Finding): Suggestion | null {
  const { data } = item;
  const fix = fixOf(item);
  const name = /Did you mean (?:"([^"]+)"|<([^>]+)>)\?/.exec(fix);
  if (name !== null) {
    const wrong = data['name'] ?? data['tag'] ?? data['key'] ?? data['code'] ?? quotedIn(reasonOf(item));
    return { wrong, meant: name[1] ?? name[2] ?? '' };
  }
  const query = /^Write @media (.+)\.$/.exec(fix);
  if (query !== null) return { wrong: null, meant: `@media ${query[1] ?? ''}` };
  const css = /"([^"]+)"(?: is no value of [^;"]+)?; the nearest is "([^"]+)"/.exec(reasonOf(item));
  return css === null ? null : { wrong: css[1] ?? null, meant: css[2] ?? '' };
}

function quotedIn(sentence: string): string | null {
  return /"([^"]+)"/.exec(sentence)?.[1] ?? null;
}
