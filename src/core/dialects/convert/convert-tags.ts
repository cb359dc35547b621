import { conversionNote } from '../../findings/wording/conversions.js';
import { dialectAdvice } from '../../findings/wording/dialects.js';
import { finding, isError, reasonOf, type Finding, type Report } from '../../findings/finding.js';
import type { SourceText } from '../../text/source-text.js';
import type { Span } from '../../text/span.js';
import { patternOf, platformFieldName, type Dialect } from '../dialect.js';
import { systemValues, type MergeFields, type MergeTag } from '../model.js';
import { printNeutralTag, unsayableName } from '../write/print-neutral.js';
import { checkBlocks } from '../read/read-neutral.js';
import { scanTags } from '../read/scan-tags.js';
import { placeTags, type ConvertedPiece } from './place-tags.js';
import { isTakenOut, type ChangeEntry, type SourceEdit } from './source-edit.js';
import { fieldsIn, loopedIn } from '../tag-facts.js';
import { foreignFinding, foreignOwners, foreignTags, readTags } from '../read/foreign-tags.js';
import { tagsInDialect } from '../write/write-tags.js';
import { tagsAsWritten, type LossAnswers, type TagTexts } from '../write/tag-texts.js';

/** What became of a tag. */
export interface ConvertedTag {
  /** A merge tag, or what else stands in a report: the mark of a region, a block that is put in or taken out. */
  readonly kind: 'tag' | ChangeEntry['kind'];
  readonly span: Span;
  readonly from: string;
  readonly to: string;
  readonly verdict: ConversionVerdict;
  readonly message: string;
}

/** From good to bad. */
export const conversionVerdicts = [
  'exact',
  'rewritten',
  'repaired',
  'removed',
  'assumed',
  'loss',
  'unknown',
  'foreign',
] as const;

export type ConversionVerdict = (typeof conversionVerdicts)[number];

/** A text in another dialect. */
export interface Conversion {
  /** Null where something cannot be said, or cannot be read. */
  readonly text: string | null;
  readonly tags: readonly ConvertedTag[];
  /** The new text in pieces, each with the number of the entry that it comes from; also where it is refused. */
  readonly pieces: readonly ConvertedPiece[];
  /** The neutral names of the recipient's fields that it uses, and of those the lists that it loops over. */
  readonly fields: readonly string[];
  readonly lists: readonly string[];
}

/** What a conversion needs to know besides its text. */
export interface ConversionSetting {
  readonly from: Dialect;
  readonly to: Dialect;
  /** The other dialects that are known, by which left-over tags are found. */
  readonly others: readonly Dialect[];
  /** What the project declares of its fields. */
  readonly fields: MergeFields;
  /** What stands for what the target cannot say; null where that is an error. */
  readonly answers: LossAnswers | null;
  /** Changes besides the tags. */
  readonly edits?: readonly SourceEdit[];
}

/**
 * Converts the merge tags of a text from one dialect to another; every byte outside of them stays. Blocks must be closed, tags
 * must be known, and none of another dialect may be left over. To the same dialect the text stays as it is.
 */
export function convertTags(source: SourceText, setting: ConversionSetting, report: Report): Conversion {
  const { from, to } = setting;
  const others = [...setting.others, to].filter(({ name }) => name !== from.name);
  const { found, collect } = collectFindings(foreignOwners(source, others), setting, report);
  const { edits = [] } = setting;
  if (from.name === to.name && edits.length === 0) return unchanged(source, setting);
  const all = readTags(source, from, setting.fields, collect);
  const read = all.filter(({ tag }) => !isTakenOut(tag.place.span, edits));
  const tags = read.map(({ tag }) => tag);
  if (!checkBlocks(tags, collect)) return { text: null, tags: [], pieces: [], fields: [], lists: [] };
  const texts = from.name === to.name ? tagsAsWritten(tags) : textsIn(tags, setting, collect);
  if (from.name !== to.name) reportTagLikeTexts(tags, to, collect);
  const spans = all.map(({ tag }) => tag.place.span);
  const foreign = foreignTags(source, [...spans, ...edits.map(({ span }) => span)], others).map((tag): ConvertedTag => {
    const item = foreignFinding(source, tag);
    collect(item);
    const text = source.slice(tag.span);
    return { kind: 'tag', span: tag.span, from: text, to: text, verdict: 'foreign', message: reasonOf(item) };
  });
  const { written, pieces } = placeTags(source, read, texts, setting);
  const recipients = new Set(recipientFields(tags));
  const findingAt = new Map(
    [...found].reverse().flatMap((item) => (item.place === null ? [] : [[item.place.span.start, item] as const])),
  );
  const converted = read.map(({ tag, verdict, note, markup }, index): ConvertedTag => {
    const verdicts: ConversionVerdict[] = [verdict, texts.verdict(index)];
    const own = findingAt.get(tag.place.span.start);
    if (tag.kind === 'broken') verdicts.push(own?.code === 'tag-foreign' ? 'foreign' : 'unknown');
    if (own?.code === 'merge-loss') verdicts.push('loss');
    const said = [note, texts.note(index) || (own === undefined ? '' : reasonOf(own))].filter((part) => part !== '');
    const message = said.length > 0 ? said : namesByRule(tag, to, recipients);
    return {
      kind: 'tag',
      span: tag.place.span,
      from: source.slice(tag.place.span),
      to: (written[index] ?? '') + markup,
      verdict: worst(verdicts),
      message: message.join('; '),
    };
  });
  const edited = edits.flatMap(({ span, text, entry }): ConvertedTag[] =>
    entry === null ? [] : [{ span, from: source.slice(span), to: text, ...entry }],
  );
  const entries = [...converted, ...edited, ...foreign].sort((a, b) => a.span.start - b.span.start);
  const text = found.some(isError) ? null : pieces.map((piece) => piece.text).join('');
  return { text, tags: entries, pieces, fields: recipientFields(tags), lists: [...loopedIn(tags)] };
}

/** Reports what is found in a conversion, once for each thing that is wrong, and keeps it. */
function collectFindings(
  ownerOf: ReturnType<typeof foreignOwners>,
  { answers }: ConversionSetting,
  report: Report,
): { readonly found: readonly Finding[]; readonly collect: Report } {
  const found: Finding[] = [];
  const saidAt = new Set<number>();
  // The end of a block that another dialect opens is no second mistake.
  const isForeignEnd = ({ code, data: { opened } }: Finding): boolean =>
    code === 'merge-crossed' && found.some((other) => other.code === 'tag-foreign' && other.data['tag'] === opened);
  const asTold = (item: Finding): Finding => {
    if (item.code !== 'tag-unknown') return item;
    const owner = ownerOf(item);
    if (owner !== null)
      return finding('tag-foreign', item.place, { tag: item.data['tag'] ?? '', dialect: owner.title });
    // Where losses are allowed, a tag that nobody knows is left out; everywhere else it is an error.
    return answers === null ? item : { ...item, code: 'tag-unknown-removed' };
  };
  const collect = (item: Finding): void => {
    if (/^merge-loss/.test(item.code) && saidAt.has(item.place?.span.start ?? -1)) return;
    if (isForeignEnd(item)) return;
    const told = asTold(item);
    found.push(told);
    if (item.place !== null) saidAt.add(item.place.span.start);
    report(told);
  };
  return { found, collect };
}

function unchanged(source: SourceText, { from, fields }: ConversionSetting): Conversion {
  const tags = readTags(source, from, fields, () => undefined).map(({ tag }) => tag);
  const entries = tags.map(({ place: { span } }): ConvertedTag => {
    const text = source.slice(span);
    return { kind: 'tag', span, from: text, to: text, verdict: 'exact', message: '' };
  });
  const used = { fields: recipientFields(tags), lists: [...loopedIn(tags)] };
  return { text: source.text, tags: entries, pieces: [{ text: source.text, from: null }], ...used };
}

/** Fields of a tag whose names on the platform nobody has said, in words; none where names stay as they are. */
function namesByRule(tag: MergeTag, to: Dialect, recipients: ReadonlySet<string>): string[] {
  if (to.verbatim || to.fieldCase === 'as-is') return [];
  return recipientFields([tag])
    .filter((name) => recipients.has(name) && !Object.hasOwn(to.fieldNames, name))
    .map((name) => conversionNote.calledByRule(name, platformFieldName(to, name)));
}

/** The first names of the paths in tags that are neither system values nor items of loops. */
function recipientFields(tags: readonly MergeTag[]): string[] {
  return [...fieldsIn(tags)].filter(
    (name) => ![...systemValues.keys()].some((system) => system.startsWith(`${name}.`)),
  );
}

function worst(verdicts: readonly ConversionVerdict[]): ConversionVerdict {
  return conversionVerdicts.findLast((verdict) => verdicts.includes(verdict)) ?? 'exact';
}

function textsIn(tags: readonly MergeTag[], { to, fields, answers }: ConversionSetting, report: Report): TagTexts {
  if (!to.verbatim) return tagsInDialect(tags, to, fields, report, answers);
  const lost = tags.map((tag) => {
    const name = unsayableName(tag);
    if (name === null) return false;
    const advice = dialectAdvice.renameField;
    report(finding('merge-loss', tag.place, { dialect: to.name, what: `a field with the name ${name}`, advice }));
    return true;
  });
  return {
    write: (index, context) => {
      const tag = tags[index];
      return tag === undefined || isUnwritable(tag) ? '' : printNeutralTag(tag, context === 'attribute' ? "'" : '"');
    },
    verdict: (index) => {
      const tag = tags[index];
      if (tag !== undefined && isUnwritable(tag)) return 'removed';
      return lost[index] === true ? 'loss' : 'exact';
    },
    note: () => '',
    removed: [],
  };
}

/** Texts that only look like tags, and would be tags of a target that has no way to say so. */
function reportTagLikeTexts(tags: readonly MergeTag[], to: Dialect, report: Report): void {
  if (to.verbatim || to.escape !== null || patternOf(to, 'literal') !== undefined) return;
  for (const tag of tags) {
    const isText = tag.kind === 'output' && tag.value.kind === 'text';
    const text = tag.kind === 'literal' ? tag.text : isText && tag.value.kind === 'text' ? tag.value.value : '';
    const [found] = scanTags(text, to).filter(({ kind }) => kind === 'tag' || kind === 'comment');
    if (found === undefined) continue;
    const data = {
      dialect: to.name,
      what: `the text ${text}, which is a tag of its own`,
      advice: dialectAdvice.leaveOut,
    };
    report(finding('merge-loss', tag.place, data));
  }
}

/** A comment that would end the neutral comment that it stands in; nobody misses it. */
function isUnwritable(tag: MergeTag): boolean {
  return tag.kind === 'comment' && tag.text.includes('}');
}
