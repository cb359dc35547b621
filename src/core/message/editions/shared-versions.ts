import { sentinel } from '../../html/tags.js';
import type { ViewWriter } from '../../layout/print/view.js';
import type { ShownTree } from '../../plaintext/shown-document.js';
import type { CompiledMessage, MessageVersions } from '../compile-message.js';
import type { EditionShape } from './edition-shape.js';
import { filledVersions, type SharedVersions } from './filled-message.js';
import { keptPrint } from './kept-print.js';
import { shortened } from './stand-ins.js';

type Versions = Pick<MessageVersions, 'html' | 'text'>;

/** An edition that was compiled by itself, and the same compiled with stand-ins for its texts. */
export interface EditionTrial {
  readonly shape: EditionShape;
  readonly own: Versions;
  /** With stand-ins of a letter each. */
  readonly short: Versions;
  /** With longer ones, of each kind. */
  readonly long: readonly Versions[];
}

/**
 * What is compiled once for all editions of a shape; null where it depends on their texts: where long stand-ins lead to
 * anything else than short ones, or where short ones, filled, are not what was compiled without them.
 */
export function sharedVersions({ shape, own, short, long }: EditionTrial): SharedVersions | null {
  if (long.some((versions) => compiled(short) !== shortened(compiled(versions)))) return null;
  const texts = shape.slots.map(({ text }) => text);
  if (compiled(filledVersions(short, shape, texts)) !== compiled(own)) return null;
  const html = withWorkAtHand(short.html);
  return { html, text: short.text === short.html ? html : withWorkAtHand(short.text) };
}

/** All that is written of versions, but for what a destination decides. */
function compiled({ html, text }: Versions): string {
  return compiledMessage(html) + (text === html ? '' : compiledMessage(text));
}

const nowhere = { tag: sentinel, picture: (path: string) => path, link: (address: string) => address };

function compiledMessage(message: CompiledMessage): string {
  const { metadata, thresholds, exactWidths, hasDarkScheme, pictureWidths, drawings, fonts } = message;
  const facts = [metadata, thresholds, exactWidths, hasDarkScheme, [...pictureWidths], [...drawings], fonts];
  const html = message.html({ ...nowhere, region: () => 'as-written' }, { webFonts: true });
  const { index } = message.shown(nowhere);
  const shown = index.elements.map(({ node }) =>
    node.children.map((child) =>
      child.kind === 'element' ? [child.tag, [...child.attributes.values()].map(({ value }) => value)] : child.value,
    ),
  );
  return `${html}\n${JSON.stringify([facts, [...metadata.extras], shown])}`;
}

/**
 * A message whose page is printed once for a destination, and whose tree for the text version is made once for all of them:
 * there, addresses are as the source has them.
 */
function withWorkAtHand(message: CompiledMessage): CompiledMessage {
  let tree: ShownTree | null = null;
  return {
    ...message,
    html: keptPrint(message.html),
    shown: (writer: ViewWriter) => (tree ??= message.shown(writer)),
  };
}
