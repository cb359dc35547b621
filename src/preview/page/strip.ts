/// <reference lib="dom" />
import { CLIPPING_SIZE } from '../../core/engines/limits.js';
import type { BenchMessage, PreviewFinding } from '../../core/views/model.js';
import { make } from './dom.js';
import { counted, kilobytes } from '../../core/text/amounts.js';

/** The tabs of the strip beside the views. */
const tabs = ['findings', 'text', 'links', 'pictures', 'weight', 'card'] as const;

type Tab = (typeof tabs)[number];

/** What there is to know of a message beside how it looks. */
export class Strip {
  readonly element: HTMLElement;
  readonly #list: HTMLElement;
  readonly #panel: HTMLElement;
  #tab: Tab = 'findings';
  #message: BenchMessage | null = null;

  /** @param goTo scrolls every view to the elements of a mark */
  constructor(private readonly goTo: (mark: number) => void) {
    this.#list = make('div', { class: 'tabs', attributes: { role: 'tablist', 'aria-label': 'About this message' } });
    this.#panel = make('div', { class: 'panel', id: 'panel', attributes: { role: 'tabpanel', tabindex: '0' } });
    this.element = make(
      'aside',
      { class: 'strip', attributes: { 'aria-label': 'About this message' } },
      this.#list,
      this.#panel,
    );
    this.#list.addEventListener('keydown', (event) => {
      const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      if (step === undefined) return;
      event.preventDefault();
      event.stopPropagation();
      this.open(tabs[(tabs.indexOf(this.#tab) + step + tabs.length) % tabs.length] ?? 'findings');
      this.#list.querySelector<HTMLElement>('[aria-selected="true"]')?.focus();
    });
  }

  show(message: BenchMessage): void {
    this.#message = message;
    this.draw();
  }

  open(tab: Tab): void {
    this.#tab = tab;
    this.draw();
  }

  /** Goes to the finding after that which was gone to last, or before it. */
  step(by: 1 | -1): void {
    this.open('findings');
    const items = [...this.#panel.querySelectorAll<HTMLButtonElement>('button.finding')];
    const at = items.indexOf(document.activeElement as HTMLButtonElement);
    const next = items[at < 0 ? (by > 0 ? 0 : items.length - 1) : (at + by + items.length) % items.length];
    next?.focus();
    next?.click();
  }

  private draw(): void {
    const message = this.#message;
    if (message === null) return;
    // Where somebody read to stays where it was when the message is built anew.
    const { scrollTop } = this.#panel;
    const isSame = this.#panel.dataset['tab'] === this.#tab;
    const focused = isSame
      ? [...this.#panel.querySelectorAll('button')].indexOf(document.activeElement as HTMLButtonElement)
      : -1;
    const hadTab = this.#list.contains(document.activeElement);
    this.#list.replaceChildren(...tabs.map((tab) => this.tabButton(tab, message)));
    if (hadTab) this.#list.querySelector<HTMLElement>('[aria-selected="true"]')?.focus();
    this.#panel.dataset['tab'] = this.#tab;
    this.#panel.setAttribute('aria-labelledby', `tab-${this.#tab}`);
    this.#panel.replaceChildren(...this.content(message));
    if (isSame) this.#panel.scrollTop = scrollTop;
    if (focused >= 0) this.#panel.querySelectorAll('button')[focused]?.focus();
  }

  private tabButton(tab: Tab, message: BenchMessage): HTMLElement {
    const isChosen = tab === this.#tab;
    return make('button', {
      id: `tab-${tab}`,
      text: `${tab}${countOf(tab, message)}`,
      attributes: {
        type: 'button',
        role: 'tab',
        'aria-selected': String(isChosen),
        'aria-controls': 'panel',
        tabindex: isChosen ? '0' : '-1',
      },
      on: { click: () => this.open(tab) },
    });
  }

  private content(message: BenchMessage): HTMLElement[] {
    switch (this.#tab) {
      case 'findings':
        return this.findings(message);
      case 'text':
        return [make('pre', { class: 'text', text: message.text })];
      case 'links':
        return this.links(message);
      case 'pictures':
        return pictures(message);
      case 'weight':
        return weight(message);
      case 'card':
        return [
          message.card === null
            ? make('p', { class: 'faint', text: 'What goes out for this destination has no card.' })
            : make('pre', { class: 'text', text: message.card }),
        ];
    }
  }

  private findings({ findings }: BenchMessage): HTMLElement[] {
    if (findings.length === 0) return [make('p', { class: 'faint', text: 'Nothing was found.' })];
    return [make('ul', { class: 'plain' }, ...findings.map((item) => make('li', {}, this.finding(item))))];
  }

  private finding({ severity, code, message, fix, place, mark }: PreviewFinding): HTMLElement {
    const content = [
      make('span', { class: `severity ${severity}`, text: severity }),
      make('span', { class: 'code', text: code }),
      make('span', { class: 'said', text: message }),
      make('span', { class: 'fix', text: fix }),
      ...(place === null ? [] : [make('span', { class: 'place', text: place })]),
    ];
    const on = mark === null ? {} : { click: () => this.goTo(mark) };
    return make('button', { class: 'finding', attributes: { type: 'button' }, on }, ...content);
  }

  private links({ links }: BenchMessage): HTMLElement[] {
    if (links.length === 0) return [make('p', { class: 'faint', text: 'It has no links.' })];
    const items = links.map(({ address, words, count, mark }) =>
      make(
        'li',
        {},
        make(
          'button',
          {
            class: 'finding',
            attributes: { type: 'button' },
            on: mark === null ? {} : { click: () => this.goTo(mark) },
          },
          make('span', { class: 'said', text: words === '' ? '(no words)' : words }),
          make('span', { class: 'place', text: address === '' ? '(no address)' : address }),
          ...(count > 1 ? [make('span', { class: 'faint', text: `${count} times` })] : []),
        ),
      ),
    );
    return [make('ul', { class: 'plain' }, ...items)];
  }
}

function countOf(tab: Tab, { findings, links, pictures: shown }: BenchMessage): string {
  const count = { findings: findings.length, links: links.length, pictures: shown.length }[tab as string];
  return count === undefined || count === 0 ? '' : ` ${count}`;
}

function pictures({ pictures: shown }: BenchMessage): HTMLElement[] {
  if (shown.length === 0) return [make('p', { class: 'faint', text: 'It has no pictures of its own.' })];
  const rows = shown.map(({ name, address, width, height, shown: at, bytes, bytesBefore }) =>
    make(
      'li',
      { class: 'picture' },
      make('img', { attributes: { src: address, alt: '', loading: 'lazy' } }),
      make(
        'span',
        {},
        make('span', { class: 'said', text: name }),
        make('span', {
          class: 'faint',
          text: `${width} × ${height} px${at === null ? '' : `, shown ${Math.round(at)} px wide`}`,
        }),
        make('span', {
          class: 'faint',
          text: bytes === bytesBefore ? kilobytes(bytes) : `${kilobytes(bytes)}, before ${kilobytes(bytesBefore)}`,
        }),
      ),
    ),
  );
  return [make('ul', { class: 'plain' }, ...rows)];
}

function weight({ weight: bytes, pictures: shown, text }: BenchMessage): HTMLElement[] {
  const share = Math.min(1, bytes / CLIPPING_SIZE);
  const meter = make('meter', {
    attributes: {
      min: '0',
      max: '1',
      high: '0.9',
      low: '0.75',
      optimum: '0',
      value: share.toFixed(3),
      'aria-label': 'HTML against the size at which it is cut off',
    },
  });
  const travelling = shown.reduce((sum, picture) => sum + picture.bytes, 0);
  const row = (name: string, value: string): HTMLElement[] => [make('dt', { text: name }), make('dd', { text: value })];
  return [
    make('p', {
      text: `${kilobytes(bytes)} of HTML: ${Math.round((bytes / CLIPPING_SIZE) * 100)} % of what web mail shows before it cuts.`,
    }),
    meter,
    make(
      'dl',
      {},
      ...row('HTML', kilobytes(bytes)),
      ...row('Plain text', kilobytes(new TextEncoder().encode(text).length)),
      ...row('Pictures', `${kilobytes(travelling)} in ${counted(shown.length, 'file')}`),
    ),
  ];
}
