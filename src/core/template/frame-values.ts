import { templateAdvice } from '../findings/wording/templates.js';
import { finding } from '../findings/finding.js';
import { findTags, neutralDelimiters, sentinel } from '../html/tags.js';
import type { Origin } from '../text/mapped-text.js';
import type { Span } from '../text/span.js';
import { evaluate, type Evaluation } from '../expressions/evaluate.js';
import type { AttributePiece, Part, PartNode, PassedValue, ValueNode } from './nodes.js';
import { describeValue, isList, isRecord, textOf, type BuildRecord, type BuildValue } from '../expressions/values.js';
import type { Expansion } from './expansion.js';
import type { Frame } from './frame.js';

/** A merge tag that a value carries. */
interface KeptTag {
  readonly text: string;
  readonly origin: Origin;
  readonly uses: readonly Origin[];
}

/** What build values come to where they stand; the merge tags that they carry are kept apart from their words. */
export class FrameValues {
  /** By the number in their sentinel. */
  readonly #tags: KeptTag[] = [];

  constructor(private readonly given: Expansion) {}

  /** The tag that a sentinel stands for. */
  keptTag(number: number): KeptTag | undefined {
    return this.#tags[number];
  }

  /** What an expression is evaluated with. */
  evaluation(frame: Frame): Evaluation {
    return {
      scope: frame.scope,
      source: frame.source,
      language: this.given.language,
      fields: this.given.fields,
      keepTags: (text, span) => this.keepTags(text, span, frame),
      report: this.given.report,
    };
  }

  /** Merge tags in a text that an author writes in an expression work; they are kept apart from its words. */
  keepTags(text: string, span: Span, frame: Frame): string {
    const tags = findTags(text, [neutralDelimiters]);
    let position = 0;
    const pieces = tags.map((tag) => {
      const before = text.slice(position, tag.start);
      position = tag.end;
      return before + this.keep(text.slice(tag.start, tag.end), { source: frame.source, span }, frame.uses);
    });
    return pieces.join('') + text.slice(position);
  }

  private keep(text: string, origin: Origin, uses: readonly Origin[]): string {
    this.#tags.push({ text, origin, uses });
    return sentinel(this.#tags.length - 1);
  }

  /** What a build value comes to; undefined where its expression has been reported as wrong. */
  valueOf({ expression }: ValueNode, frame: Frame): BuildValue | undefined {
    return expression === null ? undefined : evaluate(expression, this.evaluation(frame));
  }

  /** The text of a value; null for a list or a group, which is reported: neither can be printed. */
  textFor(value: BuildValue, node: ValueNode, frame: Frame): string | null {
    const text = textOf(value);
    const span = node.expression?.span ?? node.span;
    if (text === null) {
      const advice = isList(value)
        ? templateAdvice.loopOver
        : templateAdvice.printOne(isRecord(value) ? [...value.keys()].slice(0, 5) : []);
      this.given.report(
        finding('build-value-kind', { source: frame.source, span }, { found: describeValue(value), advice }),
      );
    }
    return text;
  }

  /** A build value as a piece of a merge tag: the text of a quoted string, or a name or number outside of quotes. */
  inMerge(node: ValueNode & { readonly quoted: boolean }, frame: Frame): string {
    const value = this.valueOf(node, frame);
    const text = value === undefined ? '' : (this.textFor(value, node, frame) ?? '');
    if (value === undefined) return '';
    if (node.quoted)
      return text
        .replace(/[\\"']/g, '\\$&')
        .replace(/&(?=#?\w+;)/g, '&amp;')
        .replace(/\s+/g, ' ');
    if (!/^(?:[A-Za-z_][\w-]*(?:\.\w+)*|-?\d+(?:\.\d+)?)$/.test(text))
      this.given.report(
        finding('build-in-merge', { source: frame.source, span: node.span }, { found: describeValue(value) }),
      );
    return text.replace(/[^\w.-]/g, '');
  }

  /** What the use of a part passes to it, and for the rest what the part itself says. */
  passedTo(node: PartNode, part: Part, frame: Frame): BuildRecord {
    const values = new Map<string, BuildValue>();
    for (const given of node.values) {
      const accepted = part.accepts.find(({ name }) => name.toLowerCase() === given.name);
      if (accepted !== undefined) values.set(accepted.name, this.passed(given, frame));
    }
    for (const { name, fallback } of part.accepts) if (!values.has(name)) values.set(name, fallback);
    return values;
  }

  /** An attribute that is one build value passes the value itself, so that lists can be passed. */
  private passed({ pieces, hasValue }: PassedValue, frame: Frame): BuildValue {
    const [only] = pieces;
    if (!hasValue) return true;
    if (pieces.length === 1 && typeof only === 'object' && only.kind === 'value')
      return this.valueOf(only, frame) ?? null;
    return pieces.map((piece) => this.passedText(piece, frame)).join('');
  }

  private passedText(piece: AttributePiece, frame: Frame): string {
    if (typeof piece === 'string') return piece;
    const origin = { source: frame.source, span: piece.span };
    if (piece.kind === 'tag') return this.keep(frame.source.slice(piece.span), origin, frame.uses);
    if (piece.kind === 'value') {
      const value = this.valueOf(piece, frame);
      return value === undefined ? '' : (this.textFor(value, piece, frame) ?? '');
    }
    const text = piece.pieces.map((part) => ('kind' in part ? this.inMerge(part, frame) : frame.source.slice(part)));
    return this.keep(text.join(''), origin, frame.uses);
  }
}
