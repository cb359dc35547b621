/// <reference lib="dom" />
/// <reference lib="dom.iterable" />

/**
 * Makes a node what another is, and leaves alone what is the same: pictures are not loaded again, and little is laid out anew.
 * @param to from another document; what is needed of it is taken out
 */
export function patch(from: ChildNode, to: ChildNode): void {
  if (from.isEqualNode(to)) return;
  if (from.nodeName !== to.nodeName) {
    from.replaceWith(from.ownerDocument?.adoptNode(to) ?? to);
    return;
  }
  // Nodes of one name are of one kind; those that hold text alone have all of it in their data.
  if (from.nodeType !== Node.ELEMENT_NODE) {
    (from as CharacterData).data = (to as CharacterData).data;
    return;
  }
  patchAttributes(from as Element, to as Element);
  patchChildren(from, to);
}

function patchAttributes(from: Element, to: Element): void {
  for (const { name } of [...from.attributes]) if (!to.hasAttribute(name)) from.removeAttribute(name);
  for (const { name, value } of to.attributes) if (from.getAttribute(name) !== value) from.setAttribute(name, value);
}

function patchChildren(from: Node, to: Node): void {
  const old = [...from.childNodes];
  const next = [...to.childNodes];
  let start = 0;
  while (start < old.length && start < next.length && isSame(old[start], next[start])) start += 1;
  let end = 0;
  while (end < old.length - start && end < next.length - start && isSame(old.at(-1 - end), next.at(-1 - end))) end += 1;
  const changed = old.slice(start, old.length - end);
  const wanted = next.slice(start, next.length - end);
  const behind = old[old.length - end] ?? null;
  for (const [index, node] of wanted.entries()) {
    const other = changed[index];
    if (other !== undefined) patch(other, node);
    else from.insertBefore(from.ownerDocument?.adoptNode(node) ?? node, behind);
  }
  for (const node of changed.slice(wanted.length)) node.remove();
}

function isSame(one: ChildNode | undefined, other: ChildNode | undefined): boolean {
  return one !== undefined && other !== undefined && one.isEqualNode(other);
}
