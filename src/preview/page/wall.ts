/// <reference lib="dom" />
import type { MessageState, WallMessage } from '../../core/views/model.js';
import { usualViews, type View } from '../../core/views/view.js';
import { button, make } from './dom.js';
import { Keys } from './keys.js';
import { MessageFrame } from './message-frame.js';
import { frameAddress, listenForChanges, wallNow } from './server.js';
import { counted, kilobytes } from '../../core/text/amounts.js';

const [usual] = usualViews as readonly [View, ...View[]];

/** How wide the small pictures are, in px, and how much smaller than the message. */
const CARD_WIDTH = 264;
const ZOOM = CARD_WIDTH / usual.width;

/** The wall: every message as a small live picture. */
export class Wall {
  readonly #grid: HTMLElement;
  readonly #filter: HTMLInputElement;
  readonly #count: HTMLElement;
  readonly #title: HTMLElement;
  readonly #cards = new Map<string, WallCard>();
  /** What messages were when the page was opened. */
  readonly #first = new Map<string, string>();
  #isAsking = false;
  #asksAgain = false;

  constructor(root: HTMLElement) {
    this.#grid = make('ul', { class: 'wall' });
    this.#title = make('h1', { text: 'Preview' });
    this.#count = make('span', { class: 'status', attributes: { role: 'status' } });
    this.#filter = make('input', {
      attributes: {
        type: 'search',
        placeholder: 'Subject, topic, keyword',
        'aria-label': 'Filter by subject, topic or keyword',
      },
      on: { input: () => this.filter() },
    });
    const keys = new Keys([
      { keys: ['/'], does: 'filter the messages', act: () => this.#filter.focus() },
      { keys: ['j', 'k'], does: 'the next message, the one before', act: (key) => this.step(key === 'j' ? 1 : -1) },
    ]);
    root.replaceChildren(
      make(
        'header',
        { class: 'top' },
        this.#title,
        this.#filter,
        this.#count,
        button('Show the keys', '?', () => keys.help()),
      ),
      make('main', { class: 'wall-main' }, this.#grid),
    );
  }

  async start(): Promise<void> {
    await this.ask();
    listenForChanges(
      null,
      ({ digest }) => void (digest === null || this.ask()),
      (isThere) => {
        if (isThere) void this.ask();
        else this.#count.textContent = 'The preview has stopped. It is looked for again.';
      },
    );
  }

  /** Asks what messages are now; what comes in while it is asked is asked for once more. */
  private async ask(): Promise<void> {
    if (this.#isAsking) {
      this.#asksAgain = true;
      return;
    }
    this.#isAsking = true;
    do {
      this.#asksAgain = false;
      const wall = await wallNow().catch(() => null);
      if (wall !== null) this.show(wall.project, wall.messages);
    } while (this.#asksAgain);
    this.#isAsking = false;
  }

  private show(project: string, messages: readonly WallMessage[]): void {
    this.#title.textContent = project;
    document.title = `${project} · Preview`;
    const gone = new Set(this.#cards.keys());
    for (const message of messages) {
      gone.delete(message.name);
      if (message.digest !== '' && !this.#first.has(message.name)) this.#first.set(message.name, message.digest);
      const card = this.#cards.get(message.name) ?? new WallCard(message.name);
      if (!this.#cards.has(message.name)) {
        this.#cards.set(message.name, card);
        this.#grid.append(card.element);
      }
      card.show(message, message.digest !== '' && this.#first.get(message.name) !== message.digest);
    }
    for (const name of gone) {
      this.#cards.get(name)?.element.remove();
      this.#cards.delete(name);
    }
    this.filter();
  }

  private filter(): void {
    const words = this.#filter.value
      .toLowerCase()
      .split(/\s+/)
      .filter((word) => word !== '');
    let shown = 0;
    for (const card of this.#cards.values()) {
      card.element.hidden = !words.every((word) => card.words.includes(word));
      if (!card.element.hidden) shown += 1;
    }
    const all = this.#cards.size;
    this.#count.textContent = shown === all ? counted(all, 'message') : `${shown} of ${counted(all, 'message')}`;
  }

  private step(by: 1 | -1): void {
    const links = [...this.#grid.querySelectorAll<HTMLElement>('li:not([hidden]) a')];
    const at = links.indexOf(document.activeElement as HTMLElement);
    links[at < 0 ? 0 : (at + by + links.length) % links.length]?.focus();
  }
}

class WallCard {
  readonly element: HTMLLIElement;
  readonly #frame: MessageFrame;
  readonly #link: HTMLAnchorElement;
  readonly #facts: HTMLElement;
  readonly #mark: HTMLElement;
  #digest = '';
  words = '';

  constructor(name: string) {
    this.#frame = new MessageFrame(`${name}, small`, {
      over: () => undefined,
      clicked: () => undefined,
      key: () => undefined,
    });
    const { element: frame } = this.#frame;
    frame.tabIndex = -1;
    frame.setAttribute('aria-hidden', 'true');
    frame.setAttribute('loading', 'lazy');
    frame.style.width = `${usual.width}px`;
    frame.style.height = `${Math.round(240 / ZOOM)}px`;
    frame.style.transform = `scale(${ZOOM})`;
    this.#link = make('a', { attributes: { href: `/${encodeURIComponent(name)}` }, text: name });
    this.#facts = make('p', { class: 'facts' });
    this.#mark = make('span', { class: 'mark', text: 'changed' });
    this.#mark.hidden = true;
    this.element = make(
      'li',
      { class: 'card' },
      make('div', { class: 'picture' }, frame),
      make('h2', {}, this.#link, this.#mark),
      this.#facts,
    );
  }

  show(message: WallMessage, isChanged: boolean): void {
    const { name, state, subject, topic, keywords, editions, destinations, weight, digest } = message;
    this.words = [name, subject, topic ?? '', ...keywords].join(' ').toLowerCase();
    this.#link.textContent = subject === '' ? name : subject;
    this.#mark.hidden = !isChanged;
    this.element.classList.toggle('stacked', editions.length > 1);
    this.element.dataset['state'] = state ?? 'unseen';
    const facts = [
      name,
      ...(state === null || weight === 0 ? [] : [kilobytes(weight)]),
      ...(editions.length === 0 ? [] : [counted(editions.length, 'edition')]),
      ...(destinations.length === 0 ? [] : [destinations.join(', ')]),
    ];
    this.#facts.replaceChildren(
      make('span', { class: `state ${state ?? 'unseen'}`, text: stateText(state, message) }),
      make('span', { class: 'faint', text: facts.join(' · ') }),
      ...(topic === null && keywords.length === 0
        ? []
        : [make('span', { class: 'faint', text: [...(topic === null ? [] : [topic]), ...keywords].join(', ') })]),
    );
    if (state === null || digest === this.#digest) return;
    this.#digest = digest;
    if (weight > 0) void this.#frame.show(frameAddress({ name, edition: null, destination: null }, usual));
  }
}

function stateText(state: MessageState | null, { counts: { error, warning, note } }: WallMessage): string {
  if (state === null) return 'is being built';
  if (state === 'broken') return 'does not build';
  const found = [
    ...(error === 0 ? [] : [counted(error, 'error')]),
    ...(warning === 0 ? [] : [counted(warning, 'warning')]),
    ...(note === 0 ? [] : [counted(note, 'note')]),
  ];
  return found.length === 0 ? 'fine' : found.join(', ');
}
