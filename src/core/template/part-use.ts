import { templateAdvice } from '../findings/wording/templates.js';
import { adviceForName, finding, type Place, type Report } from '../findings/finding.js';
import { nearestName } from '../text/nearest.js';
import type { SourceText } from '../text/source-text.js';
import type { Part, PartNode, TemplateNode } from './nodes.js';

/** Checks a use of a part against what the part accepts: its values, its slots, its root element. */
export function checkPartUse(node: PartNode, part: Part, place: Place, report: Report): void {
  const { tag } = part;
  if (node.regionAttributes.length > 0 && !part.hasRoot) report(finding('part-no-root', place, { tag }));
  checkValues(node, part, place, report);
  checkSlots(node, part, place, report);
}

/** Says that there is no such part, and which there are. */
export function reportUnknownPart(tag: string, known: readonly string[], place: Place, report: Report): void {
  const nearest = nearestName(tag, known);
  const others = known.length > 0 ? ` Known are: ${known.map((name) => `<${name}>`).join(', ')}.` : '';
  const advice = nearest === null ? templateAdvice.writePart(tag, others) : `Did you mean <${nearest}>?`;
  report(finding('unknown-part', place, { tag, advice }));
}

function checkValues(node: PartNode, { tag, accepts }: Part, place: Place, report: Report): void {
  const given = new Set(node.values.map(({ name }) => name));
  const missing = accepts.filter(({ name, fallback }) => fallback === null && !given.has(name.toLowerCase()));
  if (missing.length > 0) {
    const names = missing.map(({ name }) => name).join('", "');
    const example = `<${tag}${missing.map(({ name }) => ` ${name}="…"`).join('')}>`;
    report(finding('part-value-missing', place, { tag, names, example }));
  }
  const known = accepts.map(({ name }) => name);
  for (const { name, span } of node.values) {
    if (known.some((accepted) => accepted.toLowerCase() === name)) continue;
    const advice = adviceForName(nearestName(name, known), known, templateAdvice.noValues);
    report(finding('part-value-unknown', { source: place.source, span }, { tag, name, advice }));
  }
}

function checkSlots(node: PartNode, { tag, template }: Part, place: Place, report: Report): void {
  for (const [name, nodes] of node.slots) {
    if (template.slots.includes(name)) continue;
    if (name === '') {
      if (!nodes.every((child) => isNothing(child, place.source))) report(finding('part-no-slot', place, { tag }));
      continue;
    }
    const known = template.slots.filter((slot) => slot !== '');
    const advice = adviceForName(nearestName(name, known), known, templateAdvice.noSlots);
    const [first] = nodes;
    const span = first?.kind === 'slotted' ? first.span : place.span;
    report(finding('slot-unknown', { source: place.source, span }, { tag, name, advice }));
  }
}

/** White space and comments. */
export function isNothing(node: TemplateNode, source: SourceText): boolean {
  if (node.kind !== 'text') return false;
  const text = source.slice(node.span).replace(/<!--[\s\S]*?-->/g, '');
  return text.trim() === '';
}
