/// <reference lib="dom" />
import { button, make } from './dom.js';

/** What a key does, and what the list of keys says of it. */
export interface Key {
  readonly keys: readonly string[];
  readonly does: string;
  readonly act: (key: string) => void;
}

/** Acts on keys, wherever the focus is; what somebody types into a field is theirs. */
export class Keys {
  readonly #keys: readonly Key[];
  readonly #dialog: HTMLDialogElement;

  constructor(keys: readonly Key[]) {
    this.#keys = [...keys, { keys: ['?'], does: 'show these keys', act: () => this.help() }];
    this.#dialog = make('dialog', { class: 'keys', attributes: { 'aria-label': 'Keys' } });
    const rows = this.#keys.flatMap(({ keys: names, does }) => [
      make('dt', {}, ...shownKeys(names)),
      make('dd', { text: does }),
    ]);
    this.#dialog.append(
      make('h2', { text: 'Keys' }),
      make('dl', {}, ...rows),
      button('Close', 'Close', () => this.#dialog.close(), 'plain'),
    );
    document.body.append(this.#dialog);
    document.addEventListener('keydown', (event) => this.press(event));
  }

  /** Also for keys that are pressed in frames. */
  press(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
    const element = event.target as Element | null;
    if (element?.matches?.('input,select,textarea') === true || this.#dialog.open) return;
    const known = this.#keys.find(({ keys }) => keys.includes(event.key));
    if (known === undefined) return;
    event.preventDefault();
    known.act(event.key);
  }

  help(): void {
    this.#dialog.showModal();
  }
}

/** Keys as they are told: of a long row, the first and the last. */
function shownKeys(names: readonly string[]): (Node | string)[] {
  const isRow = names.length > 3;
  const told = isRow ? [names[0] ?? '', names.at(-1) ?? ''] : names;
  return told.flatMap((name, index) => [...(index === 0 ? [] : [isRow ? ' … ' : ' ']), make('kbd', { text: name })]);
}
