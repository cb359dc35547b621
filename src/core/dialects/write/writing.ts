import type { Expression } from '../../expressions/expression.js';
import type { Report } from '../../findings/finding.js';
import type { Dialect } from '../dialect.js';
import type { MergeFields, MergeTag } from '../model.js';
import { shapeOf, type KnownData } from '../shapes.js';
import { fieldsIn, loopedIn } from '../tag-facts.js';
import { LossNotes } from './loss-notes.js';
import type { LossAnswers, TagVerdict } from './tag-texts.js';
import { ExpressionWriter } from './write-expression.js';
import { itemsOf, type WritingContext, type WritingScope } from './write-path.js';

/** Tags to write, and by what. */
export interface WritingTask {
  readonly tags: readonly MergeTag[];
  readonly dialect: Dialect;
  readonly fields: MergeFields;
  readonly answers: LossAnswers | null;
  /** The quotation mark of the attribute around all of them; empty where there is none. */
  readonly quote: '' | '"' | "'";
  readonly report: Report;
}

/** What a tag came to. */
export interface Piece {
  readonly text: string;
  readonly verdict: TagVerdict;
  readonly note: string;
}

/** How far the writing of a text has come: the blocks around, and what there is to say of the tag at hand. */
export class Writing {
  readonly lost = new LossNotes();
  readonly #data: KnownData;
  readonly #fieldsInUse: ReadonlySet<string>;
  #scopes: readonly WritingScope[] = [];
  #verdict: TagVerdict = 'exact';
  #note = '';

  constructor(readonly task: WritingTask) {
    this.#data = { fields: task.fields, looped: loopedIn(task.tags) };
    this.#fieldsInUse = fieldsIn(task.tags);
  }

  get scopes(): readonly WritingScope[] {
    return this.#scopes;
  }

  get context(): WritingContext {
    return {
      dialect: this.task.dialect,
      scopes: this.#scopes,
      data: this.#data,
      fieldsInUse: this.#fieldsInUse,
      assume: (note) => this.judge('assumed', note),
      lost: this.lost,
    };
  }

  /** A new tag: nothing is to be said of it yet. */
  begin(): void {
    this.judge('exact', '');
  }

  judge(verdict: TagVerdict, note = this.#note): void {
    this.#verdict = verdict;
    this.#note = note;
  }

  /** Takes note that a thing was said in other words than its own. */
  rewritten(): void {
    if (this.#verdict === 'exact') this.#verdict = 'rewritten';
  }

  /** The tag at hand, with its text. */
  piece(text: string): Piece {
    return { text, verdict: this.#verdict, note: this.#note };
  }

  /** Writes with an expression writer, and takes note of what it had to say in other words. */
  saying<Result>(say: (writer: ExpressionWriter) => Result | null): Result | null {
    const writer = new ExpressionWriter(this.context, this.task.quote);
    const result = say(writer);
    if (result !== null && writer.isRewritten) this.rewritten();
    return result;
  }

  /** Writes what stands within one more block. */
  within<Result>(scope: WritingScope | null, write: () => Result): Result {
    const around = this.#scopes;
    if (scope !== null) this.#scopes = [...around, scope];
    const result = write();
    this.#scopes = around;
    return result;
  }

  shapeOf(segments: readonly string[]): ReturnType<typeof shapeOf> {
    return shapeOf(segments, itemsOf(this.#scopes), this.#data);
  }

  /** Whether a value is a list. */
  isList(value: Expression): boolean {
    return value.kind === 'path' && this.shapeOf(value.segments)?.type === 'list';
  }
}
