import { dialectAdvice } from '../../findings/wording/dialects.js';
import { adviceForName, finding, type Place, type Report } from '../../findings/finding.js';
import { nearestName } from '../../text/nearest.js';
import type { SourceText } from '../../text/source-text.js';
import { spanAt, type Span } from '../../text/span.js';
import { parseExpressionInHtml, partsOf, pathsIn, type Expression } from '../../expressions/expression.js';
import { systemValues, type MergeFields, type MergeTag } from '../model.js';

/** Reads merge tags of the neutral notation. One that cannot be read is reported, and is `broken` in the list. */
export function readNeutralTags(source: SourceText, spans: readonly Span[], report: Report): MergeTag[] {
  return spans.map((span) => readTag(source, span, report));
}

function readTag(source: SourceText, span: Span, report: Report): MergeTag {
  const place = { source, span };
  const written = source.slice(span);
  if (written === '@@{') return { kind: 'literal', text: '@{', place };
  const inner = written.slice(2, -1);
  const offset = span.start + 2;
  const comment = /^\s*#/.exec(inner);
  if (comment !== null) return { kind: 'comment', text: inner.slice(comment[0].length).trim(), place };
  const block = readBlockTag(source, inner, offset, place, report);
  if (block !== null) return block;
  const raw = /^\s*\+/.exec(inner)?.[0].length ?? 0;
  const value = expressionAt(source, inner.slice(raw), offset + raw, report);
  return value === null ? { kind: 'broken', place } : { kind: 'output', value, raw: raw > 0, place };
}

function readBlockTag(
  source: SourceText,
  inner: string,
  offset: number,
  place: Place,
  report: Report,
): MergeTag | null {
  if (/^\s*else\s*$/.test(inner)) return { kind: 'else', place };
  if (/^\s*end\s*$/.test(inner)) return { kind: 'end', place };
  const conditional = /^\s*(if|else\s+if)\s+/.exec(inner);
  if (conditional !== null) {
    const at = conditional[0].length;
    const condition = expressionAt(source, inner.slice(at), offset + at, report);
    if (condition === null) return { kind: 'broken', place };
    return { kind: conditional[1] === 'if' ? 'if' : 'else-if', condition, place };
  }
  const each = /^(\s*each\s+)(.*?)\s+as\s+([A-Za-z_]\w*)\s*$/s.exec(inner);
  if (each !== null) {
    const list = expressionAt(source, each[2] ?? '', offset + (each[1] ?? '').length, report);
    return list === null ? { kind: 'broken', place } : { kind: 'each', list, item: each[3] ?? '', place };
  }
  if (/^\s*each\b/.test(inner)) {
    report(finding('merge-syntax', place, { detail: dialectAdvice.loopTag }));
    return { kind: 'broken', place };
  }
  return null;
}

function expressionAt(source: SourceText, text: string, offset: number, report: Report): Expression | null {
  const { expression, error } = parseExpressionInHtml(source, spanAt(offset, text.length));
  if (error !== null) report(finding('merge-syntax', { source, span: error.span }, { detail: error.detail }));
  const sum = expression === null ? null : firstArithmetic(expression);
  if (sum !== null) report(finding('merge-arithmetic', { source, span: sum.span }));
  return sum === null ? expression : null;
}

/** Platforms fill in, they do not calculate. */
function firstArithmetic(expression: Expression): Expression | null {
  if (expression.kind === 'arithmetic') return expression;
  for (const part of partsOf(expression)) {
    const found = firstArithmetic(part);
    if (found !== null) return found;
  }
  return null;
}

/** Blocks are written by recursion; no message nests them nearly so deep. */
const DEEPEST_BLOCK = 200;

/**
 * Checks that blocks open and close in order, and reports where they do not.
 * @returns false where they are nested so deep that they cannot be written
 */
export function checkBlocks(tags: readonly MergeTag[], report: Report): boolean {
  const open: MergeTag[] = [];
  for (const tag of tags) {
    if (tag.kind === 'if' || tag.kind === 'each') open.push(tag);
    if (open.length > DEEPEST_BLOCK) {
      report(finding('merge-deep', tag.place, { most: String(DEEPEST_BLOCK) }));
      return false;
    }
    if (tag.kind === 'end' && open.pop() === undefined) stray(tag, report);
    if ((tag.kind === 'else' || tag.kind === 'else-if') && open.length === 0) stray(tag, report);
    if (tag.kind === 'else-if' && open[open.length - 1]?.kind === 'each') stray(tag, report);
  }
  for (const tag of open) report(finding('merge-unclosed', tag.place, { tag: tag.place.source.slice(tag.place.span) }));
  return true;
}

function stray(tag: MergeTag, report: Report): void {
  report(finding('merge-stray', tag.place, { tag: tag.place.source.slice(tag.place.span) }));
}

/** Reports names in tags that neither the project nor a loop around declares. */
export function checkNames(
  tags: readonly MergeTag[],
  fields: MergeFields,
  buildNames: ReadonlySet<string>,
  report: Report,
): void {
  const known: KnownNames = { fields, buildNames };
  const items: string[] = [];
  const blocks: MergeTag[] = [];
  for (const tag of tags) {
    if (tag.kind === 'output') checkExpression(tag.value, tag, known, items, report);
    if (tag.kind === 'if' || tag.kind === 'else-if') checkExpression(tag.condition, tag, known, items, report);
    if (tag.kind === 'if' || tag.kind === 'each') blocks.push(tag);
    if (tag.kind === 'each') {
      checkExpression(tag.list, tag, known, items, report);
      items.push(tag.item);
    }
    if (tag.kind === 'end' && blocks.pop()?.kind === 'each') items.pop();
  }
}

interface KnownNames {
  readonly fields: MergeFields;
  readonly buildNames: ReadonlySet<string>;
}

function checkExpression(
  expression: Expression,
  tag: MergeTag,
  { fields, buildNames }: KnownNames,
  items: readonly string[],
  report: Report,
): void {
  for (const path of pathsIn(expression)) {
    const name = path.segments.join('.');
    const first = path.segments[0] ?? '';
    if (items.includes(first) || systemValues.has(name)) continue;
    const place = { source: tag.place.source, span: path.span };
    if (/^(?:link|sender|date)$/.test(first) && path.segments.length > 1) {
      const known = [...systemValues.keys()];
      report(
        finding('unknown-system-value', place, { name, advice: adviceForName(nearestName(name, known), known, '') }),
      );
    } else if (!fields.has(first)) {
      const known = [...fields.keys(), ...items];
      const advice = buildNames.has(first)
        ? dialectAdvice.knownWhenBuilt(name)
        : dialectAdvice.declareField(adviceForName(nearestName(first, known), known, ''));
      report(finding('unknown-field', place, { name: first, advice: advice.trim() }));
    }
  }
}

/** Gives tags that print a field, and say no fallback, the fallback that the project declares for the field. */
export function withDeclaredFallbacks(tags: readonly MergeTag[], fields: MergeFields): MergeTag[] {
  return tags.map((tag) => {
    if (tag.kind !== 'output' || tag.value.kind !== 'path' || tag.value.segments.length !== 1) return tag;
    const fallback = fields.get(tag.value.segments[0] ?? '')?.fallback ?? null;
    if (fallback === null) return tag;
    const { span } = tag.value;
    return {
      ...tag,
      value: { kind: 'fallback', value: tag.value, otherwise: { kind: 'text', value: fallback, span }, span },
    };
  });
}
