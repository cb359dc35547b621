import { parseHtml } from '../html/parse.js';
import { escapeHtml } from '../html/escape.js';
import { attribute, type Attribute, contentSpan, type ElementNode } from '../html/tree.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import { SourceText } from '../text/source-text.js';
import { openConditions } from './conditional-comments.js';
import type { EngineName, Feature } from './engine.js';
import { isPictureOf } from './feature-match.js';
import { isRead, sheetIn, styleIn, WEBMAIL_PREFIX, type StyleSetting } from './engine-styles.js';
import { INVERTED_CANVAS, invertedColor, settledScheme, type SchemeName } from './scheme.js';
import { shapesAsBoxes } from './vector-shapes.js';

/** How a page is looked at. */
export interface Simulation {
  readonly engine: EngineName;
  readonly scheme: SchemeName;
  readonly pictures: 'shown' | 'off';
}

/**
 * Finished HTML as an engine would read it, by the table of what engines make of features: what it does not know is taken away,
 * comments that it alone reads are opened, names are given as it gives them, and the scheme is settled. A browser that shows the
 * result shows about what readers see.
 */
export function simulate(html: string, simulation: Simulation, features: readonly Feature[]): string {
  const read = simulation.engine === 'word' ? shapesAsBoxes(openConditions(html)) : html;
  const source = new SourceText('message.html', read);
  const { doc } = parseHtml(source, []);
  const edits = new Simulator(simulation, features).edits(doc.root);
  const { text } = applyEdits(read, edits);
  return simulation.scheme === 'inverted' ? withFirstStyle(text, INVERTED_CANVAS) : text;
}

/** What an engine that does not know an element makes of what is in it: shows it all the same. */
const unwrapped: ReadonlySet<string> = new Set(['form', 'details', 'picture', 'template', 'math', 'marquee', 'button']);

class Simulator {
  readonly #setting: StyleSetting;
  readonly #styles = new Map<string, string>();
  readonly #unread: ReadonlySet<string>;
  readonly #unreadAttributes: ReadonlySet<string>;
  readonly #pictures: readonly Feature[];

  constructor(
    private readonly simulation: Simulation,
    features: readonly Feature[],
  ) {
    const { engine, scheme, pictures } = simulation;
    this.#setting = { engine, scheme, features, showsPictures: pictures === 'shown' };
    const unread = (kind: Feature['kind']): Feature[] =>
      features.filter((feature) => feature.kind === kind && !isRead(feature.support[engine]));
    this.#unread = new Set(unread('elements').map(({ name }) => name));
    this.#unreadAttributes = new Set(unread('attributes').map(({ name }) => name));
    this.#pictures = unread('pictures');
  }

  edits(root: ElementNode): Edit[] {
    const edits: Edit[] = [];
    const stack: ElementNode[] = [root];
    for (let element = stack.pop(); element !== undefined; element = stack.pop()) {
      const goesOn = this.element(element, (edit) => edits.push(edit));
      if (!goesOn) continue;
      for (const child of element.children) if (child.kind === 'element') stack.push(child);
    }
    return edits;
  }

  /** @returns whether what is in the element is looked at, too */
  private element(element: ElementNode, edit: (edit: Edit) => void): boolean {
    const { tag, startTag, endTag, span } = element;
    // Misnested formatting: the second of two elements of one tag has no tag of its own.
    if (startTag === null || span === null || element.tagId !== startTag.start) return true;
    if (this.#unread.has(tag)) {
      if (!unwrapped.has(tag)) {
        edit({ span, text: '' });
        return false;
      }
      edit({ span: startTag, text: '' });
      if (endTag !== null) edit({ span: endTag, text: '' });
      return true;
    }
    if (tag === 'img' && !this.shows(attribute(element, 'src') ?? '')) {
      edit({ span: startTag, text: this.pictureBox(element) });
      return false;
    }
    if (tag === 'style') {
      const content = contentSpan(element) ?? span;
      const css = element.children.map((child) => (child.kind === 'text' ? child.value : '')).join('');
      edit({ span: content, text: sheetIn(css, this.#setting).replace(/<\/(?=style)/gi, '<\\/') });
      return false;
    }
    for (const own of element.attributes.values()) {
      const text = this.attribute(element, own);
      if (text === null || own.span.end === own.span.start) continue;
      // With an attribute goes the space before it.
      edit({ span: text === '' ? { ...own.span, start: own.span.start - 1 } : own.span, text });
    }
    return true;
  }

  /** An attribute as it is read; null where it stays as it is written. */
  private attribute(element: ElementNode, { name, value }: Attribute): string | null {
    const { tag, attributes } = element;
    const { engine, scheme } = this.simulation;
    if (this.#unreadAttributes.has(name) || /^on[a-z]+$/.test(name)) return '';
    if (name === 'background' && this.simulation.pictures === 'off') return '';
    if (name === 'style') return `style="${escapeHtml(this.style(element, value))}"`;
    if (engine === 'webmail') {
      if (name === 'class') return `class="${escapeHtml(value.replace(/[^\s]+/g, (word) => WEBMAIL_PREFIX + word))}"`;
      if (name === 'id') return `id="${escapeHtml(WEBMAIL_PREFIX + value)}"`;
      if (name === 'href' && /^#./.test(value)) return `href="#${escapeHtml(WEBMAIL_PREFIX + value.slice(1))}"`;
    }
    if (
      tag === 'meta' &&
      name === 'content' &&
      /^(?:supported-)?color-schemes?$/i.test(attributes.get('name')?.value ?? '')
    )
      return `content="${settledScheme(value, scheme)}"`;
    if (scheme === 'inverted' && /^(?:bgcolor|color|text|link|vlink|alink)$/.test(name))
      return `${name}="${escapeHtml(invertedColor(value))}"`;
    return null;
  }

  private style({ tag, attributes }: ElementNode, value: string): string {
    const hasWidth = /^\d/.test(attributes.get('width')?.value ?? '');
    const key = `${tag} ${hasWidth ? 'sized' : ''} ${value}`;
    const known = this.#styles.get(key);
    if (known !== undefined) return known;
    const style = styleIn(value, { tag, hasWidth }, this.#setting);
    this.#styles.set(key, style);
    return style;
  }

  private shows(src: string): boolean {
    if (this.simulation.pictures === 'off') return false;
    return !this.#pictures.some(({ name }) => isPictureOf(src, null, name));
  }

  /** A picture that is not shown: its room, its frame, and its alternative in the letters that its style says. */
  private pictureBox(element: ElementNode): string {
    const alt = attribute(element, 'alt') ?? '';
    const sizes = ['width', 'height'].flatMap((name) => {
      const size = attribute(element, name)?.trim() ?? '';
      return /^\d+%?$/.test(size) ? [`${name}:${size}${size.endsWith('%') ? '' : 'px'}`] : [];
    });
    const own = this.style(element, attribute(element, 'style') ?? '');
    const style = [
      'display:inline-block',
      'overflow:hidden',
      'box-sizing:border-box',
      ...sizes,
      own,
      'outline:1px dotted #999',
      'outline-offset:-1px',
    ];
    const kept = [...element.attributes.values()].filter(({ name }) => /^(?:class|id|data-.*|align|title)$/.test(name));
    const written = kept.map(
      (item) => ` ${this.attribute(element, item) ?? `${item.name}="${escapeHtml(item.value)}"`}`,
    );
    return `<span role="img"${written.join('')} style="${escapeHtml(style.filter((part) => part !== '').join(';'))}">${escapeHtml(alt)}</span>`;
  }
}

/** A page with styles before all that it says itself. */
function withFirstStyle(html: string, css: string): string {
  const head = /<head\b[^>]*>|<html\b[^>]*>|<!doctype\b[^>]*>/i;
  const tag = /<head\b[^>]*>/i.exec(html) ?? head.exec(html);
  const at = tag === null ? 0 : tag.index + tag[0].length;
  return `${html.slice(0, at)}<style>${css}</style>${html.slice(at)}`;
}
