import type { Attribute, ElementNode, TreeNode } from '../../html/tree.js';
import { legacyAttributes } from './legacy.js';
import { beginsLine, isMixed, type Around, type OutElement, type OutNode, type Style } from './output.js';
import type { Writer } from './print.js';
import { formatTextValue } from './text-style.js';
import { spanAt } from '../../text/span.js';

/** What of a destination shows in a tree: template tags stand in its texts as sentinels. */
export type ViewWriter = Pick<Writer, 'picture' | 'link'>;

/** The compiled document as a tree, as a browser would build it from what is printed, with the style of each element in one state. */
export interface TreeView {
  readonly root: ElementNode;
  readonly styleOf: (element: ElementNode) => Style | null;
}

/**
 * Looks at emitted nodes as a tree, without printing and parsing them. Comments are not in it: the `word` engine alone reads
 * what they hold.
 */
export function viewTree(body: OutElement, content: readonly OutNode[], state: number, writer: ViewWriter): TreeView {
  const builder = new TreeBuilder(state, writer);
  const root = builder.plain('html', null);
  const shownBody = builder.element({ ...body, children: [...content] }, root, 'block');
  root.children.push(shownBody);
  return { root, styleOf: (element) => builder.styles.get(element) ?? null };
}

interface GrowingElement extends ElementNode {
  readonly children: TreeNode[];
}

const nowhere = spanAt(0, 0);

class TreeBuilder {
  readonly styles = new Map<ElementNode, Style>();

  constructor(
    private readonly state: number,
    private readonly writer: ViewWriter,
  ) {}

  plain(
    tag: string,
    parent: ElementNode | null,
    attributes: ReadonlyMap<string, Attribute> = new Map(),
  ): GrowingElement {
    const children: TreeNode[] = [];
    return {
      kind: 'element',
      tag,
      namespace: 'html',
      attributes,
      parent,
      children,
      span: null,
      startTag: null,
      endTag: null,
      tagId: -1,
    };
  }

  element(node: OutElement, parent: ElementNode, around: Around): GrowingElement {
    const made = this.plain(node.tag, parent, this.attributesOf(node));
    const style = node.styles[this.state] ?? node.styles[0] ?? new Map<string, string>();
    this.styles.set(made, new Map([...style].map(([property, value]) => [property, formatTextValue(property, value)])));
    this.nodes(node.children, made, /^t[dh]$/.test(node.tag) ? 'block' : around);
    return made;
  }

  /** White space stands between nodes where it does when they are printed. */
  private nodes(nodes: readonly OutNode[], parent: GrowingElement, around: Around): void {
    const mixed = around === 'line' || isMixed(nodes);
    for (const node of nodes) {
      const target = this.parentFor(node, parent);
      if (!mixed && beginsLine(node) && target === parent) this.text('\n', parent);
      this.node(node, target, mixed ? 'line' : 'block');
    }
  }

  /** A row that stands right in a table gets the body that parsers put around it (HTML standard, 13.2.6.4.9). */
  private parentFor(node: OutNode, parent: GrowingElement): GrowingElement {
    if (parent.tag !== 'table' || node.kind !== 'element' || node.tag !== 'tr') return parent;
    const last = parent.children.at(-1);
    if (last?.kind === 'element' && last.tag === 'tbody') return last as GrowingElement;
    const body = this.plain('tbody', parent);
    parent.children.push(body);
    return body;
  }

  private node(node: OutNode, parent: GrowingElement, around: Around): void {
    switch (node.kind) {
      case 'text':
        return this.text(node.value, parent);
      case 'raw':
        // What is no comment is a name for links to lead to, or a space that no reader sees.
        return node.html === '&nbsp;' ? this.text('\u00a0', parent) : undefined;
      case 'dual-cell':
        parent.children.push(this.element(node.cell, parent, 'block'));
        return;
      case 'round-link':
        parent.children.push(this.element(node.link, parent, 'line'));
        return;
      case 'backdrop':
        return this.nodes(node.content, parent, around);
      case 'element':
        parent.children.push(this.element(node, parent, around));
    }
  }

  private text(value: string, parent: GrowingElement): void {
    parent.children.push({ kind: 'text', value, parent, span: null });
  }

  private attributesOf({
    tag,
    attributes,
    styles: [desktop = new Map<string, string>()],
  }: OutElement): ReadonlyMap<string, Attribute> {
    const added = legacyAttributes(tag, desktop).filter(([name]) => !attributes.has(name));
    return new Map(
      [...attributes, ...added].map(([name, value]): [string, Attribute] => [
        name,
        { name, value: this.value(tag, name, value), span: nowhere },
      ]),
    );
  }

  private value(tag: string, name: string, value: string): string {
    if (name === 'href' && (tag === 'a' || tag === 'area')) return this.writer.link(value);
    return tag === 'img' && name === 'src' ? this.writer.picture(value) : value;
  }
}
