import { compareStates, type MessageAt, type MessageChange } from '../../core/compare/compare-states.js';
import type { Looked } from '../preview/preview-source.js';
import type { ProjectPreview } from '../preview/project-preview.js';

/** What became of an edition of a message for a destination between two states of a project. */
export type Fate =
  | { readonly kind: 'both'; readonly change: MessageChange }
  | { readonly kind: 'new' | 'gone' | 'broken-before' | 'broken-now' | 'broken' };

export interface ComparedMessage {
  readonly looked: Looked;
  readonly fate: Fate;
}

/** Two states of a project. */
export interface ProjectStates {
  readonly before: ProjectPreview;
  readonly after: ProjectPreview;
}

/**
 * Compares all editions of messages at all destinations, in the order of their names.
 * @param asked the messages that are compared; null for all that either state has
 */
export async function* compareProjects(
  { before, after }: ProjectStates,
  asked: readonly string[] | null,
): AsyncGenerator<ComparedMessage> {
  const names = new Set(asked ?? [...before.names(), ...after.names()]);
  for (const name of [...names].sort()) {
    const [was, is] = [await before.overview(name), await after.overview(name)];
    const editions = [...new Set([...was.editions, ...is.editions])];
    for (const edition of editions.length === 0 ? [null] : editions)
      for (const destination of [...new Set([...was.destinations, ...is.destinations])]) {
        const looked = { name, edition, destination };
        const has = ({ editions: own, destinations }: typeof was): boolean =>
          destinations.includes(destination) && (edition === null || own.includes(edition));
        yield { looked, fate: await fateOf(has(was) ? before : null, has(is) ? after : null, looked) };
      }
  }
}

async function fateOf(before: ProjectPreview | null, after: ProjectPreview | null, looked: Looked): Promise<Fate> {
  const was = before === null ? null : await before.state(looked);
  const is = after === null ? null : await after.state(looked);
  if (before === null || after === null) return { kind: before === null ? 'new' : 'gone' };
  if (was === null || is === null) return { kind: brokenKind(was, is) };
  return { kind: 'both', change: compareStates(was, is) };
}

function brokenKind(was: MessageAt | null, is: MessageAt | null): 'broken' | 'broken-before' | 'broken-now' {
  if (was === null && is === null) return 'broken';
  return was === null ? 'broken-before' : 'broken-now';
}
