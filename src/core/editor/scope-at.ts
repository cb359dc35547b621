import { systemValues } from '../dialects/model.js';
import { loopShape, plainShape, withOuter, type DataShape, type Shapes } from './data-shape.js';
import type { MarkupFile } from './markup-file.js';
import { followPath, type FileScope, type ProjectFacts } from './project-facts.js';
import type { Expression } from '../expressions/expression.js';

/** The build values that are seen at an offset of a file: those of the loops around it, inner ones first, then all others. */
export function buildScope(file: MarkupFile, offset: number, { values }: FileScope, { shared }: ProjectFacts): Shapes {
  let scope = withOuter(values, shared);
  for (const { item, itemSpan, list, content } of file.loops) {
    if (offset < content.start || offset > content.end) continue;
    const place = { source: file.source, span: itemSpan };
    scope = withOuter(new Map([[item, loopShape(item, place, shapeOf(list, scope))]]), scope);
  }
  return scope;
}

/** What an expression leads to, where it is a path. */
function shapeOf(expression: Expression | null, scope: Shapes): DataShape | null {
  if (expression?.kind !== 'path') return null;
  const found = followPath(expression.segments, (name) => scope.get(name) ?? null);
  return found.length === expression.segments.length ? (found[found.length - 1] ?? null) : null;
}

/** What a platform knows by itself, as values. */
const systemShapes: Shapes = groupedSystemValues();

function groupedSystemValues(): Shapes {
  const groups = new Map<string, Map<string, DataShape>>();
  for (const [path, says] of systemValues) {
    const [group = '', name = ''] = path.split('.');
    const fields = groups.get(group) ?? new Map<string, DataShape>();
    groups.set(group, fields.set(name, plainShape(`system:${path}`, name, says)));
  }
  return new Map(
    [...groups].map(([group, fields]) => [group, { ...plainShape(`system:${group}`, group, null), fields }]),
  );
}

/** The merge fields that are seen before the tag of a number: those of the project and of the loops that are open there. */
export function mergeScope({ mergeTags, source }: MarkupFile, before: number, { fields }: ProjectFacts): Shapes {
  let scope = withOuter(fields, systemShapes);
  const outer: (Shapes | null)[] = [];
  for (const tag of mergeTags.slice(0, before)) {
    if (tag.kind === 'if') outer.push(null);
    if (tag.kind === 'each') {
      outer.push(scope);
      const written = source.slice(tag.place.span);
      const start = tag.place.span.start + written.lastIndexOf(tag.item);
      const place = { source, span: { start, end: start + tag.item.length } };
      scope = withOuter(new Map([[tag.item, itemOf(tag.item, place, shapeOf(tag.list, scope))]]), scope);
    }
    if (tag.kind === 'end') scope = outer.pop() ?? scope;
  }
  return scope;
}

/** What a loop over a list of the recipient calls each item. */
function itemOf(name: string, place: DataShape['places'][number], list: DataShape | null): DataShape {
  const loop = loopShape(name, place, null);
  const item = list?.item ?? null;
  return { ...loop, fields: item?.fields ?? new Map(), item: item?.item ?? null, sample: item?.sample ?? null };
}
