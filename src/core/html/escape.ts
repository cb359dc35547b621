import { replaceSentinels } from './tags.js';

/** Writes a template tag (by its number) for a place in HTML. */
export type TagWriter = (index: number, context: 'text' | 'attribute') => string;

/** Text for the content of an element. Template tags are written by `tags`; U+00A0 is written as a name, as it cannot be seen. */
export function escapeText(text: string, tags: TagWriter): string {
  const escaped = text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/\u00a0/g, '&nbsp;');
  return replaceSentinels(escaped, (index) => tags(index, 'text'));
}

/** Text for an attribute value in double quotes. */
export function escapeAttribute(text: string, tags: TagWriter): string {
  const escaped = text
    .replace(/&/g, '&amp;')
    .replace(/"/g, '&quot;')
    .replace(/</g, '&lt;')
    .replace(/\u00a0/g, '&nbsp;');
  return replaceSentinels(escaped, (index) => tags(index, 'attribute'));
}

/** Any text as HTML that shows it, in text and in attributes in double quotes; it holds no template tags. */
export function escapeHtml(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}
