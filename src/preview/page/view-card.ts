/// <reference lib="dom" />
import { labelOf, LEAST_WIDTH, lookers, MOST_WIDTH, type Outline, type View } from '../../core/views/view.js';
import { outlineCss } from '../../core/views/outlines.js';
import { schemeNames } from '../../core/engines/scheme.js';
import type { BenchMessage } from '../../core/views/model.js';
import { button, choice, make, tick } from './dom.js';
import { MessageFrame, type FrameListener } from './message-frame.js';
import { frameAddress, type Looked } from './server.js';

/** What a card asks of the row that it stands in. */
export interface CardOwner extends FrameListener {
  readonly changed: (card: ViewCard, view: View) => void;
  readonly copied: (card: ViewCard) => void;
  readonly removed: (card: ViewCard) => void;
  readonly focused: (card: ViewCard) => void;
}

/** A card is never so narrow that its label says nothing, and has its edge beside the frame, in px. */
const LEAST_CARD = 220;
export const EDGE = 10;

/** What engines are, in a few words. */
const engineTitles: Readonly<Record<string, string>> = {
  word: 'word: desktop programs that draw with a word processor',
  'strict-webmail': 'strict-webmail: web mail that drops the head',
  webmail: 'webmail: web mail that keeps the head',
  app: 'app: apps that show phones what desktops see',
  webkit: 'webkit: programs that read all of it',
  source: 'source: the page as you wrote it',
};

/** A view in the row: a frame at its width, a label that says what it is, and what it can be set to. */
export class ViewCard {
  readonly element: HTMLElement;
  readonly frame: MessageFrame;
  readonly #label: HTMLButtonElement;
  readonly #settings: HTMLElement;
  readonly #stage: HTMLElement;
  readonly #edge: HTMLElement;
  #view: View;
  #zoom = 1;
  #samples: readonly string[] = [];
  #slices: readonly string[] = [];

  constructor(
    view: View,
    private readonly owner: CardOwner,
  ) {
    this.#view = view;
    this.frame = new MessageFrame(labelOf(view), owner);
    this.frame.element.addEventListener('load', () => this.fit());
    this.#label = make('button', {
      class: 'label',
      attributes: { type: 'button', 'aria-expanded': 'false' },
      on: { click: () => this.toggleSettings() },
    });
    this.#settings = make('div', {
      class: 'settings',
      attributes: { role: 'group', 'aria-label': 'What this view shows' },
    });
    this.#settings.hidden = true;
    this.#stage = make('div', { class: 'stage' }, this.frame.element);
    this.#edge = this.makeEdge();
    const copy = button('Copy this view', 'copy', () => owner.copied(this));
    const remove = button('Remove this view', '×', () => owner.removed(this));
    this.element = make(
      'section',
      {
        class: 'view',
        attributes: { tabindex: '0' },
        on: { focusin: () => owner.focused(this), keydown: (event) => this.scroll(event) },
      },
      make('header', {}, this.#label, copy, remove),
      this.#settings,
      make('div', { class: 'window' }, this.#stage, this.#edge),
    );
    this.update();
  }

  get view(): View {
    return this.#view;
  }

  /** Sets what the view shows. */
  set(view: View): void {
    this.#view = view;
    this.update();
  }

  /** Shows a message as it is now. */
  async show(looked: Looked): Promise<void> {
    await this.frame.show(frameAddress(looked, this.#view));
    this.fit();
  }

  /** What of a message decides what can be chosen. */
  know({ samples, slices }: BenchMessage): void {
    const isNew = samples.join('\n') !== this.#samples.join('\n');
    this.#samples = samples;
    this.#slices = slices;
    if (isNew) this.fillSettings();
    this.outline();
  }

  /** @param zoom how much smaller the whole row is shown */
  zoomTo(zoom: number): void {
    this.#zoom = zoom;
    this.fit();
  }

  setCurrent(isCurrent: boolean): void {
    this.element.classList.toggle('current', isCurrent);
  }

  toggleSettings(): void {
    this.#settings.hidden = !this.#settings.hidden;
    this.#label.setAttribute('aria-expanded', String(!this.#settings.hidden));
    if (!this.#settings.hidden) this.#settings.querySelector<HTMLElement>('input,select')?.focus();
  }

  /** Whoever is on a view scrolls what it shows: its links are not stepped through one by one. */
  private scroll(event: KeyboardEvent): void {
    const page = Math.max(40, this.frame.element.clientHeight - 40);
    const by = { ArrowDown: 40, ArrowUp: -40, PageDown: page, PageUp: -page, Home: -1e6, End: 1e6 }[event.key];
    if (by === undefined || event.target !== this.element) return;
    event.preventDefault();
    this.frame.scrollBy(by);
  }

  private change(said: Partial<View>): void {
    this.owner.changed(this, { ...this.#view, ...said });
  }

  private update(): void {
    const label = labelOf(this.#view);
    this.#label.textContent = label;
    this.#label.title = `${engineTitles[this.#view.engine] ?? ''}. Click to change what this view shows.`;
    this.element.setAttribute('aria-label', `View ${label}`);
    this.frame.element.title = label;
    this.#edge.setAttribute('aria-valuenow', String(this.#view.width));
    this.fillSettings();
    this.outline();
    this.fit();
  }

  private outline(): void {
    this.frame.outlineAlways(outlineCss(this.#view.outlines, this.#slices));
  }

  /** Gives the frame its width, and the room that it has on the screen. */
  private fit(): void {
    const { element } = this.frame;
    const { width, fit } = this.#view;
    const room = this.#stage.clientHeight || 600;
    const whole = fit ? Math.max(room, this.frame.height) : 0;
    const zoom = fit && whole > 0 ? Math.min(this.#zoom, room / whole) : this.#zoom;
    element.style.width = `${width}px`;
    element.style.height = `${Math.round(fit ? whole : room / zoom)}px`;
    element.style.transform = zoom === 1 ? '' : `scale(${zoom})`;
    this.#stage.style.width = `${Math.round(width * zoom)}px`;
    this.element.style.width = `${Math.max(LEAST_CARD, Math.round(width * zoom) + EDGE)}px`;
  }

  private fillSettings(): void {
    const hadFocus = this.#settings.contains(document.activeElement);
    const index = [...this.#settings.querySelectorAll('input,select')].indexOf(document.activeElement as Element);
    const { engine, scheme, pictures, tags, sample, outlines, fit } = this.#view;
    const width = make('input', {
      attributes: {
        type: 'number',
        min: String(LEAST_WIDTH),
        max: String(MOST_WIDTH),
        step: '1',
        value: String(this.#view.width),
      },
      on: { change: () => this.change({ width: withinBounds(Number(width.value) || this.#view.width) }) },
    });
    const filled = ['filled', ...this.#samples.map((name) => `for ${name}`)];
    const outline = (name: Outline, isSo: boolean): void =>
      this.change({ outlines: isSo ? [...outlines, name] : outlines.filter((other) => other !== name) });
    this.#settings.replaceChildren(
      make('label', { class: 'field' }, make('span', { text: 'Width, px' }), width),
      choice(
        'Engine',
        lookers.map((name) => [name, name] as const),
        engine,
        (value) => this.change({ engine: value }),
      ),
      choice(
        'Scheme',
        schemeNames.map((name) => [name, name] as const),
        scheme,
        (value) => this.change({ scheme: value }),
      ),
      choice(
        'Merge tags',
        [
          ...filled.map((name) => [name, name] as const),
          ['raw', 'as the platform has them'] as const,
          ['chips', 'as names'] as const,
        ],
        tags === 'filled' && sample !== null ? `for ${sample}` : tags,
        (value) =>
          this.change(
            value === 'raw' || value === 'chips'
              ? { tags: value, sample: null }
              : { tags: 'filled', sample: value === 'filled' ? null : value.slice(4) },
          ),
      ),
      tick('Pictures', pictures === 'shown', (isSo) => this.change({ pictures: isSo ? 'shown' : 'off' })),
      tick('Outline regions', outlines.includes('regions'), (isSo) => outline('regions', isSo)),
      tick('Outline slices', outlines.includes('slices'), (isSo) => outline('slices', isSo)),
      tick('All of it at once', fit, (isSo) => this.change({ fit: isSo })),
    );
    if (hadFocus) [...this.#settings.querySelectorAll<HTMLElement>('input,select')][index]?.focus();
  }

  /** The right edge of the window: dragged, or moved by arrow keys. */
  private makeEdge(): HTMLElement {
    const edge = make('div', {
      class: 'edge',
      attributes: {
        role: 'separator',
        tabindex: '0',
        'aria-orientation': 'vertical',
        'aria-label': 'Width of this view, px',
        'aria-valuemin': String(LEAST_WIDTH),
        'aria-valuemax': String(MOST_WIDTH),
        title: 'Drag to make this view wider or narrower',
      },
    });
    edge.addEventListener('keydown', (event) => {
      const step = { ArrowLeft: -1, ArrowRight: 1, PageDown: -50, PageUp: 50 }[event.key];
      if (step === undefined) return;
      event.preventDefault();
      event.stopPropagation();
      this.change({ width: withinBounds(this.#view.width + step * (event.shiftKey ? 10 : 1)) });
    });
    edge.addEventListener('pointerdown', (event) => {
      event.preventDefault();
      edge.focus();
      edge.setPointerCapture(event.pointerId);
      const [from, width] = [event.clientX, this.#view.width];
      // Over a frame the pointer would be the frame's.
      document.body.classList.add('dragging');
      const move = (moved: PointerEvent): void =>
        this.change({ width: withinBounds(Math.round(width + (moved.clientX - from) / this.#zoom)) });
      edge.addEventListener('pointermove', move);
      const end = (): void => {
        edge.removeEventListener('pointermove', move);
        document.body.classList.remove('dragging');
      };
      edge.addEventListener('pointerup', end, { once: true });
      edge.addEventListener('pointercancel', end, { once: true });
    });
    return edge;
  }
}

/** A width, in px, within what a view may have. */
export function withinBounds(width: number): number {
  return Math.min(MOST_WIDTH, Math.max(LEAST_WIDTH, Math.round(width)));
}
