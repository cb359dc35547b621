import { attribute, elementsOf, firstElement, textContent, type Doc, type ElementNode } from '../../html/tree.js';
import { MappedText, type Piece } from '../../text/mapped-text.js';
import type { Span } from '../../text/span.js';
import type { ExpandedPage } from '../../template/expanded-page.js';
import {
  holdsStandIn,
  lengthOf,
  LONGEST_TEXT,
  longer,
  MOST_STAND_INS,
  plainText,
  standIn,
  type StandInForm,
  type TextLength,
} from './stand-ins.js';

/** Where a text in which editions differ comes to stand. */
export type SlotKind = 'text' | 'attribute';

/** A place in a page whose text may be another in each edition. */
export interface Slot {
  readonly kind: SlotKind;
  /** The piece that fills it in the page that the shape was found in, and the text that it shows. */
  readonly piece: Piece;
  readonly text: string;
}

/** What editions have in common that differ in nothing but plain texts. */
export interface EditionShape {
  /** The pieces of the page in order: what stands there in all of them, or the place of a text. */
  readonly pieces: readonly (string | Slot)[];
  readonly slots: readonly Slot[];
}

/** The texts of an edition, in the order of the slots of its shape. */
export type SlotTexts = readonly string[];

/**
 * The shape of a page: a text is open where it is a plain one, was put in when the page was expanded, and stands in the
 * content of an element, beside its merge tags, or in an attribute that no layout is made of.
 * @param docs the page as it was parsed, in each of its versions
 * @param sheets the texts of the style sheets that it links
 */
export function shapeOf(page: ExpandedPage, docs: readonly Doc[], sheets: readonly string[]): EditionShape {
  const spans = docs.flatMap((doc) => openSpans(doc, sheets)).sort((a, b) => a.span.start - b.span.start);
  const tags = docs.flatMap((doc) => doc.tags);
  const isInTag = ({ start, end }: Span): boolean => tags.some((tag) => tag.start < end && start < tag.end);
  const slots: Slot[] = [];
  let offset = 0;
  const pieces = piecesOf(page).map((piece): string | Slot => {
    const start = offset;
    offset += piece.text.length;
    const text = piece.exact ? null : plainText(piece.text);
    const around = spans.find(({ span }) => span.start <= start && offset <= span.end);
    if (text === null || around === undefined || isInTag({ start, end: offset })) return piece.text;
    if (slots.length === MOST_STAND_INS) return piece.text;
    const slot: Slot = { kind: around.kind, piece, text };
    slots.push(slot);
    return slot;
  });
  return { pieces, slots };
}

/** The texts of a page in a shape; null where it has another. */
export function textsIn(page: ExpandedPage, { pieces }: EditionShape): SlotTexts | null {
  const own = piecesOf(page);
  if (own.length !== pieces.length) return null;
  const texts: string[] = [];
  for (const [index, { text, exact }] of own.entries()) {
    const expected = pieces[index];
    if (typeof expected === 'string') {
      if (text !== expected) return null;
      continue;
    }
    const plain = exact ? null : plainText(text);
    if (plain === null) return null;
    texts.push(plain);
  }
  return texts;
}

/** How long the value of an attribute may be: nothing is laid out by it. */
const attributeLength: TextLength = { text: LONGEST_TEXT, word: LONGEST_TEXT };

/** How long the text of a slot may be, where texts may be so long; it may be as long as that of the page it was found in. */
function slotLength({ kind, text }: Slot, length: TextLength): TextLength {
  return kind === 'attribute' ? attributeLength : longer(lengthOf(text), length);
}

/** Whether none of the texts of an edition is longer than it may be. */
export function areWithin(texts: SlotTexts, { slots }: EditionShape, length: TextLength): boolean {
  return slots.every((slot, index) => {
    const own = lengthOf(texts[index] ?? '');
    const most = slotLength(slot, length);
    return own.text <= most.text && own.word <= most.word;
  });
}

/**
 * A page with stand-ins for its open texts.
 * @param length how long the texts may be for which they stand
 */
export function withStandIns(
  page: ExpandedPage,
  { pieces }: EditionShape,
  form: StandInForm,
  length: TextLength,
): ExpandedPage {
  let number = 0;
  let before = 0;
  let after = 0;
  const moved = new Map([[0, 0]]);
  const made = piecesOf(page).map((piece, index): Piece => {
    const slot = pieces[index];
    const text = typeof slot === 'object' ? standIn(number++, form, slotLength(slot, length)) : piece.text;
    before += piece.text.length;
    after += text.length;
    moved.set(before, after);
    return text === piece.text ? piece : { ...piece, text };
  });
  // What is for one version alone begins and ends where pieces do.
  const at = (offset: number): number => moved.get(offset) ?? offset;
  return {
    source: new MappedText(page.source.name, made),
    only: page.only.map(({ version, span, borders: [first, last] }) => ({
      version,
      span: { start: at(span.start), end: at(span.end) },
      borders: [at(first), at(last)],
    })),
  };
}

function piecesOf({ source }: ExpandedPage): readonly Piece[] {
  return source instanceof MappedText && !holdsStandIn(source.text) ? source.pieces : [];
}

/** Elements whose content is no text of the message, or is more than text to what is made of it. */
const closedElements: ReadonlySet<string> = new Set(
  'style script template textarea select option noscript iframe object svg math'.split(' '),
);

interface OpenSpan {
  readonly kind: SlotKind;
  readonly span: Span;
}

function openSpans(doc: Doc, sheets: readonly string[]): OpenSpan[] {
  const asksAttributes = [...sheets, ...ownSheets(doc)].some((sheet) => /\[|attr\(/i.test(sheet));
  const body = firstElement(doc.root, 'body');
  return [...elementsOf(doc.root)].flatMap((element): OpenSpan[] => {
    if (element.namespace !== 'html' || closedElements.has(element.tag)) return [];
    const isShown = element.tag === 'title' || isWithin(element, body);
    const texts = element.children.flatMap((child): OpenSpan[] =>
      isShown && child.kind === 'text' && child.span !== null ? [{ kind: 'text', span: child.span }] : [],
    );
    return [...texts, ...openAttributes(element, doc, asksAttributes)];
  });
}

function isWithin(element: ElementNode, outer: ElementNode | null): boolean {
  for (let at: ElementNode | null = element; at !== null; at = at.parent) if (at === outer) return true;
  return false;
}

function openAttributes(element: ElementNode, doc: Doc, asksAttributes: boolean): OpenSpan[] {
  const isLine = element.tag === 'meta' && /^(?:preheader|description)$/i.test(attribute(element, 'name') ?? '');
  // A preheader is shown as text.
  const kinds: [name: string, kind: SlotKind][] = isLine
    ? [['content', 'text']]
    : asksAttributes
      ? []
      : [
          ['title', 'attribute'],
          ...(element.tag === 'a' ? [['href', 'attribute'] as [string, SlotKind]] : []),
          ...(element.tag === 'img' ? [['alt', 'attribute'] as [string, SlotKind]] : []),
        ];
  return kinds.flatMap(([name, kind]) => {
    const span = element.attributes.get(name)?.span;
    return span !== undefined && /^[^=]*=\s*["']/.test(doc.source.slice(span)) ? [{ kind, span }] : [];
  });
}

function ownSheets(doc: Doc): string[] {
  return [...elementsOf(doc.root)].flatMap((element) => (element.tag === 'style' ? [textContent(element)] : []));
}
