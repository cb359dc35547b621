import type { ExpandedPage, VersionSpan } from '../template/expanded-page.js';
import { type Attribute, type Doc, type ElementNode, type TreeNode } from '../html/tree.js';
import type { Span } from '../text/span.js';

/** The attribute by which authors say what a text version has in place of an element's content. */
const ATTRIBUTE = 'data-text';

/** A parsed message as one of its versions has it. */
export interface DocVersion {
  readonly doc: Doc;
  /** Stretches of the source that are not of this version. */
  readonly without: readonly Span[];
}

/**
 * The two versions of a parsed message. The HTML version has no `data-text` and nothing that is for the text alone. In the
 * text version elements with `data-text` hold what the attribute says, or are left out where it is empty. Both are the same
 * where nothing in the message tells them apart.
 */
export function docVersions(doc: Doc, { only }: Pick<ExpandedPage, 'only'>): { html: DocVersion; text: DocVersion } {
  if (only.length === 0 && !doc.source.text.includes(ATTRIBUTE)) {
    const both = { doc, without: [] };
    return { html: both, text: both };
  }
  return {
    html: new VersionMaker(doc, 'html', only).make(),
    text: new VersionMaker(doc, 'text', only).make(),
  };
}

interface GrowingElement extends ElementNode {
  attributes: ReadonlyMap<string, Attribute>;
  children: TreeNode[];
}

class VersionMaker {
  readonly #excluded: readonly Span[];
  readonly #borders: ReadonlySet<number>;
  readonly #without: Span[];

  constructor(
    private readonly doc: Doc,
    private readonly version: 'html' | 'text',
    only: readonly VersionSpan[],
  ) {
    this.#excluded = only.filter((item) => item.version !== version).map(({ span }) => span);
    this.#borders = new Set(only.flatMap(({ borders }) => borders));
    this.#without = [...this.#excluded];
  }

  make(): DocVersion {
    const root = this.shell(this.doc.root, null);
    const stack: { from: readonly TreeNode[]; to: GrowingElement }[] = [{ from: this.doc.root.children, to: root }];
    for (let step = stack.pop(); step !== undefined; step = stack.pop()) {
      const { to } = step;
      for (const node of this.kept(step.from)) {
        if (node.kind !== 'element') {
          this.addLeaf(node, to);
          continue;
        }
        const said = node.attributes.get(ATTRIBUTE);
        if (said !== undefined && node.span !== null && this.version === 'text') {
          this.addAlternative(node, said, to);
          continue;
        }
        const copy = this.shell(node, to);
        to.children.push(copy);
        stack.push({ from: node.children, to: copy });
      }
    }
    return { doc: { ...this.doc, root }, without: this.#without };
  }

  /** What of some siblings is of this version; what a piece for the other one has left open is not lost with it. */
  private *kept(nodes: readonly TreeNode[]): Generator<TreeNode> {
    for (const node of nodes) {
      if (node.kind === 'comment' && node.span !== null && this.#borders.has(node.span.start)) continue;
      if (!this.isExcluded(node.kind === 'element' ? node.startTag : node.span)) yield node;
      else if (node.kind === 'element') yield* this.kept(node.children);
    }
  }

  private isExcluded(span: Span | null): boolean {
    return span !== null && this.#excluded.some(({ start, end }) => start <= span.start && span.start < end);
  }

  /** Texts that a border kept apart are one again. */
  private addLeaf(node: Exclude<TreeNode, ElementNode>, parent: GrowingElement): void {
    const last = parent.children.at(-1);
    if (node.kind !== 'text' || last?.kind !== 'text') {
      parent.children.push({ ...node, parent });
      return;
    }
    const span = last.span === null || node.span === null ? last.span : { start: last.span.start, end: node.span.end };
    parent.children[parent.children.length - 1] = { ...last, value: last.value + node.value, span };
  }

  private shell(node: ElementNode, parent: ElementNode | null): GrowingElement {
    const said = this.version === 'html' ? node.attributes.get(ATTRIBUTE) : undefined;
    if (said === undefined) return { ...node, parent, children: [] };
    this.#without.push(said.span);
    const attributes = new Map([...node.attributes].filter(([name]) => name !== ATTRIBUTE));
    return { ...node, attributes, parent, children: [] };
  }

  private addAlternative(node: ElementNode, said: Attribute, parent: GrowingElement): void {
    const text = said.value.trim();
    const { tag } = node;
    if (tag === 'img') {
      const alt = node.attributes.get('alt');
      if (alt !== undefined) this.#without.push(alt.span);
      const attributes = new Map([...node.attributes].filter(([name]) => name !== ATTRIBUTE));
      attributes.set('alt', { name: 'alt', value: text, span: said.span });
      parent.children.push({ ...node, attributes, parent, children: [] });
      return;
    }
    const whole = node.span ?? said.span;
    this.#without.push({ start: node.startTag?.end ?? whole.start, end: node.endTag?.start ?? whole.end });
    if (text === '' && !/^t[dh]$/.test(tag)) {
      this.#without.push(whole);
      return;
    }
    const keeps = keepsTag.has(tag) || /^t(?:[dhr]|head|body|foot)$/.test(tag);
    const shell: GrowingElement = { ...node, parent, children: [] };
    const top = keeps ? shell : { ...shell, tag: 'div', attributes: new Map<string, Attribute>() };
    parent.children.push(top);
    const row = /^t(?:head|body|foot)$/.test(tag) ? this.inside(top, 'tr') : top;
    const cell = row.tag === 'tr' ? this.inside(row, 'td') : row;
    text.split(/[ \t]*\r?\n[ \t]*/).forEach((line, index) => {
      if (index > 0) this.inside(cell, 'br');
      cell.children.push({ kind: 'text', value: line, parent: cell, span: said.span });
    });
  }

  private inside(parent: GrowingElement, tag: string): GrowingElement {
    const made: GrowingElement = {
      ...{ kind: 'element', tag, namespace: 'html', attributes: new Map<string, Attribute>(), parent, children: [] },
      ...{ span: null, startTag: null, endTag: null, tagId: -1 },
    };
    parent.children.push(made);
    return made;
  }
}

/** Elements whose tag still says something of other content; any other becomes a plain block. */
const keepsTag: ReadonlySet<string> = new Set(
  'a abbr address b blockquote caption cite code dd dt em figcaption font h1 h2 h3 h4 h5 h6 i label li p s small span strong sub sup u'.split(
    ' ',
  ),
);
