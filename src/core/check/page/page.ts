import type { EngineName, Feature } from '../../engines/engine.js';
import type { Dialect } from '../../dialects/dialect.js';
import type { MergeFields, MergeTag } from '../../dialects/model.js';
import { parseHtml, type ParseError } from '../../html/parse.js';
import { tagContexts, type TagContext } from '../../html/tag-context.js';
import { attribute, type ElementNode } from '../../html/tree.js';
import { SourceText } from '../../text/source-text.js';
import { frameTagsIn, type FrameTag } from './frame-tags.js';
import { groundsOf, type Grounds, type Shades } from './grounds.js';
import { linksOf, type Link } from './links.js';
import { picturesOf, type Picture } from './pictures.js';
import { StyledPage, type StyledInput, type ViewName } from './styled-page.js';
import { shownTexts, type ShownText } from './texts.js';

/** What a message is compiled to for one destination. */
export interface Output {
  readonly html: string;
  readonly text: string | null;
}

/** What a page is checked with. */
export interface PageInput extends StyledInput {
  readonly errors: readonly ParseError[];
  /** Whether it is finished HTML, which goes out as it is. */
  readonly isFinished: boolean;
  readonly outputs: readonly Output[];
  /** Its plain-text version; null where it has none, undefined where that is not known. */
  readonly text?: string | null;
  readonly tags: readonly MergeTag[];
  readonly project: ProjectFacts | null;
  /** The dialects whose tags nobody reads here: those of platforms, in a message. */
  readonly dialects?: readonly Dialect[];
  /** What engines make of features, and the engines that are asked for; null for all. */
  readonly features: readonly Feature[];
  readonly engines: readonly EngineName[] | null;
  /** What the lines of an inbox show before the message, where that is not in the page: null where there is none. */
  readonly preheader?: string | null;
}

/** What a project says of all its messages. */
export interface ProjectFacts {
  readonly sender: {
    readonly address: string;
    readonly replyTo: string | null;
    readonly postalAddress: string | null;
    readonly company?: string | null;
    readonly website?: string | null;
  } | null;
  readonly fields: MergeFields;
  /** The subjects of its other messages, with their names. */
  readonly otherSubjects: ReadonlyMap<string, string>;
}

/**
 * A page, and what rules ask of it: each fact is found out once, when the first rule asks. Places are in the text that was
 * parsed; whoever put that together leads them back to its authors.
 */
export class Page extends StyledPage {
  constructor(readonly input: PageInput) {
    super(input);
  }

  get links(): readonly Link[] {
    return this.once('links', () => linksOf(this));
  }

  get pictures(): readonly Picture[] {
    return this.once('pictures', () => picturesOf(this));
  }

  /** The texts that a reader sees in a view, in order. */
  texts(view: ViewName): readonly ShownText[] {
    return this.once(`texts ${view}`, () => shownTexts(this, view));
  }

  /** The colours that lie beneath elements in a view. */
  grounds(view: ViewName, shades: Shades = 'own'): Grounds {
    return this.once(`grounds ${view} ${shades}`, () => groundsOf(this, view, shades));
  }

  /** Where tags of tables and pages begin in the text, comments left out, whether or not the parser made something of them. */
  get frameTags(): readonly FrameTag[] {
    return this.once('frame tags', () => frameTagsIn(this.doc.masked));
  }

  /** The page as it goes out: itself, or the first of what it is compiled to. */
  get compiled(): Page {
    const [output] = this.input.outputs;
    if (this.input.isFinished || output === undefined) return this;
    return this.once('compiled', () => {
      const { doc, errors } = parseHtml(new SourceText('', output.html), this.doc.delimiters);
      return new Page({ ...this.input, doc, errors, isFinished: true, tags: [], linked: () => null });
    });
  }

  /** Where in the markup an offset of the text stands. */
  get contexts(): (offset: number) => TagContext {
    return this.once('contexts', () => tagContexts(this.doc));
  }

  /** The elements of each id, and anchors of each name. */
  get targets(): ReadonlyMap<string, readonly ElementNode[]> {
    return this.once('targets', () => {
      const found = new Map<string, ElementNode[]>();
      for (const element of this.elements) {
        const names = new Set([attribute(element, 'id'), element.tag === 'a' ? attribute(element, 'name') : null]);
        for (const name of names)
          if (name !== null && name !== '') found.set(name, [...(found.get(name) ?? []), element]);
      }
      return found;
    });
  }
}
