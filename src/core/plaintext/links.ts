import { replaceSentinels } from '../html/tags.js';

/** Numbers the addresses of links; the same address keeps its number. */
export class LinkNotes {
  readonly #numbers = new Map<string, number>();

  number(address: string): number {
    const known = this.#numbers.get(address);
    if (known !== undefined) return known;
    const number = this.#numbers.size + 1;
    this.#numbers.set(address, number);
    return number;
  }

  /** The notes, in order. */
  lines(restore: (index: number) => string): string[] {
    return [...this.#numbers].map(([address, number]) => `[${number}] ${replaceSentinels(address, restore)}`);
  }
}

/** Whether a link's text already says where it goes. */
export function sameAddress(label: string, address: string): boolean {
  return bare(label) === bare(address);
}

function bare(text: string): string {
  return text
    .trim()
    .toLowerCase()
    .replace(/^(?:https?:\/\/|mailto:|tel:)/, '')
    .replace(/^www\./, '')
    .replace(/\/$/, '');
}
