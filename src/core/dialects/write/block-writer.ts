import { dialectAdvice } from '../../findings/wording/dialects.js';
import { losses, type LossWording } from '../../findings/wording/losses.js';
import { finding } from '../../findings/finding.js';
import { pathsIn, type Expression } from '../../expressions/expression.js';
import { patternOf, platformFieldName, type Dialect } from '../dialect.js';
import { freeName } from '../item-names.js';
import { writePattern } from '../pattern.js';
import { dataPath, itemShapeOf } from '../shapes.js';
import { expressionsOf } from '../tag-facts.js';
import {
  blocksOf,
  removalsOf,
  tagsIn,
  type Arm,
  type Block,
  type EachBlock,
  type IfBlock,
  type Removal,
  type Section,
} from './blocks.js';
import { elseIf, openBlock, pushesValue, type OpenedBlock } from './open-block.js';
import { writeOutput, type BlockWords } from './write-output.js';
import { itemsOf, writePath, type WritingScope } from './write-path.js';
import { Writing, type Piece, type WritingTask } from './writing.js';

/** What the tags of a text came to, and what of the text is left out. */
export interface WrittenTags {
  readonly pieces: readonly Piece[];
  readonly removed: readonly Removal[];
}

/** A value that a tag prints, as text or as HTML. */
interface Printed {
  readonly value: Expression;
  readonly raw: boolean;
}

/** An arm of a choice that can be said, and whether what stands in it has a value as its item. */
interface WrittenArm {
  readonly section: Section;
  readonly piece: Piece;
  readonly pushes: boolean;
}

/** How a dialect says a loop. */
interface LoopWords {
  readonly open: string;
  readonly otherwise: string;
  readonly close: string;
  readonly scope: WritingScope;
}

const plain = { text: '', verdict: 'exact', note: '' } as const;
const valueScope: WritingScope = { kind: 'value' };

/** Writes all tags of a text in a dialect, block by block. */
export class BlockWriter {
  readonly #pieces: Piece[];
  readonly #removed: Removal[] = [];
  readonly #writing: Writing;

  constructor(private readonly task: WritingTask) {
    this.#pieces = task.tags.map(() => plain);
    this.#writing = new Writing(task);
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

  private put(index: number, text: string): void {
    this.#pieces[index] = this.#writing.piece(text);
  }

  private single(index: number): void {
    const tag = this.task.tags[index];
    this.#writing.begin();
    if (tag?.kind === 'comment') this.put(index, this.comment(tag.text));
    if (tag?.kind === 'literal') this.put(index, tag.text);
    if (tag?.kind === 'output') this.put(index, this.output(tag) ?? this.lostValue(tag, index));
  }

  private comment(text: string): string {
    const { dialect } = this.task;
    const pattern = patternOf(dialect, 'comment');
    const written = pattern === undefined ? '' : writePattern(pattern, { text });
    const isSafe = !dialect.delimiters.some(({ open, close }) => text.includes(close) || text.includes(open.trim()));
    if (written !== '' && isSafe) return written;
    this.#writing.judge('removed');
    return '';
  }

  private output({ value, raw }: Printed): string | null {
    const { context } = this.#writing;
    const { quote } = this.task;
    return this.#writing.saying((writer) =>
      writeOutput(value, { context, writer, quote, raw, asBlocks: this.asBlocks }),
    );
  }

  /** A value in each of two blocks. */
  private readonly asBlocks: BlockWords = (condition, yes, no) => {
    const writing = this.#writing;
    const opened = openBlock(condition, 'more', writing);
    if (opened === null) return null;
    const { open, otherwise, close } = opened;
    if (otherwise === null) return writing.lost.add(losses.otherwise);
    writing.rewritten();
    const scope = pushesValue(condition.kind === 'not' ? condition.value : condition, writing) ? valueScope : null;
    const isTurned = opened.construct === 'unless';
    const first = writing.within(isTurned ? null : scope, yes);
    const second = first === null ? null : writing.within(isTurned ? scope : null, no);
    return first === null || second === null ? null : `${open}${first}${otherwise}${second}${close}`;
  };

  private choice(block: IfBlock): void {
    const [first] = block.arms;
    if (first === undefined) return;
    const written = this.arms(block);
    if (written === null) {
      this.lostChoice(block, first);
      return;
    }
    for (const { section, piece } of written.arms) this.#pieces[section.index] = piece;
    if (block.end !== null) this.#pieces[block.end] = { ...plain, text: written.close };
    for (const { section, pushes } of written.arms)
      this.#writing.within(pushes ? valueScope : null, () => this.blocks(section.body));
  }

  /** The arms of a choice, as `else if`, or as one block within the other; null where they cannot be said. */
  private arms({ arms, otherwise }: IfBlock): { readonly arms: readonly WrittenArm[]; readonly close: string } | null {
    const writing = this.#writing;
    const written: WrittenArm[] = [];
    const closers: string[] = [];
    let current: OpenedBlock | null = null;
    /** Whether the part behind the last arm stands in a block that makes a value the item. */
    let pushesBehind = false;
    for (const [number, arm] of arms.entries()) {
      const { condition } = arm;
      writing.begin();
      const hasMore = number < arms.length - 1 || otherwise !== null;
      let text = current === null ? null : elseIf(condition, writing);
      if (text === null) {
        const opened = openBlock(condition, hasMore ? 'more' : 'one', writing);
        if (opened === null) return null;
        if (current !== null && current.otherwise === null) return writing.lost.add(losses.elseIf);
        if (current !== null) writing.rewritten();
        text = `${current?.otherwise ?? ''}${opened.open}`;
        closers.unshift(opened.close);
        current = opened;
      }
      const pushes = pushesBehind || pushesValue(condition, writing);
      written.push({ section: arm, piece: writing.piece(text), pushes });
      pushesBehind ||= condition.kind === 'not' && pushesValue(condition.value, writing);
    }
    if (otherwise !== null) {
      if (current === null || current.otherwise === null) return writing.lost.add(losses.otherwise);
      const piece = { ...plain, text: current.otherwise };
      written.push({ section: otherwise, piece, pushes: pushesBehind });
    }
    return { arms: written, close: closers.join('') };
  }

  private loop(block: EachBlock): void {
    this.#writing.begin();
    const words = this.loopWords(block);
    if (words === null) {
      this.lost(block.index);
      this.drop(block, block.otherwise);
      return;
    }
    const { index, otherwise, end, body } = block;
    this.put(index, words.open);
    if (otherwise !== null) this.#pieces[otherwise.index] = { ...plain, text: words.otherwise };
    if (end !== null) this.#pieces[end] = { ...plain, text: words.close };
    this.#writing.within(words.scope, () => this.blocks(body));
    if (otherwise !== null) this.blocks(otherwise.body);
  }

  /** What begins a loop, divides it and ends it, and what stands in it; null where it cannot be said. */
  private loopWords({ list, item, body, otherwise }: EachBlock): LoopWords | null {
    const writing = this.#writing;
    const { dialect } = this.task;
    const pattern = patternOf(dialect, 'each');
    const closing = patternOf(dialect, 'end_each');
    if (pattern === undefined || closing === undefined) return writing.lost.add(losses.loops);
    if (list.kind !== 'path') return writing.lost.add(losses.loopOverNoList);
    const written = itemName(item, dialect);
    const listPath = writePath(list, writing.context);
    if (listPath === null) return null;
    if (written !== platformFieldName(dialect, item) && pattern.includes('{item}')) writing.rewritten();
    const divider = patternOf(dialect, 'else_each') ?? patternOf(dialect, 'else');
    if (otherwise !== null && divider === undefined) return writing.lost.add(losses.loopWithElse);
    const path = dataPath(list.segments, itemsOf(writing.scopes));
    const shape = itemShapeOf(writing.shapeOf(list.segments));
    const fill = (own: string): string => writePattern(own, { list: listPath, item: written });
    return {
      open: fill(pattern),
      otherwise: fill(divider ?? ''),
      close: fill(closing),
      scope: {
        kind: 'item',
        item: { name: item, list: path, shape },
        written,
        uses: new Set(this.usesOf(item, body)),
      },
    };
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
  private lostValue({ value, raw }: Printed, index: number): string {
    this.lost(index);
    const { answers } = this.task;
    if (answers === null) return '';
    const simpler = simplerThan(value);
    if (simpler !== null) return this.orNothing({ value: simpler, raw });
    if (value.kind === 'conditional')
      return this.orNothing({ value: answers.holds(value.condition) ? value.yes : value.no, raw });
    return raw ? this.orNothing({ value, raw: false }) : this.sampleOf(value);
  }

  private orNothing({ value, raw }: Printed): string {
    const simpler = simplerThan(value);
    const text =
      this.#writing.lost.attempt(() => this.output({ value, raw })) ??
      (simpler === null ? this.sampleOf(value) : this.orNothing({ value: simpler, raw }));
    this.#writing.judge('loss');
    return text;
  }

  private sampleOf(value: Expression): string {
    const text = this.task.answers?.sample(value) ?? '';
    return this.output({ value: { kind: 'text', value: text, span: value.span }, raw: false }) ?? '';
  }

  /** Where losses are allowed, the arm stays that the sample recipient would see. */
  private lostChoice(block: IfBlock, first: Arm): void {
    this.#writing.begin();
    this.lost(first.index);
    const { answers } = this.task;
    const taken = answers === null ? undefined : block.arms.find(({ condition }) => answers.holds(condition));
    this.drop(block, taken ?? block.otherwise);
  }

  /** Writes nothing for a block, but for the part of it that stays. */
  private drop(block: IfBlock | EachBlock, kept: Section | null): void {
    const keptTags = new Set(tagsIn(kept?.body ?? []));
    for (const index of tagsIn([block])) {
      if (keptTags.has(index)) continue;
      const note = this.#pieces[index]?.note ?? '';
      this.#pieces[index] = { text: '', verdict: 'loss', note };
    }
    this.#removed.push(...removalsOf(block, kept?.index ?? null));
    if (this.task.answers !== null) this.blocks(kept?.body ?? []);
  }

  /** Reports what stood in the way of a tag. */
  private lost(index: number): void {
    const { tags, dialect, answers, report } = this.task;
    const { what, advice = dialectAdvice.sayWithout }: LossWording = this.#writing.lost.take();
    this.#writing.judge('loss', what);
    this.put(index, '');
    const tag = tags[index];
    if (tag === undefined) return;
    const code = answers === null ? 'merge-loss' : 'merge-loss-allowed';
    report(finding(code, tag.place, { dialect: dialect.name, what, advice }));
  }
}

/** What a value says without its fallback or its filter: of a fallback what stands in its place. */
function simplerThan(value: Expression): Expression | null {
  if (value.kind === 'fallback') return value.otherwise;
  return value.kind === 'filter' ? value.value : null;
}

/** The name of a loop's item, as a dialect can have it. */
function itemName(item: string, dialect: Dialect): string {
  const own = platformFieldName(dialect, item).replaceAll('-', dialect.names.hyphens ? '-' : '_');
  return freeName(own, new Set(dialect.names.reserved));
}
