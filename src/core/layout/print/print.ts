import { escapeAttribute, escapeText, type TagWriter } from '../../html/escape.js';
import { PLACE_ATTRIBUTE, PLACE_MARK } from '../../html/place-marks.js';
import type { RegionMark } from '../../html/regions.js';
import { replaceSentinels } from '../../html/tags.js';
import { withPictures, withPicturesInCss, withPicturesInValue } from '../../pictures/references.js';
import { voidElements } from '../../html/vocabulary.js';
import type { ClassBook } from './classes.js';
import { roundShapeTags } from './round-link.js';
import { legacyAttributes } from './legacy.js';
import {
  beginsLine,
  isMixed,
  wordOnly,
  type Around,
  type OutBackdrop,
  type OutElement,
  type OutNode,
  type OutRoundLink,
  type OutDualCell,
  type Style,
} from './output.js';
import { formatTextValue } from './text-style.js';

/** What a destination decides about the text of a document. */
export interface Writer {
  /** How a merge tag is written there, by its number. */
  readonly tag: TagWriter;
  /** The path of a picture there, by the path that the source gives. */
  readonly picture: (path: string) => string;
  /** The address of a link there. */
  readonly link: (address: string) => string;
  /** How the region of a name is marked there: null where it is not, `as-written` where it keeps its attributes. */
  readonly region: (name: string) => RegionMark | 'as-written' | null;
  /** Whether elements say which of the source they were made of, where that was marked. */
  readonly places?: boolean;
}

/** Writes nodes as HTML. Styles that differ between states go to `classes`. */
export function printNodes(nodes: readonly OutNode[], classes: ClassBook, writer: Writer): string {
  return new Printer(classes, writer).nodes(nodes, 'block');
}

/** A style as the value of an attribute. */
export function printStyle(style: Style, writer: Writer): string {
  const declarations = [...style]
    .map(([property, value]) => `${property}:${printValue(property, value, writer)}`)
    .join(';');
  return declarations.replace(/"/g, "'");
}

function printValue(property: string, value: string, writer: Writer): string {
  if (property !== 'background-image') return withPicturesInCss(formatTextValue(property, value), writer.picture);
  return withPicturePaths(value, writer);
}

/** CSS with the addresses of pictures as the destination has them, in quotes that a style attribute can hold. */
export function withPicturePaths(css: string, writer: Writer): string {
  return withPicturesInCss(css, writer.picture).replace(
    /url\(\s*(["']?)(.*?)\1\s*\)/g,
    (_, __, path: string) => `url('${path}')`,
  );
}

/** The text of nodes without elements: all that a shape's label can hold. */
function plainText(nodes: readonly OutNode[]): OutNode[] {
  return nodes.flatMap((node): OutNode[] => {
    if (node.kind === 'element') return plainText(node.children);
    return node.kind === 'text' ? [node] : [];
  });
}

class Printer {
  constructor(
    private readonly classes: ClassBook,
    private readonly writer: Writer,
  ) {}

  /** @param around where text stands around, no white space may be added */
  nodes(nodes: readonly OutNode[], around: Around): string {
    const mixed = around === 'line' || isMixed(nodes);
    return nodes
      .map((node) => `${!mixed && beginsLine(node) ? '\n' : ''}${this.node(node, mixed ? 'line' : 'block')}`)
      .join('');
  }

  private node(node: OutNode, around: Around): string {
    switch (node.kind) {
      case 'text':
        return escapeText(node.value, this.writer.tag);
      case 'raw':
        return replaceSentinels(this.withLinks(withPictures(node.html, this.writer.picture)), (index) =>
          this.writer.tag(index, 'text'),
        );
      case 'dual-cell':
        return this.twin(node);
      case 'backdrop':
        return this.backdrop(node, around);
      case 'round-link':
        return this.roundLink(node);
      case 'element':
        return this.marked(node, this.openingTag(node), this.content(node, around));
    }
  }

  /** Links in markup that an author wrote for the `word` engine. */
  private withLinks(html: string): string {
    return html.replace(/(\shref\s*=\s*)(["'])(.*?)\2/gis, (_, before: string, quote: string, written: string) => {
      const address = written.replace(/&amp;/g, '&');
      const linked = this.writer.link(address);
      return before + quote + (linked === address ? written : linked.replace(/&/g, '&amp;')) + quote;
    });
  }

  /** An element with what a destination puts around a region; within a cell, since nothing may stand between cells. */
  private marked(node: OutElement, opening: string, content: string): string {
    const closing = voidElements.has(node.tag) ? '' : `</${node.tag}>`;
    const mark = this.markOf(node);
    if (mark === null || typeof mark === 'string' || 'attribute' in mark) return opening + content + closing;
    const { open, close } = mark;
    return /^t[dhr]$/.test(node.tag)
      ? opening + open + content + close + closing
      : open + opening + content + closing + close;
  }

  private markOf({ attributes }: OutElement): RegionMark | 'as-written' | null {
    const name = attributes.get('region');
    return name === undefined ? null : this.writer.region(name);
  }

  private content(node: OutElement, around: Around): string {
    if (voidElements.has(node.tag)) return '';
    const isInLine = (around === 'line' && !isContainer(node.tag)) || showsSpace(node);
    return this.nodes(node.children, isInLine ? 'line' : 'block');
  }

  private backdrop({ path, color, width, inset, content }: OutBackdrop, around: Around): string {
    const picture = escapeAttribute(this.writer.picture(path), this.writer.tag);
    const insets = inset.map((side) => `${Math.round(side)}px`).join(',');
    const opening =
      `<v:rect fill="true" stroke="false" style="width:${Math.round(width)}px">` +
      `<v:fill type="frame" src="${picture}" color="${color}"/>` +
      `<v:textbox style="mso-fit-shape-to-text:true" inset="${insets}"><div>`;
    return `${wordOnly(opening).html}${this.nodes(content, around)}${wordOnly('</div></v:textbox></v:rect>').html}`;
  }

  private roundLink({ link, shape, text }: OutRoundLink): string {
    const href = escapeAttribute(this.writer.link(link.attributes.get('href') ?? ''), this.writer.tag);
    const [opening, closing] = roundShapeTags(shape, href, printStyle(text, this.writer));
    const label = this.nodes(plainText(link.children), 'line');
    return `${opening}${label}${closing}<!--[if !mso]><!-->${this.node(link, 'line')}<!--<![endif]-->`;
  }

  private twin({ cell, width }: OutDualCell): string {
    const [desktop = new Map<string, string>()] = cell.styles;
    const forWord: Style = new Map([...desktop, ['width', `${width}px`]]);
    const plain = new Map([...cell.attributes].filter(([name]) => !isRegionAttribute(name)));
    const opening = this.tag('td', legacy('td', forWord, plain), forWord, null);
    return this.marked(
      cell,
      `<!--[if mso]>${opening}<![endif]--><!--[if !mso]><!-->${this.openingTag(cell)}<!--<![endif]-->`,
      this.content(cell, 'block'),
    );
  }

  private openingTag(node: OutElement): string {
    const [desktop = new Map<string, string>()] = node.styles;
    return this.tag(
      node.tag,
      legacy(node.tag, desktop, node.attributes),
      desktop,
      this.classes.classFor(node.styles, node.variants, node.parts),
    );
  }

  private tag(
    tag: string,
    attributes: readonly (readonly [string, string])[],
    own: Style,
    className: string | null,
  ): string {
    const named = new Map(attributes);
    const region = named.get('region');
    const mark = region === undefined ? null : this.writer.region(region);
    // What authors say to the compiler alone reaches no reader.
    const all = attributes.filter(
      ([name]) => name !== 'data-raw' && name !== PLACE_MARK && (mark === 'as-written' || !isRegionAttribute(name)),
    );
    const place = this.writer.places === true ? named.get(PLACE_MARK) : undefined;
    if (place !== undefined) all.push([PLACE_ATTRIBUTE, place]);
    if (className !== null) all.push(['class', className]);
    if (own.size > 0) all.push(['style', printStyle(own, this.writer)]);
    const marked = mark !== null && typeof mark === 'object' && 'attribute' in mark ? ` ${mark.attribute}` : '';
    const written = all.map(([name, value]) => {
      const shown = name === 'style' && own.size > 0 ? value : this.value({ tag, attributes: named }, name, value);
      return ` ${name}="${escapeAttribute(shown, this.writer.tag)}"`;
    });
    return `<${tag}${marked}${written.join('')}>`;
  }

  private value(element: Pick<OutElement, 'tag' | 'attributes'>, name: string, value: string): string {
    const { tag } = element;
    if (name === 'href' && (tag === 'a' || tag === 'area')) return this.writer.link(value);
    return withPicturesInValue(element, name, value, this.writer.picture);
  }
}

/** Whether white space that is added to an element would be seen. */
function showsSpace({ styles }: OutElement): boolean {
  return styles.some((style) => /^(?:pre|break-spaces)/.test(style.get('white-space') ?? ''));
}

function isRegionAttribute(name: string): boolean {
  return /^region(?:-|$)/.test(name);
}

function legacy(tag: string, own: Style, attributes: ReadonlyMap<string, string>): [string, string][] {
  const added = legacyAttributes(tag, own).filter(([name]) => !attributes.has(name));
  return [...attributes, ...added];
}

function isContainer(tag: string): boolean {
  return tag === 'td' || tag === 'th';
}
