import type { Finding } from '../findings/finding.js';
import { suggestionOf, type Suggestion } from '../findings/suggestion.js';
import { unpairedTags } from '../html/structure/balance.js';
import { readMarkup } from '../html/markup.js';
import { maskedSource } from '../html/mask.js';
import type { SourceText } from '../text/source-text.js';
import type { Edit } from '../text/apply-edits.js';
import { spanAt, type Span } from '../text/span.js';
import { escapeRegExp } from '../text/escape-reg-exp.js';

/** A change of the text that does away with a finding. */
export interface Remedy {
  readonly title: string;
  readonly edits: readonly Edit[];
  /** Whether there is no doubt that this is meant. */
  readonly isSure: boolean;
}

/**
 * The remedies of a finding that a program can apply in its author's place.
 * @param source the file that the finding stands in
 */
export function remediesOf(item: Finding, source: SourceText, canAccept: boolean): Remedy[] {
  if (item.place === null) return [];
  const own = nearestRemedy(item, source, item.place.span) ?? ownRemedy(item, source, item.place.span);
  const accepted = canAccept ? acceptance(item, source, item.place.span) : null;
  return [own, accepted].flatMap((remedy) => remedy ?? []);
}

/** What was probably meant, in the place of what stands there. */
function nearestRemedy(item: Finding, source: SourceText, span: Span): Remedy | null {
  const suggestion = suggestionOf(item);
  const target = suggestion === null ? null : targetOf(suggestion, source.slice(span));
  if (suggestion === null || target === null) return null;
  const { meant } = suggestion;
  const edits: Edit[] = [{ span: spanAt(span.start + target.offset, target.text.length), text: meant }];
  const isTag = item.code === 'unknown-part' || item.code === 'unknown-element';
  const ending = isTag ? endTagOf(source, span.end, target.text) : null;
  if (ending !== null) edits.push({ span: ending, text: meant });
  return { title: `Write ${meant}`, edits, isSure: true };
}

/** Where in what is written that stands which is wrong: of a path its last name, where that alone was meant. */
function targetOf({ wrong, meant }: Suggestion, written: string): { offset: number; text: string } | null {
  // A query stands at the beginning of its rule.
  if (wrong === null) return { offset: 0, text: /^@media[^{;]*[^{;\s]/.exec(written)?.[0] ?? written };
  const last = wrong.slice(wrong.lastIndexOf('.') + 1);
  const text = meant.includes('.') ? wrong : last;
  const offset = text === wrong ? written.search(new RegExp(escapeRegExp(text), 'i')) : written.lastIndexOf(text);
  return offset < 0 ? null : { offset, text };
}

/** The name in the end tag that belongs to a start tag. */
function endTagOf({ text }: SourceText, from: number, tag: string): Span | null {
  const tags = new RegExp(`<(/?)${tag.replace(/[^\w-]/g, '')}(?=[\\s/>])[^>]*>`, 'gi');
  tags.lastIndex = from;
  let depth = 1;
  for (let match = tags.exec(text); match !== null; match = tags.exec(text)) {
    depth += match[1] === '/' ? -1 : 1;
    if (depth === 0) return spanAt(match.index + 2, tag.length);
  }
  return null;
}

function ownRemedy({ code, data }: Finding, source: SourceText, span: Span): Remedy | null {
  const { text } = source;
  const insertAt = (offset: number, written: string, title: string): Remedy => ({
    title,
    edits: [{ span: spanAt(offset, 0), text: written }],
    isSure: true,
  });
  switch (code) {
    case 'alt-missing': {
      const tag = /^<[^\s/>]+/.exec(source.slice(span));
      return tag === null ? null : { ...insertAt(span.start + tag[0].length, ' alt=""', 'Add alt'), isSure: false };
    }
    case 'unclosed-tag':
    case 'end-tag-left-out':
      return closing(source, span, data['tag'] ?? '');
    case 'stray-end-tag':
      return { title: `Remove </${data['tag'] ?? ''}>`, edits: [{ span, text: '' }], isSure: true };
    case 'tag-unclosed': {
      const end = /^[^\s<"']*(?:\.[^\s<"']*)*/.exec(text.slice(span.end))?.[0].length ?? 0;
      return insertAt(span.end + end, '}', 'Close it with }');
    }
    case 'merge-unclosed': {
      const line = /^[^\n\r]*/.exec(text.slice(span.end))?.[0].length ?? 0;
      return { ...insertAt(span.end + line, '@{end}', 'Add @{end}'), isSure: false };
    }
    case 'part-value-missing': {
      const names = (data['names'] ?? '').split('", "').filter((name) => name !== '');
      const tag = /^<[^\s/>]+/.exec(source.slice(span));
      const written = names.map((name) => ` ${name}=""`).join('');
      return tag === null ? null : insertAt(span.start + tag[0].length, written, `Add ${names.join(', ')}`);
    }
    default:
      return null;
  }
}

/** Before the end tag that comes too early; where none does, at the end of the line. */
function closing({ text }: SourceText, span: Span, tag: string): Remedy {
  const masked = maskedSource(text);
  const unpaired = unpairedTags(masked).find(({ span: open }) => open.start === span.start);
  const before = unpaired?.before?.span.start ?? null;
  const title = `Close <${tag}>`;
  const edit = (offset: number, written: string): Remedy => ({
    title,
    edits: [{ span: spanAt(offset, 0), text: written }],
    isSure: false,
  });
  if (before === null) {
    const line = /^[^\n\r]*/.exec(text.slice(span.end))?.[0] ?? '';
    return edit(span.end + line.trimEnd().length, `</${tag}>`);
  }
  const lineStart = text.lastIndexOf('\n', before - 1) + 1;
  const isAlone = text.slice(lineStart, before).trim() === '' && lineStart > span.end;
  if (!isAlone) return edit(before, `</${tag}>`);
  const opening = text.lastIndexOf('\n', span.start - 1) + 1;
  const indent = /^[^\S\n]*/.exec(text.slice(opening, span.start))?.[0] ?? '';
  return edit(lineStart, `${indent}</${tag}>${lineEndOf(text)}`);
}

/** A comment that accepts the finding, before the element or the declaration that it is about; its reason is still to be said. */
function acceptance({ code }: Finding, source: SourceText, { start }: Span): Remedy {
  const { at, isStyle } = commentPlace(source, start);
  const lineStart = source.text.lastIndexOf('\n', at - 1) + 1;
  const indent = source.text.slice(lineStart, at);
  const comment = isStyle ? `/* accept ${code}: say why */` : `<!-- accept ${code}: say why -->`;
  const written = indent.trim() === '' ? `${comment}${lineEndOf(source.text)}${indent}` : comment;
  return { title: `Accept ${code} here`, edits: [{ span: spanAt(at, 0), text: written }], isSure: false };
}

/** How the lines of a text end. */
function lineEndOf(text: string): string {
  return /\r\n|\n|\r/.exec(text)?.[0] ?? '\n';
}

/** Where a comment may stand that is about an offset: in a style sheet there, in markup before the tag. */
function commentPlace(source: SourceText, offset: number): { readonly at: number; readonly isStyle: boolean } {
  if (source.name.endsWith('.css')) return { at: offset, isStyle: true };
  const { tags, styles } = readMarkup(maskedSource(source.text));
  if (styles.some(({ start, end }) => start <= offset && offset < end)) return { at: offset, isStyle: true };
  const tag = tags.find(({ span }) => span.start <= offset && offset < span.end);
  return { at: tag?.span.start ?? offset, isStyle: false };
}
