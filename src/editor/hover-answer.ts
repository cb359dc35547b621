import { MarkupKind, type Hover } from 'vscode-languageserver/node';
import { describeFinding } from '../core/editor/hover.js';
import type { Finding } from '../core/findings/finding.js';
import { hoverAt } from '../project/editor/hover-at.js';
import type { ClientAbilities } from './client-abilities.js';
import { rangeOf } from './places.js';
import type { Spot } from './workspace.js';

/** What an editor shows of a place: what it is, and what is wrong with it. */
export async function hoverAnswer(
  { project: { index }, path, offset }: Spot,
  findings: readonly Finding[],
  texts: ReadonlyMap<string, string>,
  { markdown }: ClientAbilities,
): Promise<Hover | null> {
  const source = await index.source(path);
  if (source === null) return null;
  const here = findings.filter(
    ({ place }) =>
      place !== null && place.source.text === source.text && place.span.start <= offset && offset <= place.span.end,
  );
  const known = await hoverAt(index, path, offset, texts);
  const why = here.length === 0 ? new Map<string, string>() : await reasonsWhy();
  const pieces = [
    ...(known === null ? [] : [known.text]),
    ...here.map((item) => describeFinding(item, why.get(item.code) ?? null)),
  ];
  const span = known?.span ?? here[0]?.place?.span;
  if (pieces.length === 0 || span === undefined) return null;
  const text = pieces.join('\n\n---\n\n');
  const value = markdown ? text : text.replace(/\*\*|`|\\(?=<)/g, '');
  return {
    contents: { kind: markdown ? MarkupKind.Markdown : MarkupKind.PlainText, value },
    range: rangeOf(source, span),
  };
}

/** Why the rules of the check matter, by their codes. */
async function reasonsWhy(): Promise<ReadonlyMap<string, string>> {
  const { allRules } = await import('../core/check/all-rules.js');
  return new Map(allRules.map(({ code, why }) => [code, why]));
}
