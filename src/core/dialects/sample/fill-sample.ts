import { splitAtSentinels } from '../../html/tags.js';
import type { MergeFields, MergeTag } from '../model.js';
import { evaluate, loopName } from '../../expressions/evaluate.js';
import { Scope } from '../../expressions/scope.js';
import { buildValue, isList, isPresent, textOf, type BuildRecord, type BuildValue } from '../../expressions/values.js';
import type { Expression } from '../../expressions/expression.js';

/** A recipient to fill a message with: the merge fields, and what the platform would know. */
export interface SampleRecipient {
  /** By the names of the fields; `link`, `sender` and `date` hold the system values. */
  readonly values: BuildRecord;
  /** BCP 47 tag, for names of months and decimal separators. */
  readonly language: string;
}

/** What a platform would know besides the fields. */
export interface SampleSystem {
  readonly company: string;
  readonly postalAddress: string;
  readonly year: number;
  /** Where readers leave; null where that is not known, so that an example stands for it. */
  readonly unsubscribe: string | null;
}

/**
 * The recipient that the samples of a project's fields describe.
 * @param own the values in which it differs from them, by the names of the fields; null for one that it lacks
 */
export function sampleRecipient(
  fields: MergeFields,
  system: SampleSystem,
  language: string,
  own: ReadonlyMap<string, unknown> = new Map(),
): SampleRecipient {
  const link = (name: string): [string, BuildValue] => [
    name,
    (name === 'unsubscribe' ? system.unsubscribe : null) ?? `https://platform.example/${name}`,
  ];
  return {
    values: new Map<string, BuildValue>([
      ...[...fields].map(([name, { sample }]): [string, BuildValue] => [
        name,
        buildValue(own.has(name) ? own.get(name) : sample),
      ]),
      ['link', new Map(['unsubscribe', 'preferences', 'browser', 'forward'].map(link))],
      [
        'sender',
        new Map([
          ['company', system.company],
          ['postal_address', system.postalAddress],
        ]),
      ],
      ['date', new Map([['year', system.year]])],
    ]),
    language,
  };
}

/**
 * What a recipient would read: a text in which merge tags stand as sentinels, filled. Present, given, fallbacks and loops
 * mean what they mean in every dialect.
 * @param escape prepares a value for the text that it goes into
 */
export function fillSample(
  text: string,
  tags: readonly MergeTag[],
  recipient: SampleRecipient,
  escape: (value: string) => string,
): string {
  return new Filler(splitAtSentinels(text), tags, recipient, escape).whole();
}

/** A block that is being filled. */
type OpenBlock =
  | { readonly kind: 'if'; readonly scope: Scope }
  | {
      readonly kind: 'each';
      readonly scope: Scope;
      readonly start: number;
      readonly item: string;
      readonly items: readonly BuildValue[];
      next: number;
    };

/** Walks the pieces in order, and jumps where blocks say so; blocks may be nested as deep as they like. */
/** The names in the body of a loop: the item, and what the loop knows of it. */
function itemScope(around: Scope, name: string, items: readonly BuildValue[], index: number): Scope {
  const counters = new Map<string, BuildValue>([
    ['#index', index + 1],
    ['#index0', index],
    ['#first', index === 0],
    ['#last', index === items.length - 1],
    ['#length', items.length],
  ]);
  return around.with(
    new Map([
      [name, items[index] ?? null],
      [loopName(name), counters],
    ]),
  );
}

class Filler {
  readonly #out: string[] = [];
  readonly #open: OpenBlock[] = [];
  /** For each piece that begins an arm of a block, the piece that begins the next arm or ends the block. */
  readonly #nextArm: ReadonlyMap<number, number>;
  #at = 0;

  constructor(
    private readonly pieces: readonly (string | number)[],
    private readonly tags: readonly MergeTag[],
    private readonly recipient: SampleRecipient,
    private readonly escape: (value: string) => string,
  ) {
    this.#nextArm = armsOf(pieces, tags);
  }

  whole(): string {
    while (this.#at < this.pieces.length) {
      const piece = this.pieces[this.#at] ?? '';
      if (typeof piece === 'string') this.#out.push(piece);
      else this.tag(this.tags[piece]);
      this.#at += 1;
    }
    return this.#out.join('');
  }

  private get scope(): Scope {
    return this.#open[this.#open.length - 1]?.scope ?? new Scope(this.recipient.values, null);
  }

  private tag(tag: MergeTag | undefined): void {
    switch (tag?.kind) {
      case 'output': {
        const text = textOf(this.value(tag.value)) ?? '';
        this.#out.push(tag.raw ? text : this.escape(text));
        return;
      }
      case 'literal':
        this.#out.push('@{');
        return;
      case 'if':
        return this.chooseArm(tag.condition);
      case 'each':
        return this.openLoop(tag.list, tag.item);
      case 'else':
      case 'else-if':
        // The arm before it is done.
        return this.#open[this.#open.length - 1]?.kind === 'each' ? this.repeat() : this.leave();
      case 'comment':
      case 'broken':
      case undefined:
        return;
      case 'end':
        return this.#open[this.#open.length - 1]?.kind === 'each' ? this.repeat() : void this.#open.pop();
    }
  }

  private value(expression: Expression): BuildValue | undefined {
    return evaluate(expression, {
      scope: this.scope,
      source: this.tags[0]?.place.source ?? neverRead(),
      language: this.recipient.language,
      fields: new Set(),
      keepTags: (text) => text,
      // What is wrong with a tag was said when the message was read.
      report: () => undefined,
    });
  }

  private chooseArm(condition: Expression): void {
    this.#open.push({ kind: 'if', scope: this.scope });
    let holds = isPresent(this.value(condition));
    while (!holds) {
      this.#at = this.#nextArm.get(this.#at) ?? this.pieces.length;
      const piece = this.pieces[this.#at];
      const arm = typeof piece === 'number' ? this.tags[piece] : undefined;
      if (arm?.kind === 'else-if') holds = isPresent(this.value(arm.condition));
      else if (arm?.kind === 'else') holds = true;
      else {
        this.#open.pop();
        return;
      }
    }
  }

  private openLoop(list: Expression, item: string): void {
    const value = this.value(list);
    const items = isList(value) ? value : [];
    const [first] = items;
    if (first === undefined) {
      const other = this.#nextArm.get(this.#at) ?? this.pieces.length;
      const piece = this.pieces[other];
      const isElse = typeof piece === 'number' && this.tags[piece]?.kind === 'else';
      if (isElse) this.#open.push({ kind: 'if', scope: this.scope });
      this.#at = other;
      return;
    }
    const scope = itemScope(this.scope, item, items, 0);
    this.#open.push({ kind: 'each', scope, start: this.#at, item, items, next: 1 });
  }

  /** At the end of a loop's body: the next item, or on behind the loop. */
  private repeat(): void {
    const block = this.#open.pop();
    if (block?.kind !== 'each') return;
    const item = block.items[block.next];
    if (item === undefined) {
      const isEnd = this.pieces[this.#at];
      const here = typeof isEnd === 'number' ? this.tags[isEnd]?.kind : undefined;
      if (here !== 'end') this.#at = this.#nextArm.get(this.#at) ?? this.pieces.length;
      return;
    }
    const scope = itemScope(this.scope, block.item, block.items, block.next);
    this.#open.push({ ...block, scope, next: block.next + 1 });
    this.#at = block.start;
  }

  /** On behind a choice whose arm is done. */
  private leave(): void {
    let at = this.#at;
    for (let next = this.#nextArm.get(at); next !== undefined; next = this.#nextArm.get(at)) at = next;
    this.#open.pop();
    this.#at = at;
  }
}

function neverRead(): never {
  throw new Error('A text without tags has no expressions.');
}

/** Which arm follows which; a block that is not closed (which has been reported) ends with the text. */
function armsOf(pieces: readonly (string | number)[], tags: readonly MergeTag[]): Map<number, number> {
  const next = new Map<number, number>();
  const open: number[] = [];
  pieces.forEach((piece, index) => {
    const kind = typeof piece === 'number' ? tags[piece]?.kind : undefined;
    if (kind === 'else' || kind === 'else-if' || kind === 'end') {
      const before = open.pop();
      if (before !== undefined) next.set(before, index);
    }
    if (kind === 'if' || kind === 'each' || kind === 'else' || kind === 'else-if') open.push(index);
  });
  return next;
}
