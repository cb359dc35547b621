import { pathsIn, type Expression } from '../expressions/expression.js';
import type { MergeTag } from './model.js';
import { dataPath } from './shapes.js';

/** The expressions of a tag. */
export function expressionsOf(tag: MergeTag | undefined): readonly Expression[] {
  if (tag?.kind === 'output') return [tag.value];
  if (tag?.kind === 'if' || tag?.kind === 'else-if') return [tag.condition];
  return tag?.kind === 'each' ? [tag.list] : [];
}

/** The lists that the tags loop over, as paths from the recipient. */
export function loopedIn(tags: readonly MergeTag[]): Set<string> {
  const looped = new Set<string>();
  const open: { name: string; list: string; shape: null }[] = [];
  const blocks: boolean[] = [];
  for (const tag of tags) {
    if (tag.kind === 'each' && tag.list.kind === 'path') {
      const list = dataPath(tag.list.segments, open);
      looped.add(list);
      open.push({ name: tag.item, list, shape: null });
      blocks.push(true);
    } else if (tag.kind === 'if' || tag.kind === 'each') blocks.push(false);
    for (const path of expressionsOf(tag).flatMap(pathsIn))
      if (path.isList === true) looped.add(dataPath(path.segments, open));
    if (tag.kind === 'end' && blocks.pop() === true) open.pop();
  }
  return looped;
}

/** The first names of the recipient's fields that tags use. */
export function fieldsIn(tags: readonly MergeTag[]): Set<string> {
  const items = new Set(tags.flatMap((tag) => (tag.kind === 'each' ? [tag.item] : [])));
  return new Set(
    tags
      .flatMap((tag) => expressionsOf(tag).flatMap(pathsIn))
      .flatMap(({ segments }) => (segments[0] === undefined || items.has(segments[0]) ? [] : [segments[0]])),
  );
}
