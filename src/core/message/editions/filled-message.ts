import { escapeAttribute, escapeText } from '../../html/escape.js';
import { sentinel } from '../../html/tags.js';
import type { Attribute, ElementNode, TreeNode } from '../../html/tree.js';
import { indexElements } from '../../css/selectors/element-index.js';
import type { ViewWriter } from '../../layout/print/view.js';
import { treeAlone, type ShownTree } from '../../plaintext/shown-document.js';
import type { CompiledMessage, MessageVersions } from '../compile-message.js';
import type { EditionShape, SlotTexts } from './edition-shape.js';
import { replaceStandIns } from './stand-ins.js';

/** Both versions of a message that was compiled with stand-ins, and what was made of them for all editions. */
export interface SharedVersions {
  readonly html: CompiledMessage;
  readonly text: CompiledMessage;
}

/** A message that was compiled with stand-ins, as an edition whose texts these are. */
export function filledVersions(
  shared: SharedVersions,
  shape: EditionShape,
  texts: SlotTexts,
): Pick<MessageVersions, 'html' | 'text'> {
  const html = filledMessage(shared.html, shape, texts);
  return { html, text: shared.text === shared.html ? html : filledMessage(shared.text, shape, texts) };
}

function filledMessage(shared: CompiledMessage, { slots }: EditionShape, texts: SlotTexts): CompiledMessage {
  const filled = (text: string): string => replaceStandIns(text, (index) => texts[index] ?? '');
  const inHtml = (index: number): string =>
    (slots[index]?.kind === 'attribute' ? escapeAttribute : escapeText)(texts[index] ?? '', sentinel);
  const { subject, preheader, description } = shared.metadata;
  const metadata = {
    ...shared.metadata,
    subject: filled(subject),
    preheader: preheader === null ? null : filled(preheader),
    description: description === null ? null : filled(description),
  };
  const { doc } = shared.source;
  return {
    ...shared,
    source: { ...shared.source, metadata, doc: { ...doc, root: filledTree(doc.root, everywhere(filled)) } },
    metadata,
    shown: (writer) => filledShown(shared.shown(asWritten), everywhere(filled, writer)),
    html: (writer, destination) =>
      replaceStandIns(shared.html({ ...writer, link: (address) => writer.link(filled(address)) }, destination), inHtml),
  };
}

/** Addresses as the source has them: they are written once the texts in them are known. */
const asWritten: ViewWriter = { picture: (path) => path, link: (address) => address };

/** What becomes of the values of a tree: of texts, and of attributes. */
interface Filling {
  readonly text: (value: string) => string;
  readonly attribute: (tag: string, name: string, value: string) => string;
}

function everywhere(filled: (text: string) => string, writer: ViewWriter = asWritten): Filling {
  return {
    text: filled,
    attribute: (tag, name, value) => {
      if (name === 'href' && (tag === 'a' || tag === 'area')) return writer.link(filled(value));
      return tag === 'img' && name === 'src' ? writer.picture(value) : filled(value);
    },
  };
}

function filledShown({ index, styles }: ShownTree, filling: Filling): ShownTree {
  return { index: indexElements(treeAlone(filledTree(index.doc.root, filling))), styles };
}

interface GrowingElement extends ElementNode {
  readonly children: TreeNode[];
}

/** A copy of a tree with its values filled. */
function filledTree(root: ElementNode, filling: Filling): ElementNode {
  const shell = (node: ElementNode, parent: ElementNode | null): GrowingElement => ({
    ...node,
    parent,
    attributes: filledAttributes(node, filling),
    children: [],
  });
  const top = shell(root, null);
  const stack: { from: ElementNode; to: GrowingElement }[] = [{ from: root, to: top }];
  for (let step = stack.pop(); step !== undefined; step = stack.pop()) {
    const { from, to } = step;
    for (const child of from.children) {
      if (child.kind === 'element') {
        const copy = shell(child, to);
        to.children.push(copy);
        stack.push({ from: child, to: copy });
      } else to.children.push({ ...child, value: filling.text(child.value), parent: to });
    }
  }
  return top;
}

function filledAttributes({ tag, attributes }: ElementNode, filling: Filling): ReadonlyMap<string, Attribute> {
  let changed: Map<string, Attribute> | null = null;
  for (const [name, attribute] of attributes) {
    const value = filling.attribute(tag, name, attribute.value);
    if (value !== attribute.value) (changed ??= new Map(attributes)).set(name, { ...attribute, value });
  }
  return changed ?? attributes;
}
