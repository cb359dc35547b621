import type { Expression } from '../../expressions/expression.js';
import type { MergeTag } from '../../dialects/model.js';
import type { Page } from '../page/page.js';

/** The merge tags of a page, by where they begin. */
export function tagsByStart(page: Page): ReadonlyMap<number, MergeTag> {
  const own = page.input.tags.filter(({ place }) => place.source === page.doc.source);
  return new Map(own.map((tag) => [tag.place.span.start, tag]));
}

/** The tag of a number in the sentinels of the page. */
export function tagNumbered(page: Page, number: number): MergeTag | null {
  return tagsByStart(page).get(page.doc.tags[number]?.start ?? -1) ?? null;
}

/** The field that a tag prints without anything in its place where it is empty; null where it prints no such. */
export function bareField(tag: MergeTag | null): string | null {
  if (tag?.kind !== 'output') return null;
  let value: Expression = tag.value;
  while (value.kind === 'filter' && value.name !== 'default') value = value.value;
  if (value.kind !== 'path') return null;
  const name = value.segments.join('.');
  return /^(?:link|sender|date)\./.test(name) ? null : name;
}

/** The system value that a tag prints: `link.unsubscribe`; null where it prints none. */
export function systemValueOf(tag: MergeTag | null): string | null {
  if (tag?.kind !== 'output' || tag.value.kind !== 'path') return null;
  const name = tag.value.segments.join('.');
  return /^(?:link|sender|date)\./.test(name) ? name : null;
}

/** The fields that are asked after around a tag: what stands in a block that is there only where they are given. */
function guardedAt(tags: readonly MergeTag[], tag: MergeTag): ReadonlySet<string> {
  const open: (string | null)[] = [];
  for (const other of tags) {
    if (other === tag) break;
    if (other.kind === 'if') open.push(pathIn(other.condition));
    else if (other.kind === 'each') open.push(other.item);
    else if (other.kind === 'else' || other.kind === 'else-if') {
      open.pop();
      open.push(other.kind === 'else-if' ? pathIn(other.condition) : null);
    } else if (other.kind === 'end') open.pop();
  }
  return new Set(open.flatMap((name) => (name === null ? [] : [name])));
}

function pathIn(expression: Expression): string | null {
  if (expression.kind === 'path') return expression.segments.join('.');
  return expression.kind === 'exists' ? pathIn(expression.value) : null;
}

/** Whether a tag stands where its field is asked after first. */
export function isGuarded(page: Page, tag: MergeTag, field: string): boolean {
  const guards = guardedAt(page.input.tags, tag);
  return guards.has(field) || guards.has(field.split('.')[0] ?? '');
}

/** Whether the project says what stands for a field that is empty. */
export function hasDeclaredFallback(page: Page, field: string): boolean {
  const declared = page.input.project?.fields.get(field) ?? null;
  return declared !== null && (declared.fallback !== null || declared.type === 'number');
}
