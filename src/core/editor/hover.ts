import { enginesWithout, engineNames, type Feature } from '../engines/engine.js';
import { says } from '../engines/feature-match.js';
import { endsOf, type End } from '../layout/account/matrix.js';
import { judgeComputed, judgeDeclaration, type Unsupported } from '../layout/account/support.js';
import { expandShorthand } from '../css/values/shorthands.js';
import type { CssItem, Declaration } from '../css/syntax/css-items.js';
import { fixOf, reasonOf, type Finding } from '../findings/finding.js';
import { pathsIn } from '../expressions/expression.js';
import { expressionsOf } from '../dialects/tag-facts.js';
import { spanAt, type Span } from '../text/span.js';
import type { DataShape } from './data-shape.js';
import type { MarkupFile } from './markup-file.js';
import { followPath, type FileScope, type PartFacts, type ProjectFacts } from './project-facts.js';
import { buildScope, mergeScope } from './scope-at.js';

/** A value that an offset stands in: what it is called, and what is known of it. */
export interface ValueAt {
  /** The path up to it, as it is written. */
  readonly path: string;
  readonly span: Span;
  readonly shape: DataShape;
}

/** The build value or merge field whose name an offset stands in. */
export function valueAt(file: MarkupFile, offset: number, scope: FileScope, facts: ProjectFacts): ValueAt | null {
  const holds = ({ span }: { readonly span: Span }): boolean => span.start <= offset && offset <= span.end;
  const tag = file.mergeTags.findIndex(({ place }) => holds(place));
  const merge = tag < 0 ? [] : expressionsOf(file.mergeTags[tag]).flatMap(pathsIn).filter(holds);
  const build = file.expressions.flatMap(pathsIn).filter(holds);
  const [path] = [...merge, ...build];
  if (path === undefined) return null;
  const values = merge.length > 0 ? mergeScope(file, tag, facts) : buildScope(file, path.span.start, scope, facts);
  const found = followPath(path.segments, (name) => values.get(name) ?? null);
  const written = file.source.slice(path.span);
  let at = 0;
  for (const [index, segment] of path.segments.entries()) {
    const from = written.indexOf(segment, at);
    at = from + segment.length;
    const shape = found[index];
    if (offset > path.span.start + at) continue;
    if (shape === undefined || from < 0) return null;
    return {
      path: path.segments.slice(0, index + 1).join('.'),
      span: spanAt(path.span.start + from, segment.length),
      shape,
    };
  }
  return null;
}

/** What is known of a value, in Markdown. */
export function describeValueAt({ path, shape }: ValueAt, nameOf: (path: string) => string): string {
  const lines = [`**${path}**${shape.sample === null ? '' : `: ${shape.sample}`}`];
  const { fields, item } = shape;
  const holds = fields.size > 0 ? fields : item?.fields;
  if (holds !== undefined && holds.size > 0)
    lines.push(
      '',
      ...[...holds.values()].map(({ name, sample }) => `- \`${name}\`${sample === null ? '' : `: ${sample}`}`),
    );
  const [place] = shape.places;
  if (place !== undefined) lines.push('', `from ${nameOf(place.source.name)}`);
  return lines.join('\n');
}

/** What a part is and accepts, in Markdown. */
export function describeUse(part: PartFacts): string {
  const { tag, accepts, slots, says: comment } = part;
  const values = accepts.map(
    ({ name, fallback }) => `- \`${name}\`: ${fallback === null ? 'needed' : `"${fallback}" where it is not given`}`,
  );
  const named = slots.filter((name) => name !== '').map((name) => `- \`slot="${name}"\``);
  const content = slots.includes('') ? ['', 'What stands in it goes into the part.'] : [];
  return [`**\\<${tag}>**${comment === '' ? '' : `: ${comment}`}`, '', ...values, ...named, ...content].join('\n');
}

/** The declaration that an offset stands in. */
export function declarationAt(items: readonly CssItem[], offset: number): Declaration | null {
  for (const item of items) {
    const { start, end } = item.place.span;
    if (offset < start || offset > end) continue;
    if (item.kind === 'declaration') return item;
    return declarationAt(item.items ?? [], offset);
  }
  return null;
}

const endWords: Readonly<Record<End, string>> = {
  carried: 'carried',
  'by value': 'carried or refused, as its value asks for',
  'without effect': 'without effect',
  'left out': 'left out, with a note',
  refused: 'refused',
};

/** What becomes of a declaration in tables, and which engines show it, in Markdown. */
export function describeDeclaration({ property, value }: Declaration, features: readonly Feature[]): string {
  const isCarried = judgedOn(property, value) === null;
  const told = [...inTables(property, value), ...inEngines(property, value, isCarried, features)];
  return [`**${property}: ${value}**`, '', ...told].join('\n').trim();
}

/** Why tables cannot have a declaration; null where they can. */
function judgedOn(property: string, value: string): Unsupported | null {
  const computed = expandShorthand(property, value).map(([name, own]) => judgeComputed(name, own));
  return judgeDeclaration(property, value, 'div') ?? computed.find((found) => found !== null) ?? null;
}

function inTables(property: string, value: string): string[] {
  const judged = judgedOn(property, value);
  if (judged !== null) {
    const what =
      judged.verdict === 'refused' ? 'has no equal in tables, and is refused.' : 'is left out of the layout.';
    return [`It ${what} ${judged.advice}`.trimEnd(), ''];
  }
  const [first] = expandShorthand(property, value);
  const ends = endsOf(first?.[0] ?? property);
  if (ends === null) return [];
  const groups = new Map<End, string[]>();
  for (const [kind, end] of Object.entries(ends)) groups.set(end, [...(groups.get(end) ?? []), kind]);
  const [only] = groups.keys();
  if (groups.size === 1 && only !== undefined) return [`In tables it is ${endWords[only]}.`, ''];
  const told = [...groups].map(([end, kinds]) => `- ${endWords[end]}: ${kinds.join(', ')}`);
  return ['What becomes of it in tables, by the kind of box:', '', ...told, ''];
}

/** @param isCarried whether what is built has the same in tables, for all engines */
function inEngines(property: string, value: string, isCarried: boolean, features: readonly Feature[]): string[] {
  const found = features.filter(({ kind, name }) => kind === 'properties' && says(property, value, name));
  return found.flatMap((feature) => {
    const { name, happens, instead, support } = feature;
    const without = enginesWithout(feature);
    const partly = engineNames.filter((engine) => support[engine] === 'partly');
    const some = partly.length === 0 ? '' : ` (partly in ${partly.join(', ')})`;
    if (without.length === 0) return [`Every engine knows \`${name}\`${some}.`, ''];
    const lost = `Sent as it is written, \`${name}\` does not work in ${without.join(', ')}${some}. ${happens} there.`;
    return [`${lost} ${isCarried ? 'What is built does not need it.' : instead}`, ''];
  });
}

/** A finding with its remedy, and why it matters where that is known, in Markdown. */
export function describeFinding(item: Finding, why: string | null): string {
  return [`**${item.code}**: ${reasonOf(item)}`, '', fixOf(item), ...(why === null ? [] : ['', why])].join('\n');
}
