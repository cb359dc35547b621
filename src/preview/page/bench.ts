/// <reference lib="dom" />
import { lookers, usualViews, type View } from '../../core/views/view.js';
import { schemeNames } from '../../core/engines/scheme.js';
import type { BenchMessage, PreviewFinding } from '../../core/views/model.js';
import { button, choice, make } from './dom.js';
import { inboxLines } from './inbox.js';
import { Keys } from './keys.js';
import { keepRow, rowOf } from './row.js';
import { listenForChanges, messageNow, wallNow, type Looked } from './server.js';
import { Strip } from './strip.js';
import { EDGE, ViewCard, withinBounds, type CardOwner } from './view-card.js';

/** The row is shown smaller, until all of it is seen, but no smaller than this. */
const LEAST_ZOOM = 0.5;

/** The bench: one message in a row of views, its line in the inbox, and what there is to know of it. */
export class Bench {
  readonly #row: HTMLElement;
  readonly #strip: Strip;
  readonly #inbox: HTMLElement;
  readonly #trouble: HTMLElement;
  readonly #status: HTMLElement;
  readonly #pointed: HTMLElement;
  readonly #choices: HTMLElement;
  readonly #keys: Keys;
  readonly #owner: CardOwner;
  #cards: ViewCard[] = [];
  #current: ViewCard | null = null;
  #message: BenchMessage | null = null;
  #looked: Looked;
  #isWhole = true;
  #sequence = 0;
  #digest = '';
  /** Whether the views show what was saved last already. */
  #isEarly = false;
  #hovered: string | null = null;

  constructor(root: HTMLElement, name: string) {
    const query = new URLSearchParams(location.search);
    this.#looked = { name, edition: query.get('edition'), destination: query.get('to') };
    this.#row = make('div', { class: 'row', attributes: { role: 'group', 'aria-label': 'Views' } });
    this.#trouble = make('div', { class: 'trouble', attributes: { role: 'alert' } });
    this.#trouble.hidden = true;
    this.#status = make('span', { class: 'status', attributes: { role: 'status' } });
    this.#pointed = make('span', { class: 'pointed' });
    this.#inbox = make('section', { class: 'inbox-line', attributes: { 'aria-label': 'In the inbox' } });
    this.#choices = make('div', { class: 'choices' });
    this.#strip = new Strip((mark) => this.goTo(String(mark)));
    this.#owner = {
      over: (mark) => this.hover(mark),
      clicked: (mark) => void this.copyPlace(mark),
      key: (event) => this.#keys.press(event),
      changed: (card, view) => this.change(card, view),
      copied: (card) => this.add(card.view, card),
      removed: (card) => this.remove(card),
      focused: (card) => this.choose(card),
    };
    this.#keys = this.makeKeys();
    root.replaceChildren(
      make(
        'header',
        { class: 'top' },
        make('a', { class: 'back', text: 'All messages', attributes: { href: '/' } }),
        make('h1', { text: name }),
        this.#choices,
        this.#status,
        button(
          'Add a view',
          '+ view',
          () => this.add(this.#current?.view ?? usualViews[0] ?? null, this.#current),
          'plain',
        ),
        button('Show the row whole, or at its size', 'zoom', () => this.toggleZoom()),
        button('Show the keys', '?', () => this.#keys.help()),
      ),
      this.#inbox,
      make(
        'main',
        {},
        make('div', { class: 'views' }, this.#trouble, this.#row, make('div', { class: 'foot' }, this.#pointed)),
        this.#strip.element,
      ),
    );
    new ResizeObserver(() => this.zoom()).observe(this.#row);
    document.title = `${name} · Preview`;
  }

  /** Shows the message, and from then on each change of it. */
  async start(): Promise<void> {
    const message = await messageNow(this.#looked);
    this.know(message);
    for (const view of rowOf(message, location.search)) this.place(view, null);
    this.choose(this.#cards[0] ?? null);
    this.keep();
    this.zoom();
    if (message.hasPage) await this.showAll();
    let wasThere = true;
    listenForChanges(
      message.name,
      ({ name, digest }) => {
        if (name === message.name) void (digest === null ? this.showEarly() : this.refresh());
      },
      (isThere) => {
        if (isThere && !wasThere) void this.refresh();
        if (isThere !== wasThere)
          this.say(isThere ? 'The preview is there again.' : 'The preview has stopped. It is looked for again.');
        wasThere = isThere;
      },
    );
  }

  /** Shows the message as it is now: what came in between is passed over. */
  private async refresh(): Promise<void> {
    this.#sequence += 1;
    const own = this.#sequence;
    // What the views show may be there already.
    const hadPage = this.#message?.hasPage === true;
    const frames = this.#isEarly || !hadPage ? Promise.resolve() : this.showAll();
    this.#isEarly = false;
    const message = await messageNow(this.#looked).catch(() => null);
    if (message === null || own !== this.#sequence) return;
    this.know(message);
    await (hadPage || !message.hasPage ? frames : this.showAll());
    document.body.dataset['digest'] = message.digest;
  }

  /** The page of a message can be shown before all is known of it. */
  private async showEarly(): Promise<void> {
    this.#isEarly = true;
    await this.showAll();
  }

  private async showAll(): Promise<void> {
    await Promise.all(this.#cards.map((card) => card.show(this.#looked)));
    this.#row.dataset['shown'] = String(Number(this.#row.dataset['shown'] ?? '0') + 1);
  }

  private know(message: BenchMessage): void {
    const isChanged = this.#digest !== '' && this.#digest !== message.digest;
    this.#message = message;
    this.#digest = message.digest;
    document.body.dataset['digest'] = message.digest;
    this.#strip.show(message);
    this.#inbox.replaceChildren(inboxLines(message));
    this.showTrouble(message);
    this.showChoices(message);
    for (const card of this.#cards) card.know(message);
    if (message.state === 'broken') this.say('Does not build.');
    else if (isChanged) this.say(`Built again at ${new Date().toTimeString().slice(0, 8)}.`);
    else if (this.#status.textContent === 'Does not build.') this.say('Builds again.');
  }

  /** What keeps a message from being built lies over its views, which show what it was before. */
  private showTrouble({ state, findings, hasPage }: BenchMessage): void {
    const errors = state === 'broken' ? findings.filter(({ severity }) => severity === 'error') : [];
    this.#trouble.hidden = errors.length === 0;
    this.#row.classList.toggle('stale', errors.length > 0);
    if (errors.length === 0) {
      this.#trouble.replaceChildren();
      return;
    }
    this.#trouble.replaceChildren(
      make('h2', { text: hasPage ? 'It does not build. Beneath is what it was before.' : 'It does not build.' }),
      ...errors.map(troubleOf),
    );
  }

  private showChoices({ editions, edition, destinations, destination }: BenchMessage): void {
    const fields: HTMLElement[] = [];
    const named = (names: readonly string[]): [string, string][] => names.map((name) => [name, name]);
    if (editions.length > 0)
      fields.push(
        choice('Edition', named(editions), edition ?? '', (value) => this.look({ ...this.#looked, edition: value })),
      );
    if (destinations.length > 1)
      fields.push(
        choice('For', named(destinations), destination ?? '', (value) =>
          this.look({ ...this.#looked, destination: value }),
        ),
      );
    if (!this.#choices.contains(document.activeElement)) this.#choices.replaceChildren(...fields);
  }

  private look(looked: Looked): void {
    this.#looked = looked;
    this.keep();
    void this.refresh();
  }

  private place(view: View, behind: ViewCard | null): ViewCard {
    const card = new ViewCard(view, this.#owner);
    if (this.#message !== null) card.know(this.#message);
    const at = behind === null ? this.#cards.length : this.#cards.indexOf(behind) + 1;
    this.#cards.splice(at, 0, card);
    if (behind === null) this.#row.append(card.element);
    else behind.element.after(card.element);
    return card;
  }

  private add(view: View | null, behind: ViewCard | null): void {
    if (view === null) return;
    const card = this.place(view, behind);
    this.keep();
    this.zoom();
    if (this.#message?.hasPage === true) void card.show(this.#looked);
    card.element.focus();
    card.element.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    this.say('A view was added.');
  }

  private remove(card: ViewCard): void {
    const at = this.#cards.indexOf(card);
    if (at < 0) return;
    this.#cards.splice(at, 1);
    card.element.remove();
    const next = this.#cards[Math.min(at, this.#cards.length - 1)] ?? null;
    this.choose(next);
    next?.element.focus();
    this.keep();
    this.zoom();
    this.say('A view was removed.');
  }

  private change(card: ViewCard, view: View): void {
    const before = card.view;
    card.set(view);
    this.keep();
    if (before.width !== view.width) this.zoom();
    const isOther = (['engine', 'scheme', 'pictures', 'tags', 'sample'] as const).some(
      (key) => before[key] !== view[key],
    );
    if (isOther && this.#message?.hasPage === true) void card.show(this.#looked);
  }

  private choose(card: ViewCard | null): void {
    if (card === this.#current) return;
    this.#current?.setCurrent(false);
    this.#current = card;
    card?.setCurrent(true);
  }

  private keep(): void {
    keepRow(
      this.#looked.name,
      this.#cards.map(({ view }) => view),
      this.#looked,
    );
  }

  /** How much smaller the row has to be for all of it to be seen. */
  private zoom(): void {
    const gaps = 16 * (this.#cards.length + 1) + EDGE * this.#cards.length;
    const whole = this.#cards.reduce((sum, { view }) => sum + view.width, 0);
    const fits = (this.#row.clientWidth - gaps) / Math.max(1, whole);
    const zoom = this.#isWhole ? Math.min(1, Math.max(LEAST_ZOOM, fits)) : 1;
    for (const card of this.#cards) card.zoomTo(zoom);
  }

  private toggleZoom(): void {
    this.#isWhole = !this.#isWhole;
    this.zoom();
    this.say(this.#isWhole ? 'The row is shown whole.' : 'The row is shown at its size.');
  }

  private goTo(mark: string): void {
    for (const card of this.#cards) card.frame.scrollTo(mark);
  }

  /** The same element is outlined in all views, and its place is told. */
  private hover(mark: string | null): void {
    if (mark === this.#hovered) return;
    this.#hovered = mark;
    for (const card of this.#cards) card.frame.outline(mark);
    this.#pointed.textContent = mark === null ? '' : (this.placeOf(mark) ?? '');
  }

  private placeOf(mark: string): string | null {
    return this.#message?.places[Number(mark)] ?? null;
  }

  private async copyPlace(mark: string | null): Promise<void> {
    const place = mark === null ? null : this.placeOf(mark);
    if (place === null) return;
    const isCopied = await navigator.clipboard.writeText(place).then(
      () => true,
      () => false,
    );
    this.say(isCopied ? `Copied ${place}` : place);
  }

  private say(text: string): void {
    this.#status.textContent = text;
  }

  private makeKeys(): Keys {
    const onCurrent = (act: (view: View) => Partial<View>) => (): void => {
      const card = this.#current;
      if (card !== null) this.change(card, { ...card.view, ...act(card.view) });
    };
    const next = <T>(list: readonly T[], value: T): T => list[(list.indexOf(value) + 1) % list.length] ?? value;
    const toggled = (outlines: View['outlines'], name: View['outlines'][number]): View['outlines'] =>
      outlines.includes(name) ? outlines.filter((other) => other !== name) : [...outlines, name];
    return new Keys([
      {
        keys: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
        does: 'go to a view; arrows and Page keys scroll it',
        act: (key) => this.#cards[Number(key) - 1]?.element.focus(),
      },
      {
        keys: ['a'],
        does: 'add a view',
        act: () => this.add(this.#current?.view ?? usualViews[0] ?? null, this.#current),
      },
      {
        keys: ['x', 'Delete'],
        does: 'remove the view',
        act: () => this.#current !== null && this.remove(this.#current),
      },
      { keys: ['o'], does: 'set what the view shows', act: () => this.#current?.toggleSettings() },
      { keys: ['e'], does: 'the next engine', act: onCurrent(({ engine }) => ({ engine: next(lookers, engine) })) },
      { keys: ['s'], does: 'the next scheme', act: onCurrent(({ scheme }) => ({ scheme: next(schemeNames, scheme) })) },
      {
        keys: ['i'],
        does: 'pictures on or off',
        act: onCurrent(({ pictures }) => ({ pictures: pictures === 'off' ? 'shown' : 'off' })),
      },
      {
        keys: ['t'],
        does: 'merge tags filled, raw, or as names',
        act: onCurrent(({ tags }) => ({ tags: next(['filled', 'raw', 'chips'] as const, tags), sample: null })),
      },
      {
        keys: ['r'],
        does: 'outline regions',
        act: onCurrent(({ outlines }) => ({ outlines: toggled(outlines, 'regions') })),
      },
      {
        keys: ['l'],
        does: 'outline slices',
        act: onCurrent(({ outlines }) => ({ outlines: toggled(outlines, 'slices') })),
      },
      { keys: ['f'], does: 'all of the page at once', act: onCurrent(({ fit }) => ({ fit: !fit })) },
      {
        keys: ['[', ']'],
        does: 'ten px narrower, wider',
        act: (key) => onCurrent(({ width }) => ({ width: withinBounds(width + (key === '[' ? -10 : 10)) }))(),
      },
      { keys: ['z'], does: 'the row whole, or at its size', act: () => this.toggleZoom() },
      {
        keys: ['j', 'k'],
        does: 'the next finding, the one before',
        act: (key) => this.#strip.step(key === 'j' ? 1 : -1),
      },
      {
        keys: ['n', 'p'],
        does: 'the next message, the one before',
        act: (key) => void this.neighbour(key === 'n' ? 1 : -1),
      },
      { keys: ['w'], does: 'all messages', act: () => location.assign('/') },
    ]);
  }

  private async neighbour(step: 1 | -1): Promise<void> {
    const { messages } = await wallNow();
    const at = messages.findIndex(({ name }) => name === this.#looked.name);
    const next = messages[(at + step + messages.length) % messages.length];
    if (next !== undefined) location.assign(`/${encodeURIComponent(next.name)}`);
  }
}

function troubleOf({ place, code, message, frame, fix }: PreviewFinding): HTMLElement {
  return make(
    'div',
    { class: 'error' },
    make(
      'p',
      {},
      ...(place === null ? [] : [make('b', { text: place }), ' ']),
      make('span', { class: 'code', text: code }),
    ),
    make('p', { text: message }),
    ...(frame === '' ? [] : [make('pre', { text: frame })]),
    make('p', { class: 'fix', text: fix }),
  );
}
