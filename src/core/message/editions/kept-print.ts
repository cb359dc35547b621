import type { Writer } from '../../layout/print/print.js';
import type { CompiledMessage } from '../compile-message.js';

/** What a writer was asked while a page was printed, and what it said. */
type Answer = (writer: Writer) => boolean;

/** A printed page, and the answers that it was printed with. */
interface KeptPage {
  readonly page: string;
  readonly answers: readonly Answer[];
}

/** Pages that are kept for a destination: as it sends them, and as samples of them. */
const MOST_KEPT = 3;

/**
 * Prints a message once for all editions whose writers say the same of its tags, links, pictures and regions. A writer is asked
 * all of that anew, in the same order, whether or not the page is printed again: it may take note of what it is asked.
 */
export function keptPrint(print: CompiledMessage['html']): CompiledMessage['html'] {
  const kept = new Map<unknown, readonly KeptPage[]>();
  return (writer, destination) => {
    const pages = kept.get(destination) ?? [];
    const known = pages.find(({ answers }) => answers.every((isSame) => isSame(writer)));
    if (known !== undefined) return known.page;
    const answers: Answer[] = [];
    const page = print(noting(writer, answers), destination);
    kept.set(destination, [{ page, answers }, ...pages].slice(0, MOST_KEPT));
    return page;
  };
}

/** A writer that says the same, and notes what it was asked. */
function noting(writer: Writer, answers: Answer[]): Writer {
  const noted = <T>(ask: (of: Writer) => T, isSame: (one: T, other: T) => boolean = Object.is): T => {
    const said = ask(writer);
    answers.push((other) => isSame(said, ask(other)));
    return said;
  };
  answers.push((other) => other.places === writer.places);
  return {
    ...writer,
    tag: (index, context) => noted((of) => of.tag(index, context)),
    picture: (path) => noted((of) => of.picture(path)),
    link: (address) => noted((of) => of.link(address)),
    region: (name) => noted((of) => of.region(name), isSameMark),
  };
}

function isSameMark(one: ReturnType<Writer['region']>, other: ReturnType<Writer['region']>): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
