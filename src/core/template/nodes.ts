import type { Place } from '../findings/finding.js';
import type { Expression } from '../expressions/expression.js';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';

/** A build value: `${…}`. */
export interface ValueNode {
  readonly kind: 'value';
  /** Null for one that cannot be read; it has been reported. */
  readonly expression: Expression | null;
  /** True for `${+…}`: the value is HTML and is not escaped. */
  readonly raw: boolean;
  /** True in an attribute value without quotes, where white space would end it. */
  readonly unquoted: boolean;
  readonly span: Span;
}

/** A merge tag that holds build values. */
export interface MergeNode {
  readonly kind: 'merge';
  readonly pieces: readonly (Span | (ValueNode & { readonly quoted: boolean }))[];
  readonly span: Span;
}

/** One arm of `<template if>`, `<template else if>` or `<template else>`. */
export interface Branch {
  /** Null for the last arm, which needs none. */
  readonly condition: Expression | null;
  readonly body: readonly TemplateNode[];
}

/** The value of an attribute of a part's use: words, build values, merge tags. */
export type AttributePiece = string | ValueNode | MergeNode | { readonly kind: 'tag'; readonly span: Span };

/** A value that a part's use passes. */
export interface PassedValue {
  readonly name: string;
  readonly pieces: readonly AttributePiece[];
  /** False for an attribute without `=`. */
  readonly hasValue: boolean;
  readonly span: Span;
}

/** A use of a part. */
export interface PartNode {
  readonly kind: 'part';
  readonly tag: string;
  readonly values: readonly PassedValue[];
  /** Attributes that go to the part's own root element: those of regions. */
  readonly regionAttributes: readonly TemplateNode[];
  /** What fills the slots, by their names; that of the default slot is empty text. */
  readonly slots: ReadonlyMap<string, readonly TemplateNode[]>;
  /** True where the part is the root element of the part around it. */
  readonly isRoot: boolean;
  readonly span: Span;
}

/** Where the content of a template stands in its source, and what is to be done there. */
export type TemplateNode =
  | { readonly kind: 'text'; readonly span: Span }
  /** `$${`, which prints `${`. */
  | { readonly kind: 'literal'; readonly span: Span }
  | ValueNode
  | MergeNode
  | {
      readonly kind: 'each';
      readonly item: string;
      readonly list: Expression;
      readonly body: readonly TemplateNode[];
      readonly otherwise: readonly TemplateNode[] | null;
      readonly span: Span;
    }
  | { readonly kind: 'conditional'; readonly branches: readonly Branch[] }
  | { readonly kind: 'only'; readonly medium: Medium; readonly body: readonly TemplateNode[]; readonly span: Span }
  | PartNode
  | { readonly kind: 'slot'; readonly name: string; readonly body: readonly TemplateNode[]; readonly span: Span }
  | { readonly kind: 'slotted'; readonly name: string; readonly body: readonly TemplateNode[]; readonly span: Span }
  /** The name of a region, which is numbered where it stands in a part or a loop. */
  | { readonly kind: 'region-name'; readonly span: Span }
  /** Where the attributes of a part's use go in its root element. */
  | { readonly kind: 'root-attributes'; readonly span: Span }
  /** The end of the head, where the styles of parts go. */
  | { readonly kind: 'head-end'; readonly span: Span }
  /** The `<title>` of a frame, which a message's subject replaces. */
  | { readonly kind: 'title'; readonly body: readonly TemplateNode[]; readonly span: Span };

/** Content for one engine, for the HTML alone, or for the plain-text version alone. */
export type Medium = 'word' | 'html' | 'text';

export const media: readonly Medium[] = ['word', 'html', 'text'];

/** A source file, read once and expanded as often as needed. */
export interface Template {
  readonly source: SourceText;
  readonly nodes: readonly TemplateNode[];
  /** The parts that it uses, with the place of each use. */
  readonly uses: readonly { readonly tag: string; readonly place: Place }[];
  /** The names of its slots; that of the default one is empty text. */
  readonly slots: readonly string[];
}

/** A value that a part accepts. */
export interface AcceptedValue {
  readonly name: string;
  /** Null where a use must give it. */
  readonly fallback: string | null;
}

/** A part: a reusable fragment. */
export interface Part {
  readonly tag: string;
  readonly template: Template;
  readonly accepts: readonly AcceptedValue[];
  /** Its style elements, with their tags. */
  readonly styles: readonly Span[];
  /** Whether it has one root element that can take the attributes of a region. */
  readonly hasRoot: boolean;
}
