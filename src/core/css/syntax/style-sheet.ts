import { cssDetail } from '../../findings/wording/css.js';
import { finding, type Place, type Report } from '../../findings/finding.js';
import type { SourceText } from '../../text/source-text.js';
import { holdsTag, sentinel } from '../../html/tags.js';
import { firstFrom, type Span } from '../../text/span.js';
import { tokenizeCss, tokenType as t, type CssToken } from './css-tree.js';
import type { CssInput, CssItem, Declaration, AtRule, RawRule } from './css-items.js';

/** At-rules whose blocks hold rules and, when nested, declarations. Blocks of others are not looked into. */
const groupingRules: ReadonlySet<string> = new Set([
  'media',
  'supports',
  'layer',
  'container',
  'scope',
  'starting-style',
]);

/**
 * Reads a style sheet as CSS Syntax Level 3 says (section 5.5, with nesting), error recovery included: what is
 * broken is left out exactly as a browser leaves it out, and reported. The grammar of blocks is our own because the
 * borrowed one does not read nested rules that begin with a type or a class.
 */
export function parseStyleSheet(input: CssInput, report: Report): CssItem[] {
  return new CssReader(input, report).styleSheet();
}

/**
 * Reads the contents of a style attribute; nested rules are not allowed there. What a template tag alone says is kept as a
 * declaration without a property.
 */
export function parseDeclarationList(input: CssInput, report: Report): Declaration[] {
  const items = new CssReader(input, report).blockContents('attribute');
  return items.filter((item): item is Declaration => item.kind === 'declaration');
}

/** Blocks nested deeper than this are not looked into, so that no sheet exhausts the stack. */
const DEEPEST = 100;

class CssReader {
  readonly #tokens: readonly CssToken[];
  #index = 0;
  #depth = 0;
  #toldDepth = false;
  #toldUnclosed = false;
  /** True once a bracket was open at the end of the text. */
  #endsOpen = false;

  private readonly source: SourceText;
  private readonly text: string;
  private readonly span: Span;
  private readonly tags: readonly Span[];

  constructor(
    input: CssInput,
    private readonly report: Report,
  ) {
    ({ source: this.source, text: this.text, span: this.span, tags: this.tags } = input);
    this.#tokens = tokenizeCss(this.text.slice(this.span.start, this.span.end), this.span.start);
  }

  styleSheet(): CssItem[] {
    const items: CssItem[] = [];
    for (let token = this.peek(); token !== null; token = this.peek()) {
      if (this.skips(token) || token.type === t.cdo || token.type === t.cdc) this.#index += 1;
      else if (token.type === t.atKeyword) items.push(this.atRule('sheet'));
      else pushIfPresent(items, this.qualifiedRule('top'));
    }
    return items;
  }

  /** Up to the closing brace of the block, which is left to the caller. */
  blockContents(of: 'attribute' | 'rule'): CssItem[] {
    const items: CssItem[] = [];
    for (let token = this.peek(); token !== null; token = this.peek()) {
      if (token.type === t.closeCurly && of === 'rule') break;
      if (this.skips(token) || token.type === t.semicolon) this.#index += 1;
      else if (token.type === t.atKeyword) items.push(this.atRule('block'));
      else {
        const declaration = this.declaration();
        if (declaration !== 'broken') pushIfPresent(items, declaration ?? this.nestedRule(of));
      }
    }
    return items;
  }

  /** @param within a block ends an at-rule that has none of its own */
  private atRule(within: 'sheet' | 'block'): AtRule {
    const start = this.advance();
    const name = this.text.slice(start.start + 1, start.end).toLowerCase();
    const preludeStart = start.end;
    let end = preludeStart;
    for (let token = this.peek(); token !== null; token = this.peek()) {
      if (token.type === t.semicolon || (within === 'block' && token.type === t.closeCurly)) {
        if (token.type === t.semicolon) this.#index += 1;
        return {
          kind: 'at-rule',
          name,
          prelude: this.trim(preludeStart, end),
          items: null,
          place: this.place(start.start, token.type === t.semicolon ? token.end : end),
        };
      }
      if (token.type === t.openCurly) {
        const items = groupingRules.has(name) ? this.block(start) : this.opaqueBlock(start);
        return {
          kind: 'at-rule',
          name,
          prelude: this.trim(preludeStart, end),
          items,
          place: this.place(start.start, this.lastEnd()),
        };
      }
      end = this.preludeValue();
    }
    return {
      kind: 'at-rule',
      name,
      prelude: this.trim(preludeStart, end),
      items: null,
      place: this.place(start.start, end),
    };
  }

  private nestedRule(of: 'attribute' | 'rule'): CssItem | null {
    return of === 'attribute' ? this.badDeclaration() : this.qualifiedRule('nested');
  }

  private badDeclaration(): Declaration | null {
    const start = this.peek()?.start ?? this.span.end;
    let end = start;
    for (let token = this.peek(); token !== null && token.type !== t.semicolon; token = this.peek())
      end = this.componentValue();
    const value = this.writtenPart({ start, end });
    if (holdsTag(value)) {
      const place = this.place(start, end);
      return { kind: 'declaration', property: '', value: value.trim(), important: false, place, valueSpan: place.span };
    }
    this.report(finding('css-syntax', this.place(start, end), { detail: cssDetail.declarationParts }));
    return null;
  }

  private qualifiedRule(place: 'top' | 'nested'): RawRule | null {
    const start = this.peek()?.start ?? this.span.end;
    let end = start;
    for (let token = this.peek(); token !== null; token = this.peek()) {
      if (token.type === t.openCurly) {
        const prelude = this.trim(start, end);
        const items = this.block({ type: token.type, start, end: token.end });
        return { kind: 'rule', prelude, items, place: this.place(start, this.lastEnd()) };
      }
      const endsNested = place === 'nested' && (token.type === t.semicolon || token.type === t.closeCurly);
      if (endsNested) break;
      if (token.type === t.closeCurly) {
        this.report(finding('css-syntax', this.place(token.start, token.end), { detail: cssDetail.closesNothing }));
      }
      end = this.preludeValue();
    }
    const detail = place === 'nested' ? cssDetail.neither : cssDetail.noBlock;
    this.report(finding('css-syntax', this.place(start, end), { detail }));
    return null;
  }

  private block(opener: CssToken): CssItem[] {
    if (this.#depth >= DEEPEST) {
      const detail = cssDetail.nestedDeep(DEEPEST);
      if (!this.#toldDepth) this.report(finding('css-syntax', this.place(opener.start, opener.end), { detail }));
      this.#toldDepth = true;
      return this.opaqueBlock(opener);
    }
    this.#index += 1;
    this.#depth += 1;
    const items = this.blockContents('rule');
    this.#depth -= 1;
    this.close(opener);
    return items;
  }

  private opaqueBlock(opener: CssToken): CssItem[] {
    this.#index += 1;
    for (let token = this.peek(); token !== null && token.type !== t.closeCurly; token = this.peek())
      this.componentValue();
    this.close(opener);
    return [];
  }

  /** Of several blocks that the end of the sheet closes, the innermost is told. */
  private close(opener: CssToken): void {
    if (this.peek() !== null) this.#index += 1;
    else if (!this.#toldUnclosed) {
      this.#toldUnclosed = true;
      this.report(finding('css-syntax', this.place(opener.start, opener.end), { detail: cssDetail.blockUnclosed }));
    }
  }

  /** A declaration; `broken` for one that was reported and left out; null, with the reader where it was, for anything else. */
  private declaration(): Declaration | 'broken' | null {
    const begin = this.#index;
    const name = this.peek();
    if (name === null || name.type !== t.ident) return null;
    this.#index += 1;
    this.skipSpace();
    if (this.peek()?.type !== t.colon) return this.rewind(begin);
    this.#index += 1;
    this.skipSpace();
    const written = this.text.slice(name.start, name.end);
    const custom = written.startsWith('--');
    const first = this.#index;
    let hasBlock = false;
    for (let token = this.peek(); token !== null; token = this.peek()) {
      if (token.type === t.semicolon || token.type === t.closeCurly) break;
      if (token.type === t.openCurly) hasBlock = true;
      this.componentValue();
    }
    if (hasBlock && !custom) return this.rewind(begin);
    return this.finishDeclaration(written, custom, name.start, first);
  }

  private finishDeclaration(written: string, custom: boolean, start: number, first: number): Declaration | 'broken' {
    const tokens = this.#tokens.slice(first, this.#index);
    const bad = tokens.find((token) => token.type === t.badString || token.type === t.badUrl);
    if (bad !== undefined) {
      this.report(
        finding('css-syntax', this.place(bad.start, bad.end), {
          detail: cssDetail.valueUnclosed,
        }),
      );
      return 'broken';
    }
    const { kept: value, important } = withoutImportant(tokens, this.text);
    const from = value[0]?.start ?? this.tokenStart(first);
    const to = value[value.length - 1]?.end ?? from;
    if (value.length === 0 && !custom) {
      this.report(finding('css-syntax', this.place(start, this.lastEnd()), { detail: cssDetail.noValue(written) }));
      return 'broken';
    }
    const joined = this.written(value);
    const text = this.peek() === null ? closed(joined) : joined;
    const name = this.writtenPart({ start, end: start + written.length });
    const property = custom || name !== written ? name : written.toLowerCase();
    return {
      kind: 'declaration',
      property,
      value: text,
      important,
      place: this.place(start, this.lastEnd()),
      valueSpan: { start: from, end: to },
    };
  }

  /** A value on one line, its white space folded; of a comment stays only what keeps its neighbours apart. */
  private written(value: readonly CssToken[]): string {
    const pieces: string[] = [];
    value.forEach((token, index) => {
      const spaced = pieces[pieces.length - 1] === ' ';
      if (token.type === t.whiteSpace) pieces.push(...(spaced ? [] : [' ']));
      else if (token.type === t.comment)
        pieces.push(...(spaced || value[index + 1]?.type === t.whiteSpace ? [] : ['/**/']));
      else pieces.push(this.writtenPart(token));
    });
    return pieces.join('');
  }

  /** A stretch of the source, with sentinels in place of template tags. */
  private writtenPart({ start, end }: Span): string {
    const pieces: string[] = [];
    let position = start;
    for (let index = firstFrom(this.tags, start); index < this.tags.length; index += 1) {
      const tag = this.tags[index];
      if (tag === undefined || tag.end > end) break;
      pieces.push(this.source.text.slice(position, tag.start), sentinel(index));
      position = tag.end;
    }
    return pieces.join('') + this.source.text.slice(position, end);
  }

  /** Steps over one component value (a token, or a bracketed group) and returns its end. */
  private componentValue(): number {
    const closers: number[] = [];
    for (let token = this.peek(); token !== null; token = this.peek()) {
      if (token.type === closers[closers.length - 1]) closers.pop();
      else if (token.type === t.openCurly) closers.push(t.closeCurly);
      else if (token.type === t.openSquare) closers.push(t.closeSquare);
      else if (token.type === t.openRound || token.type === t.function) closers.push(t.closeRound);
      this.#index += 1;
      if (closers.length === 0) return token.end;
    }
    this.#endsOpen = true;
    return this.span.end;
  }

  /** A component value before a block: a bracket in it that nothing closes takes the rest of the sheet with it. */
  private preludeValue(): number {
    const opener = this.peek();
    const end = this.componentValue();
    if (opener !== null && this.#endsOpen)
      this.report(
        finding('css-syntax', this.place(opener.start, opener.end), {
          detail: cssDetail.neverClosed(this.text.slice(opener.start, opener.end)),
        }),
      );
    return end;
  }

  private skips(token: CssToken): boolean {
    return token.type === t.whiteSpace || token.type === t.comment;
  }

  private skipSpace(): void {
    for (let token = this.peek(); token !== null && this.skips(token); token = this.peek()) this.#index += 1;
  }

  private rewind(index: number): null {
    this.#index = index;
    return null;
  }

  private peek(): CssToken | null {
    return this.#tokens[this.#index] ?? null;
  }

  private advance(): CssToken {
    const token = this.#tokens[this.#index];
    if (token === undefined) throw new Error('The CSS reader went past its last token.');
    this.#index += 1;
    return token;
  }

  private lastEnd(): number {
    return this.#tokens[this.#index - 1]?.end ?? this.span.start;
  }

  private tokenStart(index: number): number {
    return this.#tokens[index]?.start ?? this.span.end;
  }

  private trim(start: number, end: number): Span {
    const text = this.text.slice(start, end);
    const lead = text.length - text.trimStart().length;
    return lead === text.length
      ? { start, end: start }
      : { start: start + lead, end: end - (text.length - text.trimEnd().length) };
  }

  private place(start: number, end: number): Place {
    return { source: this.source, span: { start, end } };
  }
}

function pushIfPresent(items: CssItem[], item: CssItem | null): void {
  if (item !== null) items.push(item);
}

/** At the end of a sheet, open strings, functions and brackets count as closed (CSS Syntax 5.4.8); elsewhere they would not. */
function closed(value: string): string {
  const open: string[] = [];
  for (let index = 0; index < value.length; index += 1) {
    const character = value[index] ?? '';
    const innermost = open[open.length - 1];
    if (character === '\\') index += 1;
    else if (innermost === '"' || innermost === "'") {
      if (character === innermost) open.pop();
    } else if (character === '"' || character === "'") open.push(character);
    else if (character === '(' || character === '[' || character === '{') open.push(closerOf[character]);
    else if (character === innermost) open.pop();
  }
  return value + open.reverse().join('');
}

const closerOf = { '(': ')', '[': ']', '{': '}' } as const;

/** CSS Syntax 5.5.6: the last two tokens of a value that are not white space may be `!` and `important`. */
function withoutImportant(tokens: readonly CssToken[], text: string): { kept: CssToken[]; important: boolean } {
  const kept = trimmed(tokens);
  const word = kept[kept.length - 1];
  if (word === undefined || word.type !== t.ident || text.slice(word.start, word.end).toLowerCase() !== 'important')
    return { kept, important: false };
  const before = trimmed(kept.slice(0, -1));
  const mark = before[before.length - 1];
  if (mark === undefined || mark.type !== t.delim || text.slice(mark.start, mark.end) !== '!')
    return { kept, important: false };
  return { kept: trimmed(before.slice(0, -1)), important: true };
}

function trimmed(tokens: readonly CssToken[]): CssToken[] {
  let start = 0;
  let end = tokens.length;
  while (start < end && isSpace(tokens[start])) start += 1;
  while (end > start && isSpace(tokens[end - 1])) end -= 1;
  return tokens.slice(start, end);
}

function isSpace(token: CssToken | undefined): boolean {
  return token?.type === t.whiteSpace || token?.type === t.comment;
}
