import { maskedSource } from '../../html/mask.js';
import { openEnd, type OpenEnd, type OpenTag } from '../../html/structure/open-end.js';
import { regionAttributes, regionKinds } from '../../html/regions.js';
import { media } from '../../template/nodes.js';
import { isPartTag } from '../../template/read-template.js';
import { metadataKeys } from '../../template/message-template.js';
import type { Span } from '../../text/span.js';
import { asSnippet, completeBuildValue, completeMergeTag, openExpression } from './complete-expression.js';
import { nothingOffered, offered, type Completion, type CompletionKind, type Offer } from './completion.js';
import type { MarkupFile } from '../markup-file.js';
import type { FileScope, PartFacts, ProjectFacts } from '../project-facts.js';
import { buildScope, mergeScope } from '../scope-at.js';

/** What a place in a file of markup is completed with. */
export interface MarkupSetting {
  readonly file: MarkupFile;
  readonly scope: FileScope;
  readonly facts: ProjectFacts;
}

/** What may be written at an offset of a message, a part or a frame. */
export function completeMarkup(setting: MarkupSetting, offset: number): Offer {
  const { file } = setting;
  const before = file.source.text.slice(0, offset);
  const expression = openExpression(before);
  if (expression !== null) return offered(inExpression(setting, before, expression));
  const masked = maskedSource(before);
  return atOpenEnd(setting, openEnd(masked), before);
}

function inExpression(
  setting: MarkupSetting,
  before: string,
  { kind, start }: { readonly kind: 'build' | 'merge'; readonly start: number },
): Completion[] {
  const { file, scope, facts } = setting;
  const written = before.slice(start);
  const offset = before.length;
  if (kind === 'build') return completeBuildValue(written, offset, buildScope(file, offset, scope, facts));
  const isBefore = file.mergeTags.filter(({ place }) => place.span.end <= start).length;
  return completeMergeTag(written, offset, mergeScope(file, isBefore, facts));
}

function atOpenEnd(setting: MarkupSetting, open: OpenEnd, before: string): Offer {
  switch (open.kind) {
    case 'text':
    case 'comment':
    case 'style':
      return nothingOffered;
    case 'tag':
      return offered(open.isEnd ? endTags(setting, before, open.start) : startTags(setting, before, open.start));
    case 'attribute':
      return offered(attributeNames(setting, open, before));
    case 'value':
      return attributeValues(setting, open, before);
  }
}

/** Tags of the project; those of HTML every editor knows. */
function startTags({ file, facts, scope }: MarkupSetting, before: string, start: number): Completion[] {
  const span = { start, end: before.length };
  const behind = file.source.text.slice(before.length);
  // Where attributes follow already, the name alone is written.
  const isAlone = /^[^\S\n]*(?:[\r\n<]|$)/.test(behind);
  const parts = [...facts.parts.values()].map((part): Completion => ({
    label: part.tag,
    kind: 'part',
    detail: describePart(part),
    insert: isAlone ? wholeUse(part) : part.tag,
    span,
  }));
  const own = scope.part === null ? [] : [word('slot', 'where what stands in a use of the part goes', span)];
  return [...parts, word('template', 'content that is repeated, chosen, or for one version alone', span), ...own];
}

function word(label: string, detail: string, span: Span, kind: CompletionKind = 'word'): Completion {
  return { label, kind, detail, insert: asSnippet(label), span };
}

/** What a part accepts, and what it is. */
function describePart({ accepts, says }: PartFacts): string {
  const takes = accepts.map(({ name, fallback }) => (fallback === null ? name : `${name}="${fallback}"`)).join(' ');
  return [takes, says].filter((text) => text !== '').join(' – ');
}

/** A use of a part with all that it must be given, and a place for what stands in it. */
function wholeUse({ tag, accepts, slots }: PartFacts): string {
  const needed = accepts.filter(({ fallback }) => fallback === null);
  const values = needed.map(({ name }, index) => ` ${name}="$${index + 1}"`).join('');
  return `${tag}${values}>${slots.includes('') ? '$0' : ''}</${tag}>`;
}

/** The element that is open. */
function endTags({ file }: MarkupSetting, before: string, start: number): Completion[] {
  const open = file.elements.findLast(
    ({ startTag, endTag, span }) =>
      startTag !== null && startTag.end <= start && (endTag === null ? (span?.end ?? 0) : endTag.start) >= start - 2,
  );
  return open === undefined ? [] : [word(open.tag, 'closes the element', { start, end: before.length })];
}

const templateAttributes: readonly (readonly [string, string, string])[] = [
  ['each', 'each="${1:item} of ${2:list}"', 'repeats the content for each item of a list'],
  ['if', 'if="$1"', 'keeps the content where this holds'],
  ['else', 'else', 'keeps the content where what comes before does not hold'],
  ['for', 'for="$1"', 'keeps the content for one version: word, html or text'],
];

const ownAttributes: readonly (readonly [string, string])[] = [
  ['region', 'makes the element editable on the platform, under this name'],
  ['region-kind', 'what users edit in the region'],
  ['region-repeat', 'lets users duplicate the region'],
  ['region-choice', 'regions of the same choice are alternatives'],
  ['region-label', 'what users see as the name of the region'],
  ['data-text', 'what the plain-text version says in its place; empty leaves it out'],
  ['data-raw', 'switches layout off within the element'],
];

function attributeNames(
  { facts, file }: MarkupSetting,
  open: OpenTag & { start: number },
  before: string,
): Completion[] {
  const span = { start: open.start, end: before.length };
  const behind = /^[^<>]*/.exec(file.source.text.slice(before.length))?.[0] ?? '';
  const isFree = (name: string): boolean =>
    !open.attributes.has(name) && !new RegExp(`(?:^|\\s)${name}(?=[\\s=]|$)`).test(behind);
  const item = (name: string, detail: string, insert = `${name}="$1"`): Completion[] =>
    isFree(name) ? [{ label: name, kind: 'attribute', detail, insert, span }] : [];
  const part = facts.parts.get(open.tag);
  const accepted = (part?.accepts ?? []).flatMap(({ name, fallback }) =>
    item(name, fallback === null ? 'needed' : `"${fallback}" where it is not given`),
  );
  const ofTemplate =
    open.tag === 'template' ? templateAttributes.flatMap(([name, insert, says]) => item(name, says, insert)) : [];
  const around = partAround(file, open.start);
  const slot =
    around === null || (facts.parts.get(around)?.slots ?? []).every((name) => name === '')
      ? []
      : item('slot', `a slot of ${around}`);
  const isRegion = ({ 0: name }: readonly [string, string]): boolean =>
    !isPartTag(open.tag) || regionAttributes.has(name);
  const own = open.tag === 'template' ? [] : ownAttributes.filter(isRegion).flatMap(([name, says]) => item(name, says));
  return [...accepted, ...ofTemplate, ...slot, ...own];
}

/** The part whose content an element stands in directly. */
function partAround(file: MarkupFile, offset: number): string | null {
  const element = file.elements.findLast(
    ({ startTag, span }) => startTag !== null && startTag.end <= offset && (span?.end ?? Infinity) >= offset,
  );
  return element !== undefined && isPartTag(element.tag) ? element.tag : null;
}

type OpenValue = Extract<OpenEnd, { kind: 'value' }>;

function attributeValues(setting: MarkupSetting, open: OpenValue, before: string): Offer {
  const { file, facts, scope } = setting;
  const written = before.slice(open.start);
  const whole = { start: open.start, end: before.length };
  const words = (names: Iterable<string>, detail = '', kind: CompletionKind = 'word'): Offer =>
    offered([...names].map((name) => word(name, detail, whole, kind)));
  const files = (endings: RegExp): Offer => ({ items: [], files: { written, span: whole, endings } });
  const { tag, attribute } = open;
  if (attribute === 'class') return offered(classNames(facts, written, before.length));
  if (tag === 'template' && (attribute === 'if' || attribute === 'each')) {
    const isList = attribute === 'if' || /^\s*[A-Za-z_]\w*\s+of\s/.test(written);
    return isList
      ? offered(completeBuildValue(written, before.length, buildScope(file, before.length, scope, facts)))
      : nothingOffered;
  }
  if (tag === 'template' && attribute === 'for') return words(media);
  if (tag === 'meta' && attribute === 'name') return words([...metadataKeys, 'data', 'editions', 'edition-name']);
  if (tag === 'meta' && attribute === 'content') return metaValues(setting, open, words, files);
  if (attribute === 'region-kind') return words(regionKinds);
  if (attribute === 'slot')
    return words((facts.parts.get(partAround(file, open.start) ?? '')?.slots ?? []).filter((name) => name !== ''));
  if (tag === 'link' && attribute === 'href') return files(/\.css$/);
  if (attribute === 'src' || attribute === 'background' || attribute === 'poster') return files(pictureEndings);
  if (isPartTag(tag) && /^\.{0,2}\//.test(written)) return files(pictureEndings);
  return nothingOffered;
}

/** The endings of pictures. */
const pictureEndings = /\.(?:png|jpe?g|gif|webp|avif|svg)$/i;

/** The endings of data files. */
export const dataEndings = /\.(?:ya?ml|json|csv)$/;

function metaValues(
  { facts }: MarkupSetting,
  { attributes }: OpenTag,
  words: (names: Iterable<string>, detail?: string) => Offer,
  files: (endings: RegExp) => Offer,
): Offer {
  const name = (attributes.get('name') ?? '').toLowerCase();
  if (name === 'data' || name === 'editions') return files(dataEndings);
  if (name === 'attachment') return files(/./);
  return words(facts.said.get(name) ?? [], 'said by other messages');
}

function classNames({ classes }: ProjectFacts, written: string, end: number): Completion[] {
  const begun = /[^\s]*$/.exec(written)?.[0] ?? '';
  const given = new Set(written.split(/\s+/));
  const span = { start: end - begun.length, end };
  return [...classes].flatMap(([name, places]) => {
    const [first] = places;
    if (given.has(name) && name !== begun) return [];
    const at =
      first === undefined
        ? ''
        : `${first.source.name.split(/[\\/]/).pop()}:${first.source.lineColumn(first.span.start).line}`;
    return [{ label: name, kind: 'class' as const, detail: at, insert: name, span }];
  });
}
