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

/**
 * The address of a link as a text shows it; null for one that leads nowhere outside the document. White space in it is
 * written so that the address stays one word (URL standard, 4.4).
 */
export function shownLink(href: string | null): string | null {
  const address = (href ?? '')
    .trim()
    .replace(/[\t\n\r]+/g, '')
    .replaceAll(' ', '%20');
  return address === '' || address.startsWith('#') || /^javascript:/i.test(address) ? null : address;
}

/** Whether a link's text says where it goes, so that a reader can follow it: the address itself, or that of a mailbox or a telephone. */
export function saysAddress(label: string, address: string): boolean {
  const shown = label.trim();
  return shown === address || (/^(?:mailto|tel):/i.test(address) && plainNumber(shown) === plainNumber(address));
}

function plainNumber(text: string): string {
  return text
    .toLowerCase()
    .replace(/^(?:mailto|tel):/, '')
    .replace(/^\+?[\d\s().\u00a0-]+$/, (number) => number.replace(/[^\d+]/g, ''));
}
