import type { Rule } from '../facts/rule.js';
import { hostOf } from '../page/links.js';

export const linkWordsAddress: Rule = {
  code: 'link-words-address',
  group: 'links',
  severity: 'warning',
  sentence: 'The link shows {shown} and leads to {host}',
  remedy: 'Let it lead where it says, or write words in place of the address.',
  why: 'Filters take a link that shows another address than its own for a fraud, and so do careful readers.',
  bad: '<p>See <a href="https://trk.example/x">alderlane.example</a>.</p>',
  good: '<p>See <a href="https://alderlane.example/">alderlane.example</a>.</p>',
  needs: [],
  *find(page) {
    for (const { element, href, words, hasTag } of page.links) {
      const host = hostOf(href ?? '');
      const shown = hostOf(words) ?? /^((?:[a-z\d-]+\.)+[a-z]{2,})(?:\/\S*)?$/i.exec(words)?.[1]?.toLowerCase() ?? null;
      if (host === null || shown === null || hasTag || words.includes('@')) continue;
      if (bare(host) !== bare(shown)) yield { place: page.placeOf(element), data: { shown, host } };
    }
  },
};

const bare = (host: string): string => host.replace(/^www\./, '');
