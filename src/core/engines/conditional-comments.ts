/**
 * Conditional comments, as the `word` engine reads them and no other does: what stands in them is markup where their condition
 * holds.
 */

/** The version of itself that the engine holds conditions against. */
const WORD_VERSION = 16;

/** `<!--[if …]>`, with `<!-->` or `-->` behind it where others read on; `<![if …]>`; and what ends each of them. */
const MARKS = /<!--\[if\b([^\]]*)\]>(?:<!-->|-->)?|<!\[if\b([^\]]*)\]>|<!--<!\[endif\]-->|<!\[endif\](?:-->|>)/gi;

/** HTML as the `word` engine reads it: its comments opened where their conditions hold, and taken out where they do not. */
export function openConditions(html: string): string {
  const kept: string[] = [];
  const holding: boolean[] = [];
  let position = 0;
  for (const match of html.matchAll(MARKS)) {
    if (!holding.includes(false)) kept.push(html.slice(position, match.index));
    position = match.index + match[0].length;
    const condition = match[1] ?? match[2];
    if (condition === undefined) holding.pop();
    else holding.push(conditionHolds(condition));
  }
  // A comment that nobody ends goes on to the end, as in a browser.
  if (!holding.includes(false)) kept.push(html.slice(position));
  return kept.join('');
}

/** Whether the condition of a comment holds for the `word` engine: `mso`, `gte mso 9`, `!mso`, `(a)|(b)`. */
export function conditionHolds(condition: string): boolean {
  const words = condition.toLowerCase().match(/[a-z]+|[\d.]+|[!&|()]/g) ?? [];
  let at = 0;
  const either = (): boolean => {
    let holds = both();
    while (words[at] === '|') {
      at += 1;
      holds = both() || holds;
    }
    return holds;
  };
  const both = (): boolean => {
    let holds = single();
    while (words[at] === '&') {
      at += 1;
      holds = single() && holds;
    }
    return holds;
  };
  const single = (): boolean => {
    const word = words[at];
    at += 1;
    if (word === '!') return !single();
    if (word === '(') {
      const holds = either();
      at += 1;
      return holds;
    }
    if (word === 'true') return true;
    const compares = word !== undefined && /^(?:lte?|gte?)$/.test(word);
    const what = compares ? words[at++] : word;
    const version = /^[\d.]+$/.test(words[at] ?? '') ? Number(words[at++]) : null;
    if (what === 'vml') return true;
    return what === 'mso' && (version === null || versionHolds(compares ? (word ?? '') : 'is', version));
  };
  return words.length > 0 && either();
}

function versionHolds(comparison: string, version: number): boolean {
  switch (comparison) {
    case 'lt':
      return WORD_VERSION < version;
    case 'lte':
      return WORD_VERSION <= version;
    case 'gt':
      return WORD_VERSION > version;
    case 'gte':
      return WORD_VERSION >= version;
    default:
      return WORD_VERSION === version;
  }
}
