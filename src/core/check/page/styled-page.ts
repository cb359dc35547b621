import { applying, type Declared } from '../../css/cascade/cascade.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { computeStyles } from '../../css/cascade/computed.js';
import { declarationsOf, type DeclaredStyles } from '../../css/cascade/document-cascade.js';
import { splitCondition } from '../../css/cascade/media.js';
import { collectRules, type StyleRule } from '../../css/cascade/rules.js';
import { readSheets, type Sheet, type SheetFile } from '../../css/cascade/sheets.js';
import { indexElements, type ElementIndex } from '../../css/selectors/element-index.js';
import { selectorSetting } from '../../css/syntax/tagged-values.js';
import type { Place } from '../../findings/finding.js';
import { elementsOf, firstElement, textContent, type Doc, type ElementNode, type TextNode } from '../../html/tree.js';
import { type Span, spanAt } from '../../text/span.js';
import type { PictureFile } from './picture-facts.js';
import { shownWords } from './words.js';

/** Under what a page is looked at: how wide the window is, in px, and which colours its reader prefers. */
export interface View {
  readonly width: number;
  readonly scheme: 'light' | 'dark';
}

/** A desk, a phone, and each in the dark. */
export const views = {
  desk: { width: 1000, scheme: 'light' },
  phone: { width: 375, scheme: 'light' },
  darkDesk: { width: 1000, scheme: 'dark' },
  darkPhone: { width: 375, scheme: 'dark' },
} as const satisfies Record<string, View>;

export type ViewName = keyof typeof views;

/** A value that authors give a property, and for what. */
export interface AuthoredValue {
  readonly property: string;
  readonly value: string;
  readonly uses: readonly (readonly [ElementNode, Declared])[];
}

/** What a page is read with. */
export interface StyledInput {
  readonly doc: Doc;
  /** What is declared for its elements, where somebody has found that out already. */
  readonly declared?: DeclaredStyles;
  /** A style sheet that it links, by the element that does. */
  readonly linked?: (element: ElementNode) => SheetFile | null;
  /** The files of its pictures, by their addresses; null where nobody has looked. */
  readonly pictures: ReadonlyMap<string, PictureFile> | null;
}

/** A page with its styles: each fact is found out once, when somebody first asks. */
export class StyledPage {
  readonly doc: Doc;
  readonly elements: readonly ElementNode[];
  readonly index: ElementIndex;
  readonly pictureFiles: ReadonlyMap<string, PictureFile> | null;
  readonly #linked: (element: ElementNode) => SheetFile | null;
  readonly #known = new Map<string, unknown>();
  readonly #words = new Map<TextNode, string>();

  constructor({ doc, declared, linked = () => null, pictures }: StyledInput) {
    // What was filled in since has another document.
    const known = declared?.index.doc === doc ? declared : null;
    this.doc = doc;
    this.index = known?.index ?? indexElements(doc);
    if (known !== null) this.#known.set('rules', known.rules).set('declared', known.declared);
    this.elements = [...elementsOf(doc.root)].filter(({ startTag }) => startTag !== null);
    this.pictureFiles = pictures;
    this.#linked = linked;
  }

  place(span: Span | null): Place {
    return { source: this.doc.source, span: span ?? spanAt(0, 0) };
  }

  /** Where an element begins. */
  placeOf(element: ElementNode): Place {
    return this.place(element.startTag);
  }

  /** Where an attribute stands, or else its element. */
  placeOfAttribute(element: ElementNode, name: string): Place {
    return this.place(element.attributes.get(name)?.span ?? element.startTag);
  }

  /** The elements of these kinds, in order. */
  withTag(...tags: readonly string[]): ElementNode[] {
    return this.elements.filter(({ tag, namespace }) => namespace === 'html' && tags.includes(tag));
  }

  get body(): ElementNode | null {
    return firstElement(this.doc.root, 'body');
  }

  get title(): string {
    const title = firstElement(this.doc.root, 'title');
    return title === null ? '' : textContent(title).replace(/\s+/g, ' ').trim();
  }

  get sheets(): readonly Sheet[] {
    return this.once('sheets', () => readSheets(this.doc, [], this.#linked, ignore));
  }

  get rules(): readonly StyleRule[] {
    return this.once('rules', () => collectRules(this.sheets, selectorSetting(this.doc), ignore));
  }

  /** For each element, by its order, what is declared for it under any condition, weakest first. */
  get declared(): readonly (readonly Declared[])[] {
    return this.once('declared', () => declarationsOf(this.index, this.rules, ignore));
  }

  /** What authors declare without any condition, each property with each of its values once, and the elements that it is for. */
  get authored(): readonly AuthoredValue[] {
    return this.once('authored', () => {
      const values = new Map<string, { property: string; value: string; uses: [ElementNode, Declared][] }>();
      for (const { node, order } of this.index.elements)
        for (const item of this.declared[order] ?? []) {
          const isOwn = item.origin === 'author' || item.origin === 'style-attribute';
          if (!isOwn || item.conditions.length > 0 || item.stateful) continue;
          const { property, value } = item.declaration;
          const key = `${property}:${value}`;
          const known = values.get(key) ?? { property, value, uses: [] };
          known.uses.push([node, item]);
          values.set(key, known);
        }
      return [...values.values()];
    });
  }

  /** Whether the page looks otherwise in the dark by its own rules. */
  get hasDarkScheme(): boolean {
    return this.once('dark', () =>
      this.declared.some((items) =>
        items.some(
          ({ conditions, declaration }) =>
            conditions.some(({ text }) => /prefers-color-scheme\s*:\s*dark/i.test(text)) ||
            /\blight-dark\(/i.test(declaration.value),
        ),
      ),
    );
  }

  /** The words of a text; a template tag stands in them as a sentinel. */
  words(node: TextNode): string {
    const known = this.#words.get(node) ?? shownWords(node.value);
    this.#words.set(node, known);
    return known;
  }

  /** The styles of all elements in a view, by their order. */
  styles(view: ViewName): readonly ComputedStyle[] {
    return this.once(`styles ${view}`, () => {
      const { width, scheme } = views[view];
      const applied = applying(appliesIn(views[view]));
      return computeStyles(this.index, ({ order }) => applied(this.declared[order]), { viewportWidth: width, scheme })
        .styles;
    });
  }

  styleOf(element: ElementNode, view: ViewName): ComputedStyle | null {
    const order = this.index.of.get(element)?.order;
    return order === undefined ? null : (this.styles(view)[order] ?? null);
  }

  protected once<T>(key: string, find: () => T): T {
    if (!this.#known.has(key)) this.#known.set(key, find());
    return this.#known.get(key) as T;
  }
}

/** Tells whether declarations apply in a view where nobody does anything; the conditions of a rule are asked once. */
function appliesIn(view: View): (item: Declared) => boolean {
  const known = new Map<Declared['conditions'], boolean>();
  return ({ conditions, stateful }) => {
    if (stateful || conditions.length === 0) return !stateful;
    const answer = known.get(conditions) ?? conditions.every((condition) => holdsIn(view, condition));
    known.set(conditions, answer);
    return answer;
  };
}

function holdsIn({ width, scheme }: View, { kind, text }: Declared['conditions'][number]): boolean {
  if (kind !== 'media') return false;
  const split = splitCondition(text);
  if (split === null || !split.width.matches(width)) return false;
  if (split.rest === null) return true;
  const asked = /^\(\s*prefers-color-scheme\s*:\s*(dark|light)\s*\)$/i.exec(split.rest.trim())?.[1];
  return asked?.toLowerCase() === scheme;
}

const ignore = (): void => undefined;
