/// <reference lib="dom" />
/// <reference lib="dom.iterable" />
import { make } from './dom.js';
import { patch } from './patch.js';
import { frameNow } from './server.js';

/** What a frame tells of what happens in it. */
export interface FrameListener {
  /** The pointer is over an element of this mark; null where it is over none. */
  readonly over: (mark: string | null) => void;
  readonly clicked: (mark: string | null) => void;
  readonly key: (event: KeyboardEvent) => void;
}

/** How long something flashes, in ms. */
const FLASH = 1400;

/**
 * A message in a frame of its own. No script of it runs; this page reaches into it, since both come from one server. When the
 * message changes, the new page takes the place of the old one in the same frame, so that nothing flickers or scrolls.
 */
export class MessageFrame {
  readonly element: HTMLIFrameElement;
  #sequence = 0;
  #shown = 0;
  #isLoaded = false;
  #hovered: string | null = null;
  #flashed: string | null = null;
  #outlines = '';
  #sheet: CSSStyleSheet | null = null;

  constructor(
    title: string,
    private readonly listener: FrameListener,
  ) {
    this.element = make('iframe', { attributes: { sandbox: 'allow-same-origin', title, tabindex: '-1' } });
    this.element.addEventListener('load', () => this.attach());
  }

  /** Shows the page of an address, as it is now. */
  async show(address: string): Promise<void> {
    this.#sequence += 1;
    const own = this.#sequence;
    if (!this.#isLoaded) {
      this.#isLoaded = true;
      this.element.src = address;
      return;
    }
    const html = await frameNow(address).catch(() => null);
    // What was asked for later may have come before.
    if (html === null || own < this.#shown) return;
    this.#shown = own;
    const { document: current } = this;
    // Before its first page has come, a frame holds an empty one, which the page on its way would take the place of.
    const view = current?.URL === 'about:blank' ? null : current?.defaultView;
    // The parser of the frame's own window: a document keeps the content policy of the page that made it.
    const next = view ? new view.DOMParser().parseFromString(html, 'text/html') : null;
    if (current === null || next === null || current.compatMode !== next.compatMode) {
      this.element.src = address;
      return;
    }
    const scroller = current.scrollingElement;
    const [left, top] = [scroller?.scrollLeft ?? 0, scroller?.scrollTop ?? 0];
    patch(current.documentElement, next.documentElement);
    current.scrollingElement?.scrollTo({ left, top, behavior: 'instant' });
  }

  get document(): Document | null {
    return this.element.contentDocument;
  }

  /** How high all of the page is, in px. */
  get height(): number {
    return this.document?.documentElement.scrollHeight ?? 0;
  }

  /** Scrolls down by so many px, or up. */
  scrollBy(top: number): void {
    this.document?.scrollingElement?.scrollBy({ top, behavior: 'instant' });
  }

  /** Outlines the elements of a mark; null for none. */
  outline(mark: string | null): void {
    if (this.#hovered === mark) return;
    this.#hovered = mark;
    this.paint();
  }

  /** Outlines what a view shows outlined all the time. */
  outlineAlways(css: string): void {
    this.#outlines = css;
    this.paint();
  }

  /** Scrolls to the elements of a mark, and lets them flash. */
  scrollTo(mark: string): void {
    const { document: page } = this;
    const element = page === null ? null : nearestWith(page, Number(mark));
    const scroller = page?.scrollingElement;
    if (!element || !scroller) return;
    const { top, height } = element.getBoundingClientRect();
    const room = this.element.clientHeight;
    scroller.scrollTo({ top: scroller.scrollTop + top - Math.max(0, (room - height) / 2), behavior: 'instant' });
    this.#flashed = element.getAttribute('data-place');
    this.paint();
    setTimeout(() => {
      this.#flashed = null;
      this.paint();
    }, FLASH);
  }

  private attach(): void {
    const { document: page } = this;
    if (page === null) return;
    this.#sheet = null;
    page.addEventListener('mousemove', (event) => this.listener.over(markAt(event.target)));
    page.addEventListener('mouseleave', () => this.listener.over(null));
    page.addEventListener('click', (event) => {
      event.preventDefault();
      this.listener.clicked(markAt(event.target));
    });
    page.addEventListener('submit', (event) => event.preventDefault());
    page.addEventListener('keydown', (event) => this.listener.key(event));
    this.paint();
  }

  /** Outlines stand in a style sheet of their own: the message itself is not touched. */
  private paint(): void {
    const { document: page } = this;
    const view = page?.defaultView;
    if (!page || !view) return;
    if (this.#sheet === null) {
      // A sheet belongs to the document that it was made in.
      this.#sheet = new view.CSSStyleSheet();
      page.adoptedStyleSheets = [this.#sheet];
    }
    const rule = (mark: string | null, style: string): string =>
      mark === null ? '' : `[data-place="${CSS.escape(mark)}"]{${style}}`;
    this.#sheet.replaceSync(
      [
        this.#outlines,
        rule(this.#hovered, 'outline:2px solid #b4451f !important;outline-offset:-2px !important'),
        rule(
          this.#flashed,
          'outline:4px solid #b4451f !important;outline-offset:-4px !important;box-shadow:inset 0 0 0 999px rgba(180,69,31,.18) !important',
        ),
      ].join('\n'),
    );
  }
}

/** The element of a mark. Of one that tables have swallowed: the first of what was in it, or what comes before it. */
function nearestWith(page: Document, mark: number): Element | null {
  let before: Element | null = null;
  for (const element of page.querySelectorAll('[data-place]')) {
    if (Number(element.getAttribute('data-place')) >= mark) return element;
    before = element;
  }
  return before;
}

/** The mark of the element at a place, or of what is around it. */
function markAt(target: EventTarget | null): string | null {
  // The element belongs to another window, whose classes are others.
  const element = target as Element | null;
  return element?.closest?.('[data-place]')?.getAttribute('data-place') ?? null;
}
