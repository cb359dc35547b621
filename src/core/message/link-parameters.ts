import { splitAtSentinels } from '../html/tags.js';
import type { MergeTag } from '../dialects/model.js';
import { percentDecoded } from '../text/percent-decoded.js';

/** A parameter that is added to links. */
export interface LinkParameter {
  readonly name: string;
  readonly value: string;
}

/**
 * Adds parameters to the query of a web link (RFC 3986, 3.4), before its fragment. Other links (mail, phone, anchors,
 * paths, and those that a merge tag begins) stay as they are; so do parameters that the link has already.
 * @param address may hold merge tags as sentinels
 * @returns null where it depends on a merge tag whether the link has a query or a fragment
 */
export function withLinkParameters(
  address: string,
  parameters: readonly LinkParameter[],
  tags: readonly MergeTag[],
): string | null {
  if (parameters.length === 0 || !/^\s*(?:https?:)?\/\//i.test(address)) return address;
  if (dependsOnTag(address, tags)) return null;
  const trimmed = address.trim();
  const hash = trimmed.indexOf('#');
  const [beforeHash, fragment] = hash < 0 ? [trimmed, ''] : [trimmed.slice(0, hash), trimmed.slice(hash)];
  const mark = beforeHash.indexOf('?');
  const present = new Set(
    (mark < 0 ? '' : beforeHash.slice(mark + 1))
      .split('&')
      .map((pair) => percentDecoded(pair.replace(/=[\s\S]*$/, '').replace(/\+/g, ' '))),
  );
  const added = parameters
    .filter(({ name }) => !present.has(name))
    .map(({ name, value }) => `${encodeURIComponent(name)}=${encodeURIComponent(value)}`);
  if (added.length === 0) return address;
  const joint = mark < 0 ? '?' : /[?&]$/.test(beforeHash) ? '' : '&';
  return beforeHash + joint + added.join('&') + fragment;
}

/** Whether a `?` or `#` stands within a block of merge tags, so that it is there for some recipients only. */
function dependsOnTag(address: string, tags: readonly MergeTag[]): boolean {
  let depth = 0;
  for (const piece of splitAtSentinels(address)) {
    if (typeof piece === 'string') {
      if (depth > 0 && /[?#]/.test(piece)) return true;
      continue;
    }
    const kind = tags[piece]?.kind;
    if (kind === 'if' || kind === 'each') depth += 1;
    if (kind === 'end') depth -= 1;
  }
  return false;
}
