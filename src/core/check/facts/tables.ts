import { replaceSentinels } from '../../html/tags.js';
import { attribute, elementsOf, type ElementNode, type TreeNode } from '../../html/tree.js';

/** What is written within tables, outside of their cells, and was moved before them; each only once. */
export function strayBefore(tables: readonly ElementNode[]): TreeNode[] {
  const found = new Set<TreeNode>();
  for (const table of tables) {
    const [start, end] = [table.startTag?.end ?? 0, table.endTag?.start ?? 0];
    const siblings = table.parent?.children ?? [];
    // What was moved stands right before the table.
    for (let at = siblings.indexOf(table) - 1; at >= 0; at -= 1) {
      const node = siblings[at];
      if (node === undefined || (node.span !== null && node.span.start < start)) break;
      if (node.kind === 'comment' || node.span === null) continue;
      // Tags of templates stand between rows, where nothing shows of them.
      const isBlank = node.kind === 'text' && replaceSentinels(node.value, () => '').trim() === '';
      if (!isBlank && node.span.start >= start && node.span.start < end) found.add(node);
    }
  }
  return [...found];
}

/** Whether a table says that it lays out, and holds no data. */
export function isLayout(table: ElementNode): boolean {
  return /^(?:presentation|none)$/i.test(attribute(table, 'role')?.trim() ?? '');
}

/** Whether a table has cells that head its rows or columns. */
export function hasHeaders(table: ElementNode): boolean {
  return [...elementsOf(table)].some(({ tag }) => tag === 'th');
}

/** Whether a table holds other tables, or blocks that no table of data has. */
export function holdsBlocks(table: ElementNode): boolean {
  return [...elementsOf(table)].some(
    (element) => element !== table && /^(?:table|img|h[1-6]|ul|ol|p|div|hr|section|article)$/.test(element.tag),
  );
}

/** The rows of a table itself, each as its cells. */
export function rowsOf(table: ElementNode): ElementNode[][] {
  const rows = [...elementsOf(table)].filter(({ tag }) => tag === 'tr');
  return rows.map(({ children }) =>
    children.filter((child): child is ElementNode => child.kind === 'element' && /^t[dh]$/.test(child.tag)),
  );
}
