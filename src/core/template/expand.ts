import { finding, watched, type Place } from '../findings/finding.js';
import { splitAtSentinels } from '../html/tags.js';
import { MappedText, type Origin, type Piece } from '../text/mapped-text.js';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';
import { escaper, withoutTags } from './escape-value.js';
import { evaluate, loopName } from '../expressions/evaluate.js';
import type { MergeNode, Part, PartNode, Template, TemplateNode, ValueNode } from './nodes.js';
import { checkPartUse, isNothing, reportUnknownPart } from './part-use.js';
import { Scope } from '../expressions/scope.js';
import { describeValue, htmlOf, isList, isPresent, isRecord, textOf, type BuildValue } from '../expressions/values.js';
import type { ExpandedPage, VersionSpan } from './expanded-page.js';
import type { PageContent, Expansion } from './expansion.js';
import type { Frame } from './frame.js';
import { FrameValues } from './frame-values.js';

/** Expands a page: build values are filled in, loops unrolled, parts put in, and their styles into the head. */
export function expandPage(page: Template, content: PageContent | null, expansion: Expansion): ExpandedPage {
  return new Expander(expansion).page(page, content);
}

/** Expands a single line of text, such as the name of an edition. Null where something in it is wrong. */
export function expandLine(template: Template, expansion: Expansion): string | null {
  return unlessWrong(expansion, (expander) => expander.line(template));
}

/** Expands a text that is no HTML: values stand in it as they are. Null where something in it is wrong. */
export function expandText(template: Template, expansion: Expansion): MappedText | null {
  return unlessWrong(expansion, (expander) => expander.text(template));
}

function unlessWrong<T>(expansion: Expansion, expand: (expander: Expander) => T): T | null {
  const { report, hasFailed } = watched(expansion.report);
  const expanded = expand(new Expander({ ...expansion, report }));
  return hasFailed() ? null : expanded;
}

/** Stands where a piece for one version alone begins and ends. */
const BORDER = '<!---->';

class Expander {
  readonly #shared: Scope;
  readonly #pieces: Piece[] = [];
  readonly #values: FrameValues;
  readonly #styled = new Map<string, Part>();
  readonly #regionCounts = new Map<string, number>();
  /** Pieces that are for one version alone: the numbers of the first of them and of the first behind them. */
  readonly #only: { version: 'html' | 'text'; from: number; to: number }[] = [];
  #inWord = false;
  #headEnd: number | null = null;
  #content: PageContent | null = null;

  constructor(private readonly given: Expansion) {
    this.#shared = new Scope(given.shared, null);
    this.#values = new FrameValues(given);
  }

  page(page: Template, content: PageContent | null): ExpandedPage {
    const plain = this.#shared.with(this.given.values);
    const outermost = { uses: [], repeats: false, slots: null, rootAttributes: null, open: [] };
    const lines = [...(content?.lines ?? [])].map(([key, template]): [string, BuildValue] => [
      key,
      this.lineIn({ ...outermost, source: template.source, scope: plain }, template.nodes),
    ]);
    const base = { ...outermost, scope: lines.length === 0 ? plain : plain.with(new Map(lines)) };
    const body = content === null ? null : { ...base, source: content.body.source };
    const fill = new Map([['', content?.body.nodes ?? []]]);
    this.#content = content;
    this.nodes(page.nodes, {
      ...base,
      source: page.source,
      slots: body === null ? null : { fill, frame: body },
    });
    const styles = [...this.#styled.values()].flatMap((part) => this.styleOf(part));
    const at = this.#headEnd ?? 0;
    const pieces = [...this.#pieces.slice(0, at), ...styles, ...this.#pieces.slice(at)];
    return { source: new MappedText(page.source.name, pieces), only: this.versionSpans(pieces, at, styles.length) };
  }

  /** Where the pieces for one version alone stand, once others are put in at a place before or behind them. */
  private versionSpans(pieces: readonly Piece[], at: number, added: number): VersionSpan[] {
    if (this.#only.length === 0) return [];
    const starts: number[] = [0];
    for (const { text } of pieces) starts.push((starts.at(-1) ?? 0) + text.length);
    const startOf = (number: number): number => starts[number < at ? number : number + added] ?? 0;
    return this.#only.map(({ version, from, to }) => ({
      version,
      span: { start: startOf(from), end: startOf(to) },
      borders: [startOf(from - 1), startOf(to)],
    }));
  }

  line({ source, nodes }: Template): string {
    return this.lineIn(this.plainFrame(source), nodes);
  }

  text({ source, nodes }: Template): MappedText {
    const frame = this.plainFrame(source);
    for (const node of nodes) {
      if (node.kind === 'text') this.#pieces.push(this.copy(node.span, source, []));
      else if (node.kind === 'literal') this.put('${', node.span, frame);
      else if (node.kind === 'value') {
        const value = this.#values.valueOf(node, frame);
        const text = value === undefined ? null : this.#values.textFor(value, node, frame);
        if (text !== null) this.putText(text, node, frame, (piece) => this.asPlainText(piece));
      }
    }
    return new MappedText(source.name, this.#pieces);
  }

  /** A value in plain text, where it must not complete what stands before or behind it to a merge tag. */
  private asPlainText(piece: string): string {
    const before = this.#pieces[this.#pieces.length - 1]?.text ?? '';
    const plain = piece.replace(/@\{/g, '@@{').replace(/@$/, '@{"@"}');
    return before.endsWith('@') ? plain.replace(/^\{/, '@{"{"}') : plain;
  }

  /** Where a text that is part of no page is expanded. */
  private plainFrame(source: SourceText): Frame {
    const scope = this.#shared.with(this.given.values);
    return { source, scope, uses: [], repeats: false, slots: null, rootAttributes: null, open: [] };
  }

  private lineIn(frame: Frame, nodes: readonly TemplateNode[]): string {
    return nodes
      .map((node) => {
        if (node.kind === 'value') return textOf(this.#values.valueOf(node, frame)) ?? '';
        if (node.kind === 'literal') return '${';
        return node.kind === 'text' ? this.#values.keepTags(frame.source.slice(node.span), node.span, frame) : '';
      })
      .join('');
  }

  private styleOf({ styles, template }: Part): Piece[] {
    return styles.flatMap((span) => [
      this.copy(span, template.source, []),
      this.made('\n', { source: template.source, span }),
    ]);
  }

  private copy(span: Span, source: SourceText, uses: readonly Origin[]): Piece {
    return { text: source.slice(span), origin: { source, span }, exact: true, uses };
  }

  private made(text: string, origin: Origin, uses: readonly Origin[] = []): Piece {
    return { text, origin, exact: false, uses };
  }

  private nodes(nodes: readonly TemplateNode[], frame: Frame): void {
    for (const node of nodes) this.node(node, frame);
  }

  private node(node: TemplateNode, frame: Frame): void {
    switch (node.kind) {
      case 'text':
        return void this.#pieces.push(this.copy(node.span, frame.source, frame.uses));
      case 'literal':
        return this.put('${', node.span, frame);
      case 'value':
        return this.value(node, frame);
      case 'merge':
        return this.merge(node, frame);
      case 'each':
        return this.each(node, frame);
      case 'conditional': {
        const branch = node.branches.find(
          ({ condition }) => condition === null || isPresent(evaluate(condition, this.#values.evaluation(frame))),
        );
        return this.nodes(branch?.body ?? [], frame);
      }
      case 'only':
        return this.only(node, frame);
      case 'part':
        return this.part(node, frame);
      case 'slot':
        return this.slot(node, frame);
      case 'slotted':
        return this.nodes(node.body, frame);
      case 'region-name':
        return this.regionName(node.span, frame);
      case 'root-attributes':
        if (frame.rootAttributes !== null) this.nodes(frame.rootAttributes.nodes, frame.rootAttributes.frame);
        return;
      case 'head-end':
        return this.headEnd(frame);
      case 'title':
        if (this.#content?.replacesTitle !== true) this.nodes(node.body, frame);
    }
  }

  private headEnd(frame: Frame): void {
    const head = this.#content?.head ?? null;
    if (head !== null) this.nodes(head.nodes, { ...frame, source: head.source, slots: null });
    this.#headEnd = this.#pieces.length;
  }

  private put(text: string, span: Span, frame: Frame): void {
    this.#pieces.push(this.made(text, { source: frame.source, span }, frame.uses));
  }

  private value(node: ValueNode, frame: Frame): void {
    const value = this.#values.valueOf(node, frame);
    if (value === undefined) return;
    const html = htmlOf(value);
    const text = this.#values.textFor(value, node, frame);
    if (text === null) return;
    const write = html !== null || node.raw ? (piece: string): string => piece : escaper(node.unquoted);
    this.putText(text, node, frame, (piece) => (node.raw && html === null ? piece : withoutTags(write(piece))));
  }

  /** Puts a value's text in, the merge tags that it carries as they were written. */
  private putText(text: string, { span }: ValueNode, frame: Frame, write: (piece: string) => string): void {
    for (const piece of splitAtSentinels(text)) {
      const kept = typeof piece === 'number' ? this.#values.keptTag(piece) : undefined;
      if (kept !== undefined) this.#pieces.push({ ...kept, exact: true });
      else if (typeof piece === 'string') this.put(write(piece), span, frame);
    }
  }

  private report(code: Parameters<typeof finding>[0], place: Place, data: Readonly<Record<string, string>> = {}): void {
    this.given.report(finding(code, place, data));
  }

  private merge(node: MergeNode, frame: Frame): void {
    for (const piece of node.pieces) {
      if (!('kind' in piece)) this.#pieces.push(this.copy(piece, frame.source, frame.uses));
      else this.put(this.#values.inMerge(piece, frame), piece.span, frame);
    }
  }

  private each(node: Extract<TemplateNode, { kind: 'each' }>, frame: Frame): void {
    const list = evaluate(node.list, this.#values.evaluation(frame));
    if (list === undefined) return;
    const entries: [key: string, item: BuildValue][] = isRecord(list)
      ? [...list]
      : isList(list)
        ? list.map((item, index) => [String(index + 1), item])
        : [];
    if (!isRecord(list) && !isList(list) && list !== null && list !== '') {
      const place = { source: frame.source, span: node.list.span };
      return this.report('build-value-no-list', place, { found: describeValue(list) });
    }
    if (entries.length === 0) return this.nodes(node.otherwise ?? [], frame);
    entries.forEach(([key, item], index) => {
      const loop = new Map<string, BuildValue>([
        ['index', index + 1],
        ['first', index === 0],
        ['last', index === entries.length - 1],
        ['count', entries.length],
        ['key', key],
      ]);
      const own = new Map<string, BuildValue>([
        [node.item, item],
        [loopName(node.item), loop],
      ]);
      this.nodes(node.body, { ...frame, scope: frame.scope.with(own), repeats: true });
    });
  }

  private only(node: Extract<TemplateNode, { kind: 'only' }>, frame: Frame): void {
    if (node.medium !== 'word') return this.onlyVersion(node, node.medium, frame);
    this.put('<!--[if mso]>', node.span, frame);
    const from = this.#pieces.length;
    const wasInWord = this.#inWord;
    this.#inWord = true;
    this.nodes(node.body, frame);
    this.#inWord = wasInWord;
    const inside = this.#pieces
      .slice(from)
      .map(({ text }) => text)
      .join('');
    if (inside.includes('-->')) {
      this.#pieces.length = from;
      this.report('template-word-comment', { source: frame.source, span: node.span });
    }
    this.put('<![endif]-->', node.span, frame);
  }

  /** What is for one version stands between comments, so that no parser joins it with what is around it. */
  private onlyVersion(
    { body, span }: { body: readonly TemplateNode[]; span: Span },
    version: 'html' | 'text',
    frame: Frame,
  ): void {
    // In a comment for one engine nothing is for the text, and comments do not nest.
    if (this.#inWord) return version === 'html' ? this.nodes(body, frame) : undefined;
    this.put(BORDER, span, frame);
    const from = this.#pieces.length;
    this.nodes(body, frame);
    this.#only.push({ version, from, to: this.#pieces.length });
    this.put(BORDER, span, frame);
  }

  private part(node: PartNode, frame: Frame): void {
    const { tag } = node;
    const place = { source: frame.source, span: node.span };
    const part = this.given.parts.get(tag);
    if (part === undefined) {
      // One that the project has could not be read, which has been said.
      if (this.given.partNames.includes(tag)) return;
      return reportUnknownPart(tag, this.given.partNames, place, this.given.report);
    }
    // A cycle has been reported where the part was read.
    if (frame.open.includes(tag)) return;
    if (part.styles.length > 0) this.#styled.set(tag, part);
    checkPartUse(node, part, place, this.given.report);
    this.nodes(part.template.nodes, {
      source: part.template.source,
      scope: this.#shared.with(this.#values.passedTo(node, part, frame)),
      uses: [...frame.uses, place],
      repeats: true,
      slots: { fill: node.slots, frame },
      rootAttributes: this.attributesForRoot(node, frame),
      open: [...frame.open, tag],
    });
  }

  private attributesForRoot(node: PartNode, frame: Frame): Frame['rootAttributes'] {
    if (node.regionAttributes.length > 0) return { nodes: node.regionAttributes, frame };
    return node.isRoot ? frame.rootAttributes : null;
  }

  private slot(node: Extract<TemplateNode, { kind: 'slot' }>, frame: Frame): void {
    if (frame.slots === null) return this.report('slot-outside', { source: frame.source, span: node.span });
    const { fill, frame: outer } = frame.slots;
    const nodes = fill.get(node.name) ?? [];
    const isEmpty = nodes.every((child) => isNothing(child, outer.source));
    if (isEmpty) return this.nodes(node.body, frame);
    this.nodes(nodes, outer);
  }

  private regionName(span: Span, frame: Frame): void {
    const name = frame.source.slice(span);
    this.#pieces.push(this.copy(span, frame.source, frame.uses));
    if (!frame.repeats) return;
    const number = (this.#regionCounts.get(name) ?? 0) + 1;
    this.#regionCounts.set(name, number);
    this.put(`-${number}`, span, frame);
  }
}
