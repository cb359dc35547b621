import type { Scope } from '../expressions/scope.js';
import type { Origin } from '../text/mapped-text.js';
import type { SourceText } from '../text/source-text.js';
import type { TemplateNode } from './nodes.js';

/** Where nodes are expanded: their text, the names they see, and what is around them. */
export interface Frame {
  readonly source: SourceText;
  readonly scope: Scope;
  readonly uses: readonly Origin[];
  /** True within a loop or a part, where regions are numbered. */
  readonly repeats: boolean;
  /** What fills the slots, and where that is to be expanded; null outside parts. */
  readonly slots: { readonly fill: ReadonlyMap<string, readonly TemplateNode[]>; readonly frame: Frame } | null;
  /** Attributes for the root element of the part, with the frame of its use. */
  readonly rootAttributes: { readonly nodes: readonly TemplateNode[]; readonly frame: Frame } | null;
  /** Tags of the parts that are being expanded. */
  readonly open: readonly string[];
}
