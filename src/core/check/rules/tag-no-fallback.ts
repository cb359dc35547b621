import type { Rule } from '../facts/rule.js';
import { splitAtSentinels } from '../../html/tags.js';
import { bareField, hasDeclaredFallback, isGuarded, tagNumbered } from '../facts/tag-facts.js';

export const tagNoFallback: Rule = {
  code: 'tag-no-fallback',
  group: 'merge tags',
  severity: 'warning',
  sentence: 'Where {field} is empty, readers see "{shown}"',
  remedy: 'Say what stands in its place{how}, or put the words around it into a block that asks for it.',
  why: 'Data are never whole. A greeting with a gap is worse than one without a name.',
  bad: '<p>Hello @{first_name}, the lathe is back.</p>',
  good: '<p>Hello @{first_name ?? "neighbour"}, the lathe is back.</p>',
  needs: [],
  *find(page) {
    // Finished HTML has the words of its platform, not those of messages.
    const how = (field: string): string => (page.input.isFinished ? '' : `: @{${field} ?? "…"}`);
    for (const { words } of page.texts('desk')) {
      const pieces = splitAtSentinels(words);
      for (const [at, piece] of pieces.entries()) {
        const tag = typeof piece === 'number' ? tagNumbered(page, piece) : null;
        const field = bareField(tag);
        if (tag === null || field === null || isGuarded(page, tag, field) || hasDeclaredFallback(page, field)) continue;
        const [before, after] = [pieces[at - 1], pieces[at + 1]];
        if (typeof before !== 'string' || typeof after !== 'string') continue;
        const shown = `${/\S+\s*$/.exec(before)?.[0] ?? ''}${/^\s*\S*/.exec(after)?.[0] ?? ''}`;
        if (/\p{L}\s+$/u.test(before) && /^\s*[,.!:;?)]/.test(after))
          yield { place: tag.place, data: { field, shown, how: how(field) } };
      }
    }
  },
};
