import type { ShownStyle } from './shown-style.js';
import { attribute, type ElementNode } from '../html/tree.js';

/** Elements whose content is for programs, or stands in for what is shown instead. */
const neverShown: ReadonlySet<string> = new Set([
  'annotation',
  'annotation-xml',
  'canvas',
  'datalist',
  'defs',
  'desc',
  'iframe',
  'input',
  'metadata',
  'rp',
  'script',
  'style',
  'template',
  'textarea',
  'title',
]);

/** Whether a reader sees a box of the element, and of what it holds. */
export function isShown(element: ElementNode, style: ShownStyle): boolean {
  if (neverShown.has(element.tag) || style.get('display') === 'none') return false;
  return !isFolded(style) && !isTransparent(element);
}

/** Whether text of an element can be read. */
export function isReadable(style: ShownStyle): boolean {
  return style.pixels('font-size') !== 0 && style.get('visibility') === 'visible';
}

/** A space without a font size still parts words where `word-spacing` gives it a width. */
export function isWideSpace(text: string, style: ShownStyle): boolean {
  return text.trim() === '' && (style.pixels('word-spacing') ?? 0) > 0;
}

export function isBlock(style: ShownStyle): boolean {
  return !/^(?:inline|inline-block|inline-flex|inline-grid|inline-table|contents|ruby|ruby-text)$/.test(
    style.get('display'),
  );
}

/** Boxes folded to nothing, as preheaders are. */
function isFolded(style: ShownStyle): boolean {
  const folded = style.pixels('max-height') === 0 || style.pixels('height') === 0 || style.pixels('max-width') === 0;
  return folded && style.get('overflow') === 'hidden';
}

/** Text that an author made invisible where it stands. */
function isTransparent(element: ElementNode): boolean {
  return /(?:^|;)\s*opacity\s*:\s*(?:0+(?:\.0*)?|\.0+)%?\s*(?:;|!|$)/i.test(attribute(element, 'style') ?? '');
}
