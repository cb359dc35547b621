import { fillSample } from '../dialects/sample/fill-sample.js';
import { escapeHtml } from '../html/escape.js';
import { sentinel, splitAtSentinels } from '../html/tags.js';
import type { MergeTag } from '../dialects/model.js';
import type { CompiledMessage } from './compile-message.js';
import { withLinkParameters } from './link-parameters.js';
import { escapeValue, tagPlace, textsOf, withTags, type RenderInput } from './render-message.js';

/** How merge tags show: as the dialect writes them, filled for the recipient, or as small labels with their names. */
export type TagsShown = 'raw' | 'filled' | 'chips';

/**
 * A compiled message as a page to look at: its elements say where they were written (`data-place`, where the message was read
 * with marks), its regions what they are called (`data-region`).
 */
export function previewPage(message: CompiledMessage, input: RenderInput, tagsShown: TagsShown): string {
  const { tags } = message.source;
  const { dialect } = input;
  const html = (tag: (index: number, context: 'text' | 'attribute') => string): string =>
    message.html(
      {
        tag,
        picture: input.picturePath,
        link: (address) => withLinkParameters(address, input.linkParameters, tags) ?? address,
        region: (name) => ({ attribute: `data-region="${escapeHtml(name)}"` }),
        places: true,
      },
      dialect,
    );
  switch (tagsShown) {
    case 'filled':
      return fillSample(html(sentinel), tags, input.recipient, escapeValue);
    case 'chips':
      return withChips(html(tagPlace), tags);
    case 'raw': {
      const texts = textsOf(tags, input, () => undefined);
      return dialect.verbatim ? html(texts.write) : withTags(html(tagPlace), { tags, write: texts.write }, dialect);
    }
  }
}

const CHIP_STYLE =
  'display:inline-block;border:1px solid #8a6d1d;border-radius:3px;padding:0 4px;margin:0 1px;background:#fff6d8;color:#4d3b06;font:normal 12px/16px monospace;text-transform:none;letter-spacing:0;white-space:nowrap;text-decoration:none';

/** Tags as labels in the text; as names alone where no label can stand; as nothing between the parts of a table. */
function withChips(html: string, tags: readonly MergeTag[]): string {
  let written = '';
  for (const piece of splitAtSentinels(html)) {
    if (typeof piece === 'string') written += piece;
    else {
      const name = nameOf(tags[piece >> 1]);
      const isPlain = piece % 2 === 1 || standsInPlainText(written);
      if (isPlain) written += escapeHtml(name);
      else if (!/<(?:table|tbody|tr|\/tr|\/td|\/th)\b[^>]*>\s*$/i.test(written))
        written += `<span style="${CHIP_STYLE}">${escapeHtml(name)}</span>`;
    }
  }
  return written;
}

/** Whether what follows stands in a title, a style sheet or a comment. */
function standsInPlainText(before: string): boolean {
  return (
    before.lastIndexOf('<title') > before.lastIndexOf('</title') ||
    before.lastIndexOf('<style') > before.lastIndexOf('</style') ||
    before.lastIndexOf('<!--') > before.lastIndexOf('-->')
  );
}

function nameOf(tag: MergeTag | undefined): string {
  if (tag === undefined) return '';
  return tag.place.source
    .slice(tag.place.span)
    .replace(/^@\{\s*|\s*\}$/g, '')
    .trim();
}
