import { selectorSetting } from '../css/syntax/tagged-values.js';
import { baseOf, keyframeRules, rebaseItems } from '../css/values/addresses.js';
import { collectRules } from '../css/cascade/rules.js';
import { readSheets, type SheetFile } from '../css/cascade/sheets.js';
import type { Dialect } from '../dialects/dialect.js';
import { finding, type Report } from '../findings/finding.js';
import { escapeAttribute, escapeText } from '../html/escape.js';
import { replaceSentinels } from '../html/tags.js';
import { attribute, firstElement, type ElementNode } from '../html/tree.js';
import { compileLayout, type CompiledLayout } from '../layout/layout.js';
import type { PictureSize } from '../layout/content/room.js';
import { declaredFonts, fontFaceRules, fontHead, type WebFont } from '../layout/boxes/fonts.js';
import { withPicturePaths, type Writer } from '../layout/print/print.js';
import type { ViewWriter } from '../layout/print/view.js';
import { withPicturesInCss } from '../pictures/references.js';
import { shownTree, WIDE_VIEWPORT, type ShownTree } from '../plaintext/shown-document.js';
import type { SourceText } from '../text/source-text.js';
import type { WrittenText } from './written-text.js';
import type { MessageSource, Metadata } from './read-message.js';
import { spanAt } from '../text/span.js';

/** What a message names and somebody else has read. */
export interface MessageFiles {
  /** The text of a linked style sheet by the path that the message gives; null where it could not be read. */
  readonly styleSheet: (path: string) => SourceText | null;
  /** The natural size of a picture by the path that the message gives; null where it is not known. */
  readonly pictureSize: (path: string) => PictureSize | null;
  /** The width of a message in px, where its own styles bound none. */
  readonly width: number;
  /** The web fonts of the project. */
  readonly fonts: readonly WebFont[];
  /** True where somebody draws the pictures that the message asks for. */
  readonly drawsPictures?: boolean;
  /** Where the message is compiled for its text alone, which is what a wide window shows. */
  readonly onlyText?: boolean;
}

/** Whether the messages of a destination may load fonts. */
export type FontLimits = Pick<Dialect, 'webFonts'>;

/** A message, compiled once for all destinations. */
export interface CompiledMessage {
  readonly source: MessageSource;
  readonly metadata: Metadata;
  /** The web fonts that it uses. */
  readonly fonts: readonly WebFont[];
  /** How wide its layout shows pictures at most, in px, by the paths that the source gives; null where nothing says. */
  readonly pictureWidths: ReadonlyMap<string, number | null>;
  /** Pictures that are to be drawn from others, by the paths that the HTML gives them. */
  readonly drawings: CompiledLayout['drawings'];
  /** What is declared for the elements of its source. */
  readonly declared: CompiledLayout['declared'];
  /** The widths of the window, in px, up to which another layout holds than above them. */
  readonly thresholds: readonly number[];
  /** Where lengths follow the window, the widths of the window at which they are exact. */
  readonly exactWidths: readonly number[];
  readonly hasDarkScheme: boolean;
  readonly declarationEnds: CompiledLayout['declarationEnds'];
  /** The finished document as the text version is made from it: as a wide window shows it. */
  readonly shown: (writer: ViewWriter) => ShownTree;
  /** Writes the finished HTML document for a destination, which tells whether it may load fonts there. */
  readonly html: (writer: Writer, destination: FontLimits) => string;
}

/** A message as it is written, and where something in it is for the plain text alone, as that sees it. */
export interface MessageVersions {
  readonly html: CompiledMessage;
  readonly text: CompiledMessage;
  /** The text version that its author wrote; null where it is made from the message. */
  readonly writtenText: WrittenText | null;
}

/** Compiles a message to tables with inlined styles. Null where its findings leave nothing to compile. */
export function compileMessage(source: MessageSource, files: MessageFiles, report: Report): CompiledMessage | null {
  const body = firstElement(source.doc.root, 'body');
  const isEmpty =
    body === null ||
    body.children.every((child) => child.kind === 'comment' || (child.kind === 'text' && child.value.trim() === ''));
  if (isEmpty && source.doc.source.text.trim() !== '')
    report(finding('body-empty', { source: source.doc.source, span: body?.startTag ?? spanAt(0, 0) }));
  const linked = (element: ElementNode): SheetFile | null => {
    const path = attribute(element, 'href') ?? '';
    const sheet = files.styleSheet(path);
    return sheet === null ? null : { source: sheet, base: baseOf(path) };
  };
  const sheets = readSheets(source.doc, [], linked, report).map((sheet) => ({
    ...sheet,
    items: rebaseItems(sheet.items, sheet.base),
  }));
  const rules = collectRules(sheets, selectorSetting(source.doc), report);
  const items = sheets.flatMap((sheet) => sheet.items);
  const fonts = [...files.fonts, ...declaredFonts(items)];
  const layout = compileLayout(
    {
      ...{ doc: source.doc, rules, width: files.width, pictureSize: files.pictureSize, fonts },
      drawsPictures: files.drawsPictures === true,
      onlyViewport: files.onlyText === true ? WIDE_VIEWPORT : undefined,
    },
    report,
  );
  if (layout === null) return null;
  const keyframes = sheets.flatMap(({ items: own, base }) => keyframeRules(own, base));
  const fontLines = fontHead(layout.fonts, fontFaceRules(items), layout.fontStacks);
  return {
    source,
    metadata: source.metadata,
    fonts: layout.fonts,
    pictureWidths: layout.pictureWidths,
    drawings: layout.drawings,
    declared: layout.declared,
    thresholds: layout.thresholds,
    exactWidths: layout.exactWidths,
    hasDarkScheme: layout.hasDarkScheme,
    declarationEnds: layout.declarationEnds,
    shown: (writer) => shownTree(layout.view(writer, WIDE_VIEWPORT)),
    html: (writer, { webFonts }) =>
      printDocument(source.metadata, layout, webFonts ? fontLines : [], keyframes, writer),
  };
}

/** The `word` engine draws background pictures and rounded buttons as vector shapes of this namespace. */
const drawingNamespace = ' xmlns:v="urn:schemas-microsoft-com:vml"';

/** The `word` engine adds to line heights unless told not to. */
const wordStyles =
  '<!--[if mso]><style>td,p,h1,h2,h3,h4,h5,h6,li,a,div,span{mso-line-height-rule:exactly}</style><![endif]-->';

function printDocument(
  metadata: Metadata,
  layout: CompiledLayout,
  fontLines: readonly string[],
  keyframes: readonly string[],
  writer: Writer,
): string {
  const { body, css: classes } = layout.print(writer, preheader(metadata, writer));
  const used = keyframes.filter((rule) => body.includes('animation:') && isAnimatedBy(body + classes, rule));
  const rules = [...used.map((rule) => withPicturePaths(rule, writer)), withPicturesInCss(classes, writer.picture)]
    .filter((part) => part !== '')
    .join('\n');
  const css = replaceSentinels(rules, (index) => writer.tag(index, 'text'));
  const direction = metadata.direction === null ? '' : ` dir="${escapeAttribute(metadata.direction, writer.tag)}"`;
  return [
    '<!doctype html>',
    `<html${body.includes('<v:') ? drawingNamespace : ''} lang="${escapeAttribute(metadata.language, writer.tag)}"${direction}>`,
    '<head>',
    '<meta charset="utf-8">',
    '<meta name="viewport" content="width=device-width,initial-scale=1">',
    ...(layout.hasDarkScheme ? ['<meta name="color-scheme" content="light dark">'] : []),
    `<title>${escapeText(metadata.subject, writer.tag)}</title>`,
    wordStyles,
    ...fontLines,
    ...(css === '' ? [] : ['<style>', css, '</style>']),
    '</head>',
    body,
    '</html>',
    '',
  ].join('\n');
}

/** Whether the message animates anything by a rule of keyframes. */
function isAnimatedBy(text: string, rule: string): boolean {
  const name = /@(?:-\w+-)?keyframes\s+["']?([\w-]+)/.exec(rule)?.[1];
  return name !== undefined && new RegExp(`animation:[^;"]*\\b${name}\\b`).test(text);
}

/** Fills the preview line of inboxes, so that they show no text of the body behind the preheader. */
const previewFiller = '&zwnj;&nbsp;'.repeat(40);

function preheader(metadata: Metadata, writer: Writer): string {
  if (metadata.preheader === null) return '';
  const style = 'display:none;max-height:0;overflow:hidden;mso-hide:all';
  return `\n<div style="${style}">${escapeText(metadata.preheader, writer.tag)}${previewFiller}</div>`;
}
