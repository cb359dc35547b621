import { conversionNote } from '../../findings/wording/conversions.js';
import { finding, type Report } from '../../findings/finding.js';
import { findTags } from '../../html/tags.js';
import type { SourceText } from '../../text/source-text.js';
import { spanAt, type Span } from '../../text/span.js';
import {
  neutralFieldName,
  platformFieldName,
  spellingsOf,
  type Dialect,
  type Spelling,
  type TagConstruct,
} from '../dialect.js';
import type { Expression } from '../../expressions/expression.js';
import { pathSource } from '../grammar.js';
import { freeName, inventedItemName } from '../item-names.js';
import type { MergeFields, MergeTag } from '../model.js';
import { patternReader, piecesOf, type Filling, type PatternReader } from '../pattern.js';
import { readCondition, readValue, type PathResolver } from './read-expression.js';
import { readPath, type NameScope } from './read-path.js';
import { repairsOf, standsInAddress, withPlainSpaces, type RepairedTag } from './repair.js';
import { withDamagedTags } from './damaged-tags.js';
import { scanTags, type ScannedTag } from './scan-tags.js';
import { dataPath, itemShapeOf, shapeOf, type KnownData, type LoopItem } from '../shapes.js';
import { evidenceOf, type Evidence } from './evidence.js';

/** A tag of a dialect's text, and how it was come by. */
export interface ReadTag {
  readonly tag: MergeTag;
  readonly verdict: 'exact' | 'rewritten' | 'assumed' | 'repaired' | 'unknown';
  /** What there is to say about the verdict; empty where it needs no words. */
  readonly note: string;
  /** Markup that stood within the tag, to be written behind it. */
  readonly markup: string;
}

/**
 * Reads the tags of a text that is written in a dialect. A tag that the dialect's delimiters mark and its patterns do not
 * know is reported, as a recipient would read it; it is `broken` in the list. So are ends that do not fit their block.
 * @param fields what the project declares of its fields
 */
export function readDialectTags(source: SourceText, dialect: Dialect, fields: MergeFields, report: Report): ReadTag[] {
  return new DialectReader(source, dialect, fields, report).all();
}

type Fillings = ReadonlyMap<string, Filling>;

/** A block that is open. */
interface OpenBlock {
  readonly construct: 'if' | 'unless' | 'each' | 'case';
  /** What it is about, as it is written: some languages say it again where the block ends. */
  readonly label: string;
  /** Null in the part for an empty list, which has no item. */
  scope: NameScope | null;
  hasElse: boolean;
  readonly tag: ReadTag;
  /** Of a `case` what its parts are compared with, and the texts and numbers that have come up. */
  readonly compared?: Expression;
  readonly alternatives?: Set<string>;
}

const readers = new WeakMap<Dialect, Map<string, PatternReader>>();

class DialectReader {
  readonly #scanned: readonly ScannedTag[];
  readonly #evidence: Evidence;
  readonly #data: KnownData;
  readonly #open: OpenBlock[] = [];
  readonly #readers: Map<string, PatternReader>;
  #note = '';
  #verdict: ReadTag['verdict'] = 'exact';

  constructor(
    private readonly source: SourceText,
    private readonly dialect: Dialect,
    fields: MergeFields,
    private readonly report: Report,
  ) {
    this.#scanned = withDamagedTags(source.text, scanTags(source.text, dialect), dialect);
    this.#evidence = evidenceOf(this.#scanned, dialect);
    this.#data = { fields, looped: new Set() };
    this.#readers = readers.get(dialect) ?? new Map<string, PatternReader>();
    readers.set(dialect, this.#readers);
  }

  all(): ReadTag[] {
    const tags: ReadTag[] = [];
    for (let index = 0; index < this.#scanned.length;) {
      const divided = this.division(index) ?? this.caseOpening(index);
      const scanned = this.#scanned[index];
      if (scanned === undefined) break;
      const tag = divided?.tag ?? this.whole(scanned);
      if (tag !== null) tags.push(tag);
      index += divided?.length ?? 1;
    }
    return tags;
  }

  /** Null for what only resembled a tag. */
  private whole(scanned: ScannedTag): ReadTag | null {
    const place = { source: this.source, span: scanned.span };
    const plain = (tag: MergeTag): ReadTag => ({ tag, verdict: 'exact', note: '', markup: '' });
    if (scanned.kind === 'comment') return plain({ kind: 'comment', text: scanned.text, place });
    if (scanned.kind === 'literal') return plain({ kind: 'literal', text: scanned.text, place });
    if (scanned.kind === 'unclosed') {
      this.report(finding('dialect-tag-unclosed', place, { tag: scanned.text, dialect: this.dialect.title }));
      return plain({ kind: 'broken', place });
    }
    if (scanned.kind === 'damaged') return this.repaired(scanned);
    const spaced = withPlainSpaces(scanned.text);
    const read =
      (spaced === null ? null : this.mended(scanned, spaced)) ??
      this.attempt(scanned.text, scanned) ??
      this.repaired(scanned);
    if (read !== null) return read;
    this.report(
      finding('tag-unknown', place, { tag: this.source.slice(scanned.tagSpan), dialect: this.dialect.title }),
    );
    return this.unknownOpening(scanned, place) ?? plain({ kind: 'broken', place });
  }

  /** A block on a condition that cannot be read: its other tags still belong to it. */
  private unknownOpening({ text }: ScannedTag, place: MergeTag['place']): ReadTag | null {
    for (const construct of ['if', 'unless'] as const)
      for (const { fillings } of this.fits(construct, text)) {
        const condition: Expression = { kind: 'text', value: '', span: place.span };
        const tag = this.opened(construct, labelOf(fillings), null, { kind: 'if', condition, place });
        return { tag, verdict: 'unknown', note: '', markup: '' };
      }
    return null;
  }

  private repaired(scanned: ScannedTag): ReadTag | null {
    const { text } = this.source;
    for (const candidate of repairsOf(scanned.text, standsInAddress(text, scanned.span.start))) {
      const read = this.mended(scanned, candidate);
      if (read !== null) return read;
    }
    return null;
  }

  private mended(scanned: ScannedTag, { text, markup, damage }: RepairedTag): ReadTag | null {
    const read = this.attempt(text, scanned);
    if (read === null) return null;
    const data = { tag: this.source.slice(scanned.tagSpan), meant: text, damage };
    this.report(finding('tag-repaired', read.tag.place, data));
    return { ...read, verdict: 'repaired', note: damage, markup };
  }

  /** Reads one tag; what the attempt found out is kept only where it succeeds. */
  private attempt(text: string, scanned: ScannedTag): ReadTag | null {
    this.#note = '';
    this.#verdict = 'exact';
    const tag = this.read(text, scanned);
    return tag === null ? null : { tag, verdict: this.#verdict, note: this.#note, markup: '' };
  }

  /** `else`, where a language writes it as the end of one block and the beginning of another. */
  private division(index: number): { tag: ReadTag; length: number } | null {
    const block = this.#open[this.#open.length - 1];
    // What ends a block on a lack and begins one on the thing itself says as much by itself.
    if (block === undefined || block.construct === 'unless' || block.hasElse) return null;
    for (const { pattern } of spellingsOf(this.dialect, elseConstructs[block.construct])) {
      const length = this.countTags(pattern);
      const parts = this.#scanned.slice(index, index + length);
      const first = parts[0];
      const last = parts[parts.length - 1];
      const isJoined = parts.every(
        (part, at) => part.kind === 'tag' && (at === 0 || parts[at - 1]?.span.end === part.span.start),
      );
      if (length < 2 || parts.length < length || first === undefined || last === undefined || !isJoined) continue;
      const fillings = this.readerOf(pattern).read(parts.map(({ text }) => text).join(''));
      if (fillings === null || labelOf(fillings) !== block.label) continue;
      const place = { source: this.source, span: { start: first.span.start, end: last.span.end } };
      divide(block);
      return { tag: { tag: { kind: 'else', place }, verdict: 'exact', note: '', markup: '' }, length };
    }
    return null;
  }

  /**
   * `case` and its first `when`, which together begin a block on a comparison; what stands between them is never printed.
   */
  private caseOpening(index: number): { tag: ReadTag; length: number } | null {
    const [opening, when] = [this.#scanned[index], this.#scanned[index + 1]];
    if (opening?.kind !== 'tag' || when?.kind !== 'tag') return null;
    for (const { fillings } of this.fits('case', opening.text)) {
      const value = fillings.get('value');
      const compared = value === undefined ? null : this.comparedIn(value, opening);
      const alternatives = new Set<string>();
      this.#note = '';
      this.#verdict = 'rewritten';
      const condition = compared === null ? null : this.whenCondition(when, compared, alternatives);
      if (compared === null || condition === null) continue;
      const place = { source: this.source, span: { start: opening.span.start, end: when.span.end } };
      const read = { verdict: this.#verdict, note: this.#note, markup: '' };
      const tag: ReadTag = { tag: { kind: 'if', condition, place }, ...read };
      this.#open.push({ construct: 'case', label: '', scope: null, hasElse: false, tag, compared, alternatives });
      return { tag, length: 2 };
    }
    return null;
  }

  private comparedIn(filling: Filling, scanned: ScannedTag): Expression | null {
    const offset = scanned.tagSpan.start + filling.start;
    return readValue(this.dialect, filling.text, offset, this.resolve)?.expression ?? null;
  }

  /**
   * `when "a", "b"`: equal to the one or to the other. All parts that fit are printed, and of a chain of conditions only
   * the first: so they must be known to differ.
   */
  private whenCondition(scanned: ScannedTag, compared: Expression, before: Set<string>): Expression | null {
    for (const { fillings } of this.fits('when', scanned.text)) {
      const list = fillings.get('values');
      if (list === undefined) continue;
      const { span } = compared;
      const values = alternativesIn(list).map((filling) => this.comparedIn(filling, scanned));
      let condition: Expression | null = null;
      for (const right of values) {
        if (right === null) return null;
        const literal = right.kind === 'text' ? right.value : right.kind === 'number' ? right.written : null;
        if (literal === null || before.has(literal))
          this.note('assumed', 'of several parts of the case that fit only the first is shown');
        else before.add(literal);
        const equal: Expression = { kind: 'comparison', operator: '==', left: compared, right, span };
        condition = condition === null ? equal : { kind: 'or', left: condition, right: equal, span };
      }
      if (condition !== null) return condition;
    }
    return null;
  }

  private countTags(pattern: string): number {
    const filled = piecesOf(pattern).map((piece) => ('hole' in piece ? 'x' : piece.literal));
    return findTags(filled.join(''), this.dialect.delimiters).length;
  }

  private read(text: string, scanned: ScannedTag): MergeTag | null {
    const place = { source: this.source, span: scanned.span };
    const at = (filling: Filling): Span => spanAt(scanned.tagSpan.start + filling.start, filling.text.length);
    return (
      this.closing(text, place) ??
      this.system(text, place) ??
      this.arm(text, at, place) ??
      this.when(scanned, place) ??
      this.opening(text, at, place) ??
      this.output(text, at, place)
    );
  }

  /** The fillings of every spelling of a construct that a text fits. */
  private *fits(construct: TagConstruct, text: string): Generator<{ fillings: Fillings; spelling: Spelling }> {
    for (const spelling of spellingsOf(this.dialect, construct)) {
      const fillings = this.readerOf(spelling.pattern).read(text);
      if (fillings !== null) yield { fillings, spelling };
    }
  }

  private closing(text: string, place: MergeTag['place']): MergeTag | null {
    const block = this.#open[this.#open.length - 1];
    const elseFits = [...this.fits('else', text), ...this.fits('else_each', text)];
    if (elseFits.length > 0 && this.countTags(elseFits[0]?.spelling.pattern ?? '') < 2) {
      const own = block === undefined ? 'else' : elseConstructs[block.construct];
      const isOwn = this.dialect.tags[own] === undefined || [...this.fits(own, text)].length > 0;
      if (!isOwn || block?.hasElse === true) return null;
      if (block !== undefined) divide(block);
      return { kind: 'else', place };
    }
    const ends = (['if', 'unless', 'each', 'case'] as const).flatMap((construct) =>
      [...this.fits(`end_${construct}`, text)].map(({ fillings }) => ({ construct, label: labelOf(fillings) })),
    );
    if (ends.length === 0) return null;
    const fitting = ends.some(
      ({ construct, label }) => construct === block?.construct && (label === '' || label === block.label),
    );
    if (block !== undefined && !fitting) {
      const opened = block.tag.tag.place;
      this.report(
        finding('merge-crossed', place, {
          tag: this.source.slice(place.span),
          opened: opened.source.slice(opened.span),
          line: String(opened.source.lineColumn(opened.span.start).line),
        }),
      );
    }
    this.#open.pop();
    return { kind: 'end', place };
  }

  private system(text: string, place: MergeTag['place']): MergeTag | null {
    const found = Object.entries(this.dialect.system).find(([, pattern]) => this.readerOf(pattern).read(text) !== null);
    if (found === undefined) return null;
    const value: Expression = { kind: 'path', segments: found[0].split('.'), span: place.span };
    return { kind: 'output', value, raw: false, place };
  }

  private when(scanned: ScannedTag, place: MergeTag['place']): MergeTag | null {
    const { compared, alternatives } = this.#open.at(-1) ?? {};
    if (compared === undefined || alternatives === undefined) return null;
    this.note('rewritten', '');
    const condition = this.whenCondition(scanned, compared, alternatives);
    if (condition === null) return null;
    return { kind: 'else-if', condition, place };
  }

  private arm(text: string, at: (filling: Filling) => Span, place: MergeTag['place']): MergeTag | null {
    for (const construct of ['else_if', 'else_unless'] as const)
      for (const { fillings, spelling } of this.fits(construct, text)) {
        const condition = this.conditionIn(fillings, at);
        if (condition === null) continue;
        this.note(spelling.verdict, '');
        return { kind: 'else-if', condition: construct === 'else_if' ? condition : negated(condition), place };
      }
    return null;
  }

  private opening(text: string, at: (filling: Filling) => Span, place: MergeTag['place']): MergeTag | null {
    for (const construct of ['if', 'unless'] as const)
      for (const { fillings, spelling } of this.fits(construct, text)) {
        const condition = this.conditionIn(fillings, at);
        if (condition === null) continue;
        const list = construct === 'if' ? this.loopInstead(text, at) : null;
        if (list !== null) return this.loop(list.fillings, list.path, place);
        this.note(spelling.verdict, '');
        const isItem = construct === 'if' && condition.kind === 'path' && !this.isFlag(condition);
        const scope: NameScope | null =
          isItem && this.dialect.paths.lookup === 'outward' ? { kind: 'value', value: condition } : null;
        const whole = construct === 'if' ? condition : negated(condition);
        return this.opened(construct, labelOf(fillings), scope, { kind: 'if', condition: whole, place });
      }
    for (const { fillings } of this.fits('each', text)) {
      const list = fillings.get('list');
      const path = list === undefined ? null : this.path(list.text, at(list));
      if (path !== null) return this.loop(fillings, path, place);
    }
    return null;
  }

  private opened(construct: OpenBlock['construct'], label: string, scope: NameScope | null, tag: MergeTag): MergeTag {
    this.#open.push({ construct, label, scope, hasElse: false, tag: { tag, verdict: 'exact', note: '', markup: '' } });
    return tag;
  }

  /** Where a language writes loops as it writes conditions: the list, if it is one. */
  private loopInstead(
    text: string,
    at: (filling: Filling) => Span,
  ): { fillings: Fillings; path: Expression & { kind: 'path' } } | null {
    for (const { fillings } of this.fits('each', text)) {
      const list = fillings.get('list');
      const path = list === undefined ? null : this.path(list.text, at(list));
      if (list === undefined || path?.kind !== 'path') continue;
      const shape = shapeOf(path.segments, this.items(), this.#data);
      if (shape !== null) return shape.type === 'list' ? { fillings, path } : null;
      const name = list.text.trim();
      if (this.#evidence.printed.has(name)) return null;
      const isLoop =
        this.#evidence.itself.has(name) || this.#evidence.namesOwnFields(name, (word) => this.#data.fields.has(word));
      this.note('assumed', isLoop ? conversionNote.takenForList(name) : conversionNote.takenForCondition(name));
      return isLoop ? { fillings, path } : null;
    }
    return null;
  }

  private isFlag(path: Expression & { kind: 'path' }): boolean {
    return shapeOf(path.segments, this.items(), this.#data)?.type === 'flag';
  }

  private loop(fillings: Fillings, list: Expression, place: MergeTag['place']): MergeTag | null {
    if (list.kind !== 'path') return null;
    const items = this.items();
    const written = fillings.get('item')?.text;
    const taken = new Set([...items.map(({ name }) => name), ...this.#data.fields.keys(), ...this.#evidence.words]);
    const own = written === undefined ? null : neutralFieldName(this.dialect, written);
    const name =
      own === null
        ? inventedItemName(list.segments.join('.'), taken)
        : freeName(own, new Set([...items.map((item) => item.name), ...this.#evidence.rootNames]));
    const shape = shapeOf(list.segments, items, this.#data);
    const item: LoopItem = { name, list: dataPath(list.segments, items), shape: itemShapeOf(shape) };
    return this.opened('each', labelOf(fillings), { kind: 'item', item }, { kind: 'each', list, item: name, place });
  }

  private output(text: string, at: (filling: Filling) => Span, place: MergeTag['place']): MergeTag | null {
    const spellings = (['raw', 'field'] as const).flatMap((construct) =>
      [...this.fits(construct, text)].map((fit) => ({ ...fit, raw: construct === 'raw' })),
    );
    for (const [name, filter] of Object.entries(this.dialect.filters))
      for (const { pattern } of filter) {
        const fillings = this.readerOf(pattern).read(text);
        const field = fillings?.get('field');
        const value = field === undefined ? null : this.path(field.text, at(field));
        if (value === null) continue;
        const format = fillings?.get('format');
        const parameter: Expression | null =
          format === undefined ? null : { kind: 'text', value: format.text, span: at(format) };
        return {
          kind: 'output',
          value: { kind: 'filter', value, name, parameter, span: value.span },
          raw: false,
          place,
        };
      }
    const fallback = this.fallback(text, at);
    if (fallback !== null && !spellings.some(({ raw }) => raw))
      return { kind: 'output', value: fallback, raw: false, place };
    const literalLength = ({ spelling }: { spelling: Spelling }): number => spelling.pattern.length;
    for (const { fillings, spelling, raw } of spellings.sort((a, b) => literalLength(b) - literalLength(a))) {
      const value = this.valueIn(fillings, at);
      if (value === null) continue;
      this.note(spelling.verdict, '');
      return { kind: 'output', value, raw, place };
    }
    return fallback === null ? null : { kind: 'output', value: fallback, raw: false, place };
  }

  private fallback(text: string, at: (filling: Filling) => Span): Expression | null {
    for (const { fillings } of this.fits('fallback', text)) {
      const field = fillings.get('field');
      const written = fillings.get('text');
      const value = field === undefined ? null : this.path(field.text, at(field));
      if (value === null || written === undefined) continue;
      const otherwise: Expression = { kind: 'text', value: written.text, span: at(written) };
      return { kind: 'fallback', value, otherwise, span: value.span };
    }
    return null;
  }

  private valueIn(fillings: Fillings, at: (filling: Filling) => Span): Expression | null {
    const field = fillings.get('field');
    if (field !== undefined) return this.path(field.text, at(field));
    const value = fillings.get('value');
    if (value === undefined) return null;
    const read = readValue(this.dialect, value.text, at(value).start, this.resolve);
    if (read === null) return null;
    this.note(read.verdict, '');
    return read.expression;
  }

  private conditionIn(fillings: Fillings, at: (filling: Filling) => Span): Expression | null {
    const condition = fillings.get('condition');
    if (condition === undefined) return null;
    const read = readCondition(this.dialect, condition.text, at(condition).start, this.resolve);
    if (read === null) return null;
    this.note(read.verdict, '');
    return read.expression;
  }

  private readonly resolve: PathResolver = (text, span) => this.path(text, span);

  private path(text: string, span: Span): Expression | null {
    const read = readPath(text, span, {
      dialect: this.dialect,
      scopes: this.#open.flatMap(({ scope }) => (scope === null ? [] : [scope])),
      isField: (name) => this.#data.fields.has(name),
      isShown: (name) => this.#evidence.shownNames.has(platformFieldName(this.dialect, name)),
    });
    if (read === null) return null;
    if (read.assumption !== null) this.note('assumed', read.assumption);
    return read.expression;
  }

  private items(): LoopItem[] {
    return this.#open.flatMap(({ scope }) => (scope?.kind === 'item' ? [scope.item] : []));
  }

  private note(verdict: ReadTag['verdict'], note: string): void {
    if (verdict === 'exact') return;
    this.#verdict = this.#verdict === 'assumed' ? 'assumed' : verdict;
    if (note !== '') this.#note = note;
  }

  private readerOf(pattern: string): PatternReader {
    const known = this.#readers.get(pattern);
    if (known !== undefined) return known;
    const path = pathSource(this.dialect);
    const reader = patternReader(
      pattern,
      { field: path, list: path, item: '[\\p{L}_][\\p{L}\\d_-]*', text: '[\\s\\S]*?', format: '[\\s\\S]*?' },
      this.dialect.delimiters,
    );
    this.#readers.set(pattern, reader);
    return reader;
  }
}

const elseConstructs = { if: 'else', unless: 'otherwise_unless', each: 'else_each', case: 'else' } as const;

/** The values of a list that commas or "or" divide, but not within quotes. */
function alternativesIn({ text, start }: Filling): Filling[] {
  const values: Filling[] = [];
  const value = /\s*((?:"[^"]*"|'[^']*'|[^"',\s])+)\s*(?:,|\bor\b|$)/gy;
  for (let match = value.exec(text); match !== null && match[1] !== undefined; match = value.exec(text))
    values.push({ text: match[1], start: start + match.index + match[0].indexOf(match[1]) });
  return values;
}

/** Goes on to the last part of a block. */
function divide(block: OpenBlock): void {
  block.hasElse = true;
  block.scope = null;
}

/** What a block is about, as it is written; empty where the tag does not say it. */
function labelOf(fillings: Fillings): string {
  return (fillings.get('condition') ?? fillings.get('list'))?.text.trim() ?? '';
}

function negated(value: Expression): Expression {
  return { kind: 'not', value, span: value.span };
}
