import {
  areWithin,
  shapeOf,
  textsIn,
  withStandIns,
  type EditionShape,
} from '../../core/message/editions/edition-shape.js';
import { filledVersions, type SharedVersions } from '../../core/message/editions/filled-message.js';
import { sharedVersions } from '../../core/message/editions/shared-versions.js';
import type { StandInForm, TextLength } from '../../core/message/editions/stand-ins.js';
import type { MessageVersions } from '../../core/message/compile-message.js';
import type { Finding } from '../../core/findings/finding.js';
import type { ExpandedPage } from '../../core/template/expanded-page.js';
import type { PreparedEdition } from './prepared-edition.js';

/** Both versions of a message that an author wrote as one. */
export type CompiledVersions = Pick<MessageVersions, 'html' | 'text'>;

/** Editions differ in more than texts where they come to more shapes than these. */
const MOST_SHAPES = 64;

/** An edition that was compiled by itself, and what others of its shape have in common with it. */
interface Known {
  readonly shape: EditionShape;
  readonly page: ExpandedPage;
  readonly ready: PreparedEdition;
  /** Null where they have nothing in common; not there until a second one comes. */
  shared?: Promise<Shared | null>;
}

/** What is compiled for all editions of a shape whose texts are no longer than this. */
interface Shared {
  readonly versions: SharedVersions;
  readonly length: TextLength;
}

/** How long texts may be, as it is tried: the shorter, the less of a layout depends on them. */
const lengths: readonly TextLength[] = [
  { text: 200, word: 30 },
  { text: 100, word: 20 },
  { text: 50, word: 14 },
  { text: 25, word: 10 },
];

/** An edition that is like one before it but for its texts. */
export interface AlikeEdition {
  readonly before: PreparedEdition;
  readonly versions: CompiledVersions;
}

/** What editions of a message have in common, as they come along. */
export class SharedEditions {
  readonly #known: Known[] = [];

  /** @param compile compiles a page; null where it cannot be compiled */
  constructor(private readonly compile: (page: ExpandedPage) => Promise<CompiledVersions | null>) {}

  /** Whether an edition with this page is to be made known once it is compiled: it is the first of its shape. */
  isNew(page: ExpandedPage): boolean {
    return this.#known.length < MOST_SHAPES && this.#known.every(({ shape }) => textsIn(page, shape) === null);
  }

  /**
   * Makes an edition known that was compiled by itself.
   * @param findings what was found in it
   */
  add(page: ExpandedPage, ready: PreparedEdition, findings: readonly Finding[]): void {
    const { html, text } = ready.versions;
    const sheets = [...ready.styleSheets.values()].map((sheet) => sheet.text);
    const shape = shapeOf(page, [html.source.doc, text.source.doc], sheets);
    const known: Known = { shape, page, ready };
    // What is said of a text may not hold for another.
    if (findings.some((item) => isAboutSlot(item, shape))) known.shared = Promise.resolve(null);
    this.#known.push(known);
  }

  /** The edition of a page, where what it is compiled to is known but for its texts; null where it is not. */
  async alike(page: ExpandedPage): Promise<AlikeEdition | null> {
    for (const known of this.#known) {
      const texts = textsIn(page, known.shape);
      if (texts === null) continue;
      const shared = await (known.shared ??= this.tried(known));
      if (shared === null || !areWithin(texts, known.shape, shared.length)) return null;
      return { before: known.ready, versions: filledVersions(shared.versions, known.shape, texts) };
    }
    return null;
  }

  private async tried({ shape, page, ready: { versions: own } }: Known): Promise<Shared | null> {
    const compiled = (form: StandInForm, length: TextLength): Promise<CompiledVersions | null> =>
      this.compile(withStandIns(page, shape, form, length));
    const short = await compiled('letter', { text: 1, word: 1 });
    if (short === null) return null;
    for (const length of lengths) {
      const word = await compiled('word', length);
      const text = await compiled('text', length);
      const long = word === null || text === null ? null : [word, text];
      const versions = long === null ? null : sharedVersions({ shape, own, short, long });
      if (versions !== null) return { versions, length };
    }
    return null;
  }
}

function isAboutSlot({ place }: Finding, { slots }: EditionShape): boolean {
  return (
    place !== null &&
    slots.some(
      ({ piece: { origin } }) =>
        origin.source === place.source && origin.span.start <= place.span.end && place.span.start <= origin.span.end,
    )
  );
}
