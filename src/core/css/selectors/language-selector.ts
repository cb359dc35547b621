import { attribute, textContent } from '../../html/tree.js';
import type { IndexedElement, Matcher } from './element-index.js';

/** `:lang(en)`: the nearest `lang` attribute, matched by extended filtering with prefixes (RFC 4647, simplified to prefixes). */
export function compileLang(ranges: string): Matcher {
  const wanted = ranges.split(',').map((range) =>
    range
      .trim()
      .replace(/^["']|["']$/g, '')
      .toLowerCase(),
  );
  return (element) => {
    let at: IndexedElement | null = element;
    while (at !== null && attribute(at.node, 'lang') === null) at = at.parent;
    const language = (at === null ? '' : (attribute(at.node, 'lang') ?? '')).toLowerCase();
    return wanted.some((range) =>
      range === '*' ? language !== '' : language === range || language.startsWith(`${range}-`),
    );
  };
}

/** `:dir(rtl)`: the nearest `dir` attribute; `auto` asks the first strong letter. */
export function compileDir(direction: string): Matcher {
  const wanted = direction.trim().toLowerCase();
  return (element) => {
    for (let at: IndexedElement | null = element; at !== null; at = at.parent) {
      const dir = attribute(at.node, 'dir')?.toLowerCase();
      if (dir === 'ltr' || dir === 'rtl') return dir === wanted;
      if (dir === 'auto')
        return (
          (/[\u0590-\u08ff\ufb1d-\ufdcf\ufdf0-\ufefc]/.test(firstStrong(textContent(at.node))) ? 'rtl' : 'ltr') ===
          wanted
        );
    }
    return wanted === 'ltr';
  };
}

function firstStrong(text: string): string {
  return /\p{L}/u.exec(text)?.[0] ?? '';
}
