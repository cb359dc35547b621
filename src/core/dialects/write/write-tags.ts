import { losses } from '../../findings/wording/losses.js';
import { finding, type Report } from '../../findings/finding.js';
import {
  blocksOf,
  removalsOf,
  tagsIn,
  type Arm,
  type Block,
  type EachBlock,
  type IfBlock,
  type Removal,
} from './blocks.js';
import { expressionsOf, fieldsIn, loopedIn } from '../tag-facts.js';
import { patternOf, platformFieldName, type Dialect } from '../dialect.js';
import { pathsIn, type Expression } from '../../expressions/expression.js';
import { freeName } from '../item-names.js';
import { Loss } from './loss.js';
import type { FieldShape, MergeFields, MergeTag } from '../model.js';
import { writePattern } from '../pattern.js';
import { dataPath, itemShapeOf, shapeOf, type KnownData } from '../shapes.js';
import { conjunction, ExpressionWriter, linksOf } from './write-expression.js';
import { writeOutput } from './write-output.js';
import { itemsOf, writePath, type WritingContext, type WritingScope } from './write-path.js';
import { type LossAnswers, type TagTexts, withinQuotes, type TagVerdict } from './tag-texts.js';
import { quotes } from './tag-texts.js';

/**
 * Writes neutral tags in a dialect. What the dialect cannot say is reported, once for each tag, and is written as
 * nothing: never as a tag that a reader would see. Where losses are allowed, the sample recipient decides what stands instead.
 * @param fields what the project declares of its fields
 */
export function tagsInDialect(
  tags: readonly MergeTag[],
  dialect: Dialect,
  fields: MergeFields,
  report: Report,
  answers: LossAnswers | null = null,
): TagTexts {
  const { pieces: first, removed } = new BlockWriter({ tags, dialect, fields, answers, quote: '', report }).whole();
  const versions = new Map<string, readonly Piece[]>([['', first]]);
  const version = (quote: '' | '"' | "'"): readonly Piece[] => {
    const known = versions.get(quote);
    if (known !== undefined) return known;
    // What is lost has been reported.
    const { pieces } = new BlockWriter({ tags, dialect, fields, answers, quote, report: () => undefined }).whole();
    versions.set(quote, pieces);
    return pieces;
  };
  const printing = [patternOf(dialect, 'field'), patternOf(dialect, 'if'), patternOf(dialect, 'each')];
  const hasQuotes = printing.some((pattern) => pattern !== undefined && /["']/.test(pattern));
  const written = new Map<number, Piece>();
  return {
    write: (index, context) => {
      const quote = quotes[context];
      const isAtOdds = (first[index]?.text ?? '').includes(quote);
      const piece = (isAtOdds ? version(quote) : first)[index];
      if (piece !== undefined) written.set(index, piece);
      const text = piece?.text ?? '';
      return hasQuotes ? withinQuotes(text, quote) : text;
    },
    verdict: (index) => (written.get(index) ?? first[index])?.verdict ?? 'exact',
    note: (index) => first[index]?.note ?? '',
    removed,
  };
}

interface WrittenTags {
  readonly pieces: readonly Piece[];
  readonly removed: readonly Removal[];
}

interface Piece {
  readonly text: string;
  readonly verdict: TagVerdict;
  readonly note: string;
}

/** An opened block: what begins it, divides it and ends it. */
interface Opened {
  readonly open: string;
  /** Null where the block cannot have another arm. */
  readonly otherwise: string | null;
  readonly close: string;
  readonly construct: 'if' | 'unless';
}

/** Tags to write, and by what. */
interface WritingTask {
  readonly tags: readonly MergeTag[];
  readonly dialect: Dialect;
  readonly fields: MergeFields;
  readonly answers: LossAnswers | null;
  /** The quotation mark of the attribute around all of them; empty where there is none. */
  readonly quote: '' | '"' | "'";
  readonly report: Report;
}

class BlockWriter {
  readonly #pieces: Piece[];
  readonly #removed: Removal[] = [];
  readonly #data: KnownData;
  readonly #fieldsInUse: ReadonlySet<string>;
  #scopes: readonly WritingScope[] = [];
  #verdict: TagVerdict = 'exact';
  #note = '';

  constructor(private readonly task: WritingTask) {
    const { tags, fields } = task;
    this.#pieces = tags.map(() => ({ text: '', verdict: 'exact', note: '' }));
    this.#data = { fields, looped: loopedIn(tags) };
    this.#fieldsInUse = fieldsIn(tags);
  }

  whole(): WrittenTags {
    this.blocks(blocksOf(this.task.tags));
    return { pieces: this.#pieces, removed: this.#removed };
  }

  private blocks(blocks: readonly Block[]): void {
    for (const block of blocks)
      if (block.kind === 'tag') this.single(block.index);
      else if (block.kind === 'if') this.choice(block);
      else this.loop(block);
  }

  private get context(): WritingContext {
    return {
      dialect: this.task.dialect,
      scopes: this.#scopes,
      data: this.#data,
      fieldsInUse: this.#fieldsInUse,
      assume: (note) => {
        this.#verdict = 'assumed';
        this.#note = note;
      },
    };
  }

  private put(index: number, text: string): void {
    this.#pieces[index] = { text, verdict: this.#verdict, note: this.#note };
  }

  private begin(): void {
    this.#verdict = 'exact';
    this.#note = '';
  }

  private rewritten(): void {
    if (this.#verdict === 'exact') this.#verdict = 'rewritten';
  }

  /** Writes with an expression writer, and takes note of what it had to say in other words. */
  private saying<Result>(say: (writer: ExpressionWriter) => Result): Result {
    const writer = new ExpressionWriter(this.context, this.task.quote);
    const result = say(writer);
    if (writer.isRewritten) this.rewritten();
    return result;
  }

  private single(index: number): void {
    const tag = this.task.tags[index];
    this.begin();
    if (tag?.kind === 'comment') this.put(index, this.comment(tag.text));
    if (tag?.kind === 'literal') this.put(index, tag.text);
    if (tag?.kind !== 'output') return;
    try {
      this.put(index, this.output(tag.value, tag.raw));
    } catch (error) {
      if (!(error instanceof Loss)) throw error;
      this.put(index, this.lostValue(tag.value, tag.raw, error, index));
    }
  }

  private comment(text: string): string {
    const pattern = patternOf(this.task.dialect, 'comment');
    const written = pattern === undefined ? '' : writePattern(pattern, { text });
    const isSafe = !this.task.dialect.delimiters.some(
      ({ open, close }) => text.includes(close) || text.includes(open.trim()),
    );
    if (written !== '' && isSafe) return written;
    this.#verdict = 'removed';
    return '';
  }

  private output(value: Expression, raw: boolean): string {
    return this.saying((writer) =>
      writeOutput(value, {
        context: this.context,
        writer,
        quote: this.task.quote,
        raw,
        asBlocks: (condition, yes, no) => {
          const opened = this.open(condition, { hasMore: true });
          if (opened.otherwise === null) throw new Loss(losses.otherwise);
          this.rewritten();
          const value = condition.kind === 'not' ? condition.value : condition;
          const within = (isPushed: boolean, say: () => string): string => {
            const before = this.#scopes;
            if (isPushed && this.pushesValue(value)) this.#scopes = [...before, { kind: 'value' }];
            try {
              return say();
            } finally {
              this.#scopes = before;
            }
          };
          const isTurned = opened.construct === 'unless';
          return `${opened.open}${within(!isTurned, yes)}${opened.otherwise}${within(isTurned, no)}${opened.close}`;
        },
      }),
    );
  }

  private choice(block: IfBlock): void {
    const [first] = block.arms;
    if (first === undefined) return;
    try {
      this.writeChoice(block);
    } catch (error) {
      if (!(error instanceof Loss)) throw error;
      this.lostChoice(block, first, error);
    }
  }

  private writeChoice({ arms, otherwise, end }: IfBlock): void {
    const texts: { index: number; text: string; verdict: TagVerdict; note: string; pushes: boolean }[] = [];
    const closers: string[] = [];
    let current: Opened | null = null;
    /** Whether the part behind the last arm stands in a block that makes a value the item. */
    let pushesBehind = false;
    arms.forEach(({ index, condition }, number) => {
      this.begin();
      const hasMore = number < arms.length - 1 || otherwise !== null;
      const chained: string | null = current === null ? null : this.elseIf(condition);
      let text = chained ?? '';
      if (chained === null) {
        const opened = this.open(condition, { hasMore });
        if (current !== null) {
          if (current.otherwise === null) throw new Loss(losses.elseIf);
          this.rewritten();
          text = current.otherwise;
        }
        text += opened.open;
        closers.unshift(opened.close);
        current = opened;
      }
      const pushes = pushesBehind || this.pushesValue(condition);
      texts.push({ index, text, verdict: this.#verdict, note: this.#note, pushes });
      pushesBehind ||= condition.kind === 'not' && this.pushesValue(condition.value);
    });
    if (otherwise !== null) {
      const divider = (current as Opened | null)?.otherwise;
      if (divider === null || divider === undefined) throw new Loss(losses.otherwise);
      texts.push({ index: otherwise.index, text: divider, verdict: 'exact', note: '', pushes: pushesBehind });
    }
    for (const { index, text, verdict, note } of texts) this.#pieces[index] = { text, verdict, note };
    if (end !== null) this.#pieces[end] = { text: closers.join(''), verdict: 'exact', note: '' };
    const around = this.#scopes;
    for (const { index, pushes } of texts) {
      const body = [...arms, ...(otherwise === null ? [] : [otherwise])].find((one) => one.index === index)?.body ?? [];
      if (pushes) this.#scopes = [...around, { kind: 'value' }];
      this.blocks(body);
      this.#scopes = around;
    }
  }

  /** Whether a block on a value makes the value the item, as languages do that look names up outward. */
  private pushesValue(condition: Expression): boolean {
    if (this.task.dialect.paths.lookup !== 'outward') return false;
    return linksOf(condition, 'and').some((link) => {
      const value = link.kind === 'exists' ? link.value : link;
      return value.kind === 'path' && shapeOf(value.segments, itemsOf(this.#scopes), this.#data)?.type !== 'flag';
    });
  }

  /** `else if` in one tag; null where the dialect has none that fits. */
  private elseIf(condition: Expression): string | null {
    const simple = patternOf(this.task.dialect, 'else_if');
    const unless = patternOf(this.task.dialect, 'else_unless');
    const forms: (() => string)[] = [];
    if (simple !== undefined)
      forms.push(() => writePattern(simple, { condition: this.saying((writer) => writer.condition(condition)) }));
    if (unless !== undefined && condition.kind === 'not')
      forms.push(() => {
        const inner = this.saying((writer) => writer.condition(condition.value));
        return writePattern(unless, { condition: inner });
      });
    return forms.length === 0 ? null : orNull(() => firstSayable(forms));
  }

  /** Opens a block on a condition: by itself, turned round, or as several blocks one within the other. */
  private open(condition: Expression, { hasMore }: { readonly hasMore: boolean }): Opened {
    this.checkLoops(condition);
    const forms: (() => Opened)[] = [() => this.opened('if', condition)];
    if (condition.kind === 'not') {
      const turned = (): Opened => this.opened('unless', condition.value);
      if (condition.value.kind === 'path') forms.push(turned);
      else forms.unshift(turned);
    }
    if (!hasMore) {
      const parts = conjunction(condition);
      if (parts.length > 1) forms.push(() => this.nested(parts));
    }
    return firstSayable(forms);
  }

  /** Where blocks on lists are loops, content that stands once if a list is filled cannot be said. */
  private checkLoops(condition: Expression): void {
    if (patternOf(this.task.dialect, 'if')?.replace('{condition}', '{list}') !== patternOf(this.task.dialect, 'each'))
      return;
    if (condition.kind !== 'path' && condition.kind !== 'exists') return;
    const path = condition.kind === 'exists' ? condition.value : condition;
    if (path.kind === 'path' && shapeOf(path.segments, itemsOf(this.#scopes), this.#data)?.type === 'list')
      throw new Loss(losses.onceIfFilled(path.segments.join('.')));
  }

  private opened(construct: 'if' | 'unless', value: Expression): Opened {
    const pattern = patternOf(this.task.dialect, construct);
    if (pattern === undefined) throw new Loss(construct === 'if' ? losses.conditions : losses.not);
    const condition = this.saying((writer) => writer.condition(value));
    const fill = (own: string | undefined): string | null =>
      own === undefined ? null : writePattern(own, { condition });
    const end = fill(patternOf(this.task.dialect, construct === 'if' ? 'end_if' : 'end_unless'));
    if (end === null) throw new Loss(losses.conditions);
    const other = construct === 'unless' ? patternOf(this.task.dialect, 'otherwise_unless') : undefined;
    const otherwise = fill(other ?? patternOf(this.task.dialect, 'else'));
    const isLoop = construct === 'unless' && other !== undefined && this.isList(value);
    return { open: fill(pattern) ?? '', otherwise: isLoop ? null : otherwise, close: end, construct };
  }

  private isList(value: Expression): boolean {
    return value.kind === 'path' && shapeOf(value.segments, itemsOf(this.#scopes), this.#data)?.type === 'list';
  }

  private nested(parts: readonly Expression[]): Opened {
    const opened = parts.map((part) => this.open(part, { hasMore: false }));
    this.rewritten();
    return {
      open: opened.map(({ open }) => open).join(''),
      otherwise: null,
      close: opened
        .map(({ close }) => close)
        .reverse()
        .join(''),
      construct: 'if',
    };
  }

  private loop(block: EachBlock): void {
    this.begin();
    try {
      this.writeLoop(block);
    } catch (error) {
      if (!(error instanceof Loss)) throw error;
      this.lost(block.index, error);
      this.drop(block, block.otherwise?.body ?? [], block.otherwise?.index ?? null);
    }
  }

  private writeLoop({ index, list, item, body, otherwise, end }: EachBlock): void {
    const items = itemsOf(this.#scopes);
    const pattern = patternOf(this.task.dialect, 'each');
    const closing = patternOf(this.task.dialect, 'end_each');
    if (pattern === undefined || closing === undefined) throw new Loss(losses.loops);
    if (list.kind !== 'path') throw new Loss(losses.loopOverNoList);
    const { reserved } = this.task.dialect.names;
    const own = platformFieldName(this.task.dialect, item).replaceAll('-', this.task.dialect.names.hyphens ? '-' : '_');
    const written = freeName(own, new Set(reserved));
    const holes = { list: writePath(list, this.context), item: written };
    if (written !== platformFieldName(this.task.dialect, item) && pattern.includes('{item}')) this.rewritten();
    const divider = patternOf(this.task.dialect, 'else_each') ?? patternOf(this.task.dialect, 'else');
    if (otherwise !== null && divider === undefined) throw new Loss(losses.loopWithElse);
    this.put(index, writePattern(pattern, holes));
    const plain = { text: '', verdict: 'exact', note: '' } as const;
    if (otherwise !== null) this.#pieces[otherwise.index] = { ...plain, text: writePattern(divider ?? '', holes) };
    if (end !== null) this.#pieces[end] = { ...plain, text: writePattern(closing, holes) };
    const path = dataPath(list.segments, items);
    const shape: FieldShape | null = shapeOf(list.segments, items, this.#data);
    const around = this.#scopes;
    const uses = new Set(this.usesOf(item, body));
    this.#scopes = [
      ...around,
      { kind: 'item', item: { name: item, list: path, shape: itemShapeOf(shape) }, written, uses },
    ];
    this.blocks(body);
    this.#scopes = around;
    if (otherwise !== null) this.blocks(otherwise.body);
  }

  /** The first names of the fields of a loop's item that its body uses. */
  private usesOf(item: string, body: readonly Block[]): string[] {
    return tagsIn(body).flatMap((index) =>
      expressionsOf(this.task.tags[index]).flatMap((expression) =>
        pathsIn(expression).flatMap(({ segments }) =>
          segments[0] === item && segments[1] !== undefined && !segments[1].startsWith('#') ? [segments[1]] : [],
        ),
      ),
    );
  }

  /** What stands for a value that cannot be printed: the field itself if that can, or else what the sample shows. */
  private lostValue(value: Expression, raw: boolean, loss: Loss, index: number): string {
    this.lost(index, loss);
    if (this.task.answers === null) return '';
    if (value.kind === 'fallback') return this.orNothing(value.otherwise, raw);
    if (value.kind === 'filter') return this.orNothing(value.value, raw);
    if (value.kind === 'conditional')
      return this.orNothing(this.task.answers.holds(value.condition) ? value.yes : value.no, raw);
    if (raw) return this.orNothing(value, false);
    const text = this.task.answers.sample(value);
    return this.output({ kind: 'text', value: text, span: value.span }, false);
  }

  private orNothing(value: Expression, raw: boolean): string {
    try {
      return this.output(value, raw);
    } catch (error) {
      if (!(error instanceof Loss)) throw error;
      if (value.kind === 'fallback') return this.orNothing(value.otherwise, raw);
      if (value.kind === 'filter') return this.orNothing(value.value, raw);
      const sample = this.task.answers?.sample(value) ?? '';
      return this.output({ kind: 'text', value: sample, span: value.span }, false);
    } finally {
      this.#verdict = 'loss';
    }
  }

  /** Where losses are allowed, the arm stays that the sample recipient would see. */
  private lostChoice(block: IfBlock, first: Arm, loss: Loss): void {
    this.begin();
    this.lost(first.index, loss);
    const { answers } = this.task;
    const taken = answers === null ? undefined : block.arms.find(({ condition }) => answers.holds(condition));
    const section = taken ?? block.otherwise;
    this.drop(block, section?.body ?? [], section?.index ?? null);
  }

  /** Writes nothing for a block, but for the part of it that stays. */
  private drop(block: IfBlock | EachBlock, kept: readonly Block[], keptSection: number | null): void {
    const keptTags = new Set(tagsIn(kept));
    for (const index of tagsIn([block])) {
      if (keptTags.has(index)) continue;
      const note = this.#pieces[index]?.note ?? '';
      this.#pieces[index] = { text: '', verdict: 'loss', note };
    }
    this.#removed.push(...removalsOf(block, keptSection));
    if (this.task.answers !== null) this.blocks(kept);
  }

  private lost(index: number, loss: Loss): void {
    const tag = this.task.tags[index];
    this.#verdict = 'loss';
    this.#note = loss.what;
    this.#pieces[index] = { text: '', verdict: 'loss', note: loss.what };
    if (tag === undefined) return;
    const data = { dialect: this.task.dialect.name, what: loss.what, advice: loss.advice };
    this.task.report(finding(this.task.answers === null ? 'merge-loss' : 'merge-loss-allowed', tag.place, data));
  }
}

/** The first of several ways to say a thing that the dialect has; the loss of the first where it has none. */
function firstSayable<Result>(forms: readonly (() => Result)[]): Result {
  let problem: Loss | null = null;
  for (const form of forms)
    try {
      return form();
    } catch (error) {
      if (!(error instanceof Loss)) throw error;
      problem ??= error;
    }
  throw problem ?? new Loss(losses.anything);
}

function orNull<Result>(say: () => Result): Result | null {
  try {
    return say();
  } catch (error) {
    if (error instanceof Loss) return null;
    throw error;
  }
}
