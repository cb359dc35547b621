import type { PlatformState, StoredTemplate } from './platform-state.js';
import type { ReceivedBody } from './received-body.js';

/** A request to a simulated platform. */
export interface PlatformRequest {
  readonly method: string;
  /** What the `{names}` of the route stand for. */
  readonly params: Readonly<Record<string, string>>;
  readonly query: URLSearchParams;
  /** By their names in small letters. */
  readonly headers: Readonly<Record<string, string>>;
  readonly body: ReceivedBody;
  readonly state: PlatformState;
  /** The address of the platform, without a slash at its end. */
  readonly address: string;
  /** In milliseconds since 1970. */
  readonly now: number;
}

/** What a simulated platform answers. */
export interface PlatformAnswer {
  readonly status: number;
  /** JSON; bytes with their type; or nothing. */
  readonly content: unknown;
  readonly headers?: Readonly<Record<string, string>>;
}

/** Bytes in an answer, where it is no JSON. */
export class AnswerBytes {
  constructor(
    readonly type: string,
    readonly bytes: Uint8Array,
  ) {}
}

export type RouteAction = (request: PlatformRequest) => PlatformAnswer | Promise<PlatformAnswer>;

/** A simulated sending platform: one habit that platforms have, with rules of its own. Names, routes and forms are ours. */
export interface Platform {
  /** The name of its dialect. */
  readonly name: string;
  readonly title: string;
  /** What it is known for, in a sentence. */
  readonly habit: string;
  readonly colour: string;
  /** By method and path (`POST /letters/{id}`). */
  readonly routes: Readonly<Record<string, RouteAction>>;
  /** What everybody may ask without signing in, by method and path. */
  readonly open: readonly string[];
  /** Null where whoever asks may; what it answers else. */
  readonly refusal: (request: PlatformRequest, isWrite: boolean) => PlatformAnswer | null;
  /** A refusal in its own form. */
  readonly error: (status: number, sentence: string) => PlatformAnswer;
  /** A stored template as readers get it: whole HTML, with what the platform adds and takes away. */
  readonly sent: (template: StoredTemplate) => string;
  /** What a project has to know to push there, by the names of the settings of its dialect. */
  readonly credentials: Readonly<Record<string, string>>;
}

export function answer(status: number, content: unknown): PlatformAnswer {
  return { status, content };
}

/** A tag that a template needs: how it is written, by which it is known, and what it is. */
export interface NeededTag {
  readonly tag: string;
  readonly written: RegExp;
  readonly what: string;
}

/** A sentence about the tags that a template lacks; null where it lacks none. Each platform says it in its own form. */
export function missingTags(html: string, needed: readonly NeededTag[]): string | null {
  const missing = needed.filter(({ written }) => !written.test(html));
  return missing.length === 0
    ? null
    : `The template lacks ${missing.map(({ tag, what }) => `${what} (${tag})`).join(' and ')}.`;
}

/** A page of a list: what is on it, and the number of the next one. */
export function pageOf<T>(
  all: readonly T[],
  from: number,
  size: number,
): { readonly items: readonly T[]; readonly next: number | null } {
  return { items: all.slice(from, from + size), next: from + size < all.length ? from + size : null };
}
