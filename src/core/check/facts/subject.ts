import type { Place } from '../../findings/finding.js';
import { replaceSentinels } from '../../html/tags.js';
import { firstElement } from '../../html/tree.js';
import type { Page } from '../page/page.js';
import { preheaderOf } from './preheader.js';
import { bareField, tagNumbered } from './tag-facts.js';

/** Where the subject stands. */
export function titlePlace(page: Page): Place {
  const title = firstElement(page.doc.root, 'title') ?? firstElement(page.doc.root, 'head');
  return page.place(title?.span ?? title?.startTag ?? null);
}

/** The subject as its longest sample shows it: a field with what the project gives for it, or eight letters. */
export function longestSubject(page: Page): string {
  return replaceSentinels(page.title, (number) => {
    const tag = tagNumbered(page, number);
    if (tag !== null && tag.kind !== 'output') return '';
    const sample = page.input.project?.fields.get(bareField(tag) ?? '')?.sample;
    return typeof sample === 'string' || typeof sample === 'number' ? String(sample) : 'xxxxxxxx';
  });
}

/** What inboxes show beside the subject, and where it stands; null where nothing does. */
export function preheaderText(page: Page): { readonly text: string; readonly place: Place } | null {
  if (page.input.preheader !== undefined) {
    if (page.input.preheader === null) return null;
    const meta = page
      .withTag('meta')
      .find((element) => element.attributes.get('name')?.value.toLowerCase() === 'preheader');
    return {
      text: page.input.preheader,
      place: meta === undefined ? titlePlace(page) : page.placeOfAttribute(meta, 'content'),
    };
  }
  const found = preheaderOf(page);
  return found === null ? null : { text: found.text, place: page.place(found.node.span) };
}
