import type { Looked } from './preview-source.js';
import type { Look, RenderedFor, ShownPage } from './shown-message.js';

/** A look that is under way: its page is there before all is known of it. */
export interface Looking {
  readonly page: Promise<ShownPage | null>;
  readonly whole: Promise<Look>;
}

/** What shows again, for editions that do not build any more. */
export interface LastShown {
  readonly page: ShownPage;
  readonly rendered: ReadonlyMap<string, RenderedFor>;
}

/** A look that found nothing. */
export const noLook: Look = {
  findings: [],
  page: null,
  rendered: new Map(),
  inputs: new Map(),
  overview: null,
  digest: '',
};

/** What an edition of a message is kept by. */
export function keyOf({ name, edition }: Pick<Looked, 'name' | 'edition'>): string {
  return `${name}\n${edition ?? ''}`;
}

/** The message of such a key. */
export function nameOfKey(key: string): string {
  return key.slice(0, key.indexOf('\n'));
}
