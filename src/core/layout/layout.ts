import type { DeclaredStyles } from '../css/cascade/document-cascade.js';
import { htmlDetail } from '../findings/wording/html.js';
import type { Declared } from '../css/cascade/cascade.js';
import { indexElements, type ElementIndex, type IndexedElement } from '../css/selectors/element-index.js';
import { finding, type Report } from '../findings/finding.js';
import { firstElement } from '../html/tree.js';
import type { PictureDrawing } from '../pictures/drawing.js';
import { Account } from './account/account.js';
import type { End } from './account/matrix.js';
import { reportRules } from './account/report-styles.js';
import { usedFonts, type WebFont } from './boxes/fonts.js';
import { emitDocument } from './emission.js';
import type { LayoutInput } from './layout-input.js';
import { ClassBook } from './print/classes.js';
import { printNodes, printStyle, type Writer } from './print/print.js';
import { viewTree, type TreeView, type ViewWriter } from './print/view.js';
import { styleDocument } from './styled-document.js';
import { spanAt } from '../text/span.js';

/** A message whose layout is done: what depends on a destination is still open. */
export interface CompiledLayout {
  /** What was declared for the elements of the document, before anything was laid out. */
  readonly declared: DeclaredStyles;
  /** True where something holds in one colour scheme only. */
  readonly hasDarkScheme: boolean;
  /** The widths of the window, in px, up to which another layout holds than above them. */
  readonly thresholds: readonly number[];
  /** Where lengths follow the window, the widths of the window at which they are exact. */
  readonly exactWidths: readonly number[];
  /** The web fonts that the message does use, and the stacks of families in which they stand. */
  readonly fonts: readonly WebFont[];
  readonly fontStacks: readonly string[];
  /** How wide pictures are shown at most, in px, by the paths that the source gives; null where that is not known. */
  readonly pictureWidths: ReadonlyMap<string, number | null>;
  /** Pictures that are to be drawn from others, by the paths that the body gives them. */
  readonly drawings: ReadonlyMap<string, PictureDrawing>;
  /** How each declaration of the author ended. */
  readonly declarationEnds: () => ReadonlyMap<Declared['declaration'], End>;
  /** The body as a tree, as a window of this width shows it. */
  readonly view: (writer: ViewWriter, viewport: number) => TreeView;
  /** Writes the body (with its tags) and the style sheet for the head. */
  readonly print: (writer: Writer, first: string) => { readonly body: string; readonly css: string };
}

/** Elements nested deeper than this are refused; browsers cut trees off at a similar depth. */
const DEEPEST = 400;

/** Compiles the body of a message to tables. Null where findings make that pointless. */
export function compileLayout(input: LayoutInput, report: Report): CompiledLayout | null {
  const { doc } = input;
  const plain = indexElements(doc);
  const tooDeep = deepest(plain);
  if (tooDeep !== null) {
    const span = tooDeep.node.startTag ?? spanAt(0, 0);
    report(finding('markup-broken', { source: doc.source, span }, { detail: htmlDetail.nestedDeep(DEEPEST) }));
    return null;
  }
  const styled = styleDocument(plain, input, report);
  reportRules(input.rules, report);
  const body = firstElement(styled.index.doc.root, 'body');
  const bodyElement = body === null ? undefined : styled.index.of.get(body);
  if (bodyElement === undefined) return null;
  const account = new Account(styled, report);
  account.judge();
  const { page, pictureWidths, drawings } = emitDocument(bodyElement, styled, input, { plain: account.report, report });
  account.close();
  const { states, variants, styleSets, thresholds, exactWidths, hasDarkScheme } = styled;
  return {
    declared: { index: plain, rules: input.rules, declared: styled.written },
    ...{ pictureWidths, drawings, thresholds, exactWidths, hasDarkScheme },
    fonts: usedFonts(styled.declared, input.fonts),
    fontStacks: [...new Set(styleSets.flat(2).map((style) => style.get('font-family')))],
    declarationEnds: () => account.ends(),
    view: (writer, viewport) => {
      const state = states.findIndex(({ minWidth }) => minWidth <= viewport);
      return viewTree(page.body, [page.table], Math.max(0, state), writer);
    },
    print: (writer, first) => {
      const classes = new ClassBook(states, variants);
      const [desktop = new Map<string, string>()] = page.body.styles;
      const className = classes.classFor(page.body.styles, page.body.variants);
      const inner = printNodes([page.table], classes, writer);
      const named = className === null ? '' : ` class="${className}"`;
      const opening = `<body${named} style="${printStyle(desktop, writer)}">`;
      return { body: `${opening}${first}${inner}\n</body>`, css: classes.styleSheet() };
    },
  };
}

function deepest(index: ElementIndex): IndexedElement | null {
  const depths = new Map<IndexedElement, number>();
  for (const candidate of index.elements) {
    const depth = candidate.parent === null ? 1 : (depths.get(candidate.parent) ?? 0) + 1;
    if (depth > DEEPEST) return candidate;
    depths.set(candidate, depth);
  }
  return null;
}
