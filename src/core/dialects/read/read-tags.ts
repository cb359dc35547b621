import { conversionNote } from '../../findings/wording/conversions.js';
import { finding, type Report } from '../../findings/finding.js';
import type { SourceText } from '../../text/source-text.js';
import { spanAt, type Span } from '../../text/span.js';
import { neutralFieldName, platformFieldName, spellingsOf, type Dialect } from '../dialect.js';
import type { Expression } from '../../expressions/expression.js';
import { freeName, inventedItemName } from '../item-names.js';
import type { MergeFields, MergeTag } from '../model.js';
import type { Filling } from '../pattern.js';
import { comparedIn, whenCondition } from './case-tags.js';
import { divide, elseConstructs, labelOf, type OpenBlock } from './open-block.js';
import { readOutput } from './output-tags.js';
import { readPath, type NameScope } from './read-path.js';
import { repairsOf, standsInAddress, withPlainSpaces, type RepairedTag } from './repair.js';
import { withDamagedTags } from './damaged-tags.js';
import { scanTags, type ScannedTag } from './scan-tags.js';
import { dataPath, itemShapeOf, shapeOf, type KnownData, type LoopItem } from '../shapes.js';
import { evidenceOf, type Evidence } from './evidence.js';
import { conditionIn, type PlaceOf, type ReadTag, type TagReading } from './tag-reading.js';
import { tagSpellings, type Fillings, type TagSpellings } from './tag-spellings.js';

/**
 * Reads the tags of a text that is written in a dialect. A tag that the dialect's delimiters mark and its patterns do not
 * know is reported, as a recipient would read it; it is `broken` in the list. So are ends that do not fit their block.
 * @param fields what the project declares of its fields
 */
export function readDialectTags(source: SourceText, dialect: Dialect, fields: MergeFields, report: Report): ReadTag[] {
  return new DialectReader(source, dialect, fields, report).all();
}

class DialectReader implements TagReading {
  readonly #scanned: readonly ScannedTag[];
  readonly #evidence: Evidence;
  readonly #data: KnownData;
  readonly #open: OpenBlock[] = [];
  readonly spellings: TagSpellings;
  #note = '';
  #verdict: ReadTag['verdict'] = 'exact';

  constructor(
    private readonly source: SourceText,
    readonly dialect: Dialect,
    fields: MergeFields,
    private readonly report: Report,
  ) {
    this.#scanned = withDamagedTags(source.text, scanTags(source.text, dialect), dialect);
    this.#evidence = evidenceOf(this.#scanned, dialect);
    this.#data = { fields, looped: new Set() };
    this.spellings = tagSpellings(dialect);
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
      for (const { fillings } of this.spellings.fits(construct, text)) {
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
      const length = this.spellings.countTags(pattern);
      const parts = this.#scanned.slice(index, index + length);
      const first = parts[0];
      const last = parts[parts.length - 1];
      const isJoined = parts.every(
        (part, at) => part.kind === 'tag' && (at === 0 || parts[at - 1]?.span.end === part.span.start),
      );
      if (length < 2 || parts.length < length || first === undefined || last === undefined || !isJoined) continue;
      const fillings = this.spellings.read(pattern, parts.map(({ text }) => text).join(''));
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
    for (const { fillings } of this.spellings.fits('case', opening.text)) {
      const value = fillings.get('value');
      const compared = value === undefined ? null : comparedIn(value, opening, this);
      const alternatives = new Set<string>();
      this.#note = '';
      this.#verdict = 'rewritten';
      const condition = compared === null ? null : whenCondition(when, { compared, before: alternatives }, this);
      if (compared === null || condition === null) continue;
      const place = { source: this.source, span: { start: opening.span.start, end: when.span.end } };
      const read = { verdict: this.#verdict, note: this.#note, markup: '' };
      const tag: ReadTag = { tag: { kind: 'if', condition, place }, ...read };
      this.#open.push({ construct: 'case', label: '', scope: null, hasElse: false, tag, compared, alternatives });
      return { tag, length: 2 };
    }
    return null;
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

  private closing(text: string, place: MergeTag['place']): MergeTag | null {
    const block = this.#open[this.#open.length - 1];
    const elseFits = [...this.spellings.fits('else', text), ...this.spellings.fits('else_each', text)];
    if (elseFits.length > 0 && this.spellings.countTags(elseFits[0]?.spelling.pattern ?? '') < 2) {
      const own = block === undefined ? 'else' : elseConstructs[block.construct];
      const isOwn = this.dialect.tags[own] === undefined || [...this.spellings.fits(own, text)].length > 0;
      if (!isOwn || block?.hasElse === true) return null;
      if (block !== undefined) divide(block);
      return { kind: 'else', place };
    }
    const ends = (['if', 'unless', 'each', 'case'] as const).flatMap((construct) =>
      [...this.spellings.fits(`end_${construct}`, text)].map(({ fillings }) => ({
        construct,
        label: labelOf(fillings),
      })),
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
    const found = Object.entries(this.dialect.system).find(
      ([, pattern]) => this.spellings.read(pattern, text) !== null,
    );
    if (found === undefined) return null;
    const value: Expression = { kind: 'path', segments: found[0].split('.'), span: place.span };
    return { kind: 'output', value, raw: false, place };
  }

  private when(scanned: ScannedTag, place: MergeTag['place']): MergeTag | null {
    const { compared, alternatives } = this.#open.at(-1) ?? {};
    if (compared === undefined || alternatives === undefined) return null;
    this.note('rewritten', '');
    const condition = whenCondition(scanned, { compared, before: alternatives }, this);
    if (condition === null) return null;
    return { kind: 'else-if', condition, place };
  }

  private arm(text: string, at: PlaceOf, place: MergeTag['place']): MergeTag | null {
    for (const construct of ['else_if', 'else_unless'] as const)
      for (const { fillings, spelling } of this.spellings.fits(construct, text)) {
        const condition = conditionIn(fillings, at, this);
        if (condition === null) continue;
        this.note(spelling.verdict, '');
        return { kind: 'else-if', condition: construct === 'else_if' ? condition : negated(condition), place };
      }
    return null;
  }

  private opening(text: string, at: PlaceOf, place: MergeTag['place']): MergeTag | null {
    for (const construct of ['if', 'unless'] as const)
      for (const { fillings, spelling } of this.spellings.fits(construct, text)) {
        const condition = conditionIn(fillings, at, this);
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
    for (const { fillings } of this.spellings.fits('each', text)) {
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
  private loopInstead(text: string, at: PlaceOf): { fillings: Fillings; path: Expression & { kind: 'path' } } | null {
    for (const { fillings } of this.spellings.fits('each', text)) {
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

  private output(text: string, at: PlaceOf, place: MergeTag['place']): MergeTag | null {
    const read = readOutput(text, at, this);
    return read === null ? null : { kind: 'output', ...read, place };
  }

  path(text: string, span: Span): Expression | null {
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

  note(verdict: ReadTag['verdict'], note: string): void {
    if (verdict === 'exact') return;
    this.#verdict = this.#verdict === 'assumed' ? 'assumed' : verdict;
    if (note !== '') this.#note = note;
  }
}

function negated(value: Expression): Expression {
  return { kind: 'not', value, span: value.span };
}
