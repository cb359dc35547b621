import type { Declared } from '../../css/cascade/cascade.js';
import type { DeclaredByOrder } from '../../css/cascade/document-cascade.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import { watched, type Place, type Report } from '../../findings/finding.js';
import { appliesTo } from './applies.js';
import { reportLengths } from './lengths.js';
import type { End } from './matrix.js';
import { reportUnsupported } from './report-styles.js';
import { declarationEnds, reportUntaken } from './unaccounted.js';

/** What is judged of a document. */
interface Judged {
  readonly index: ElementIndex;
  readonly declared: DeclaredByOrder;
  readonly styleSets: readonly (readonly (readonly ComputedStyle[])[])[];
  readonly shown: readonly (string | null)[];
}

/** Accounts for every declaration of a document: before its tables are made, and once they are. */
export class Account {
  /** Where emitters report what they refuse. */
  readonly report: Report;
  readonly #said = new Map<Place, End>();
  readonly #hasFailed: () => boolean;
  readonly #states: readonly (readonly ComputedStyle[])[];

  constructor(
    private readonly judged: Judged,
    report: Report,
  ) {
    const { report: checked, hasFailed } = watched((item) => {
      const end = item.code === 'css-decoration-lost' ? 'left out' : 'refused';
      if (item.place !== null) this.#said.set(item.place, end);
      report(item);
    });
    this.report = checked;
    this.#hasFailed = hasFailed;
    this.#states = judged.styleSets.flat();
  }

  /** Reports what tables cannot do whatever is emitted. */
  judge(): void {
    const { index, declared, styleSets, shown } = this.judged;
    const isShown = (order: number): boolean => shown[order] !== null;
    const applies = (property: string, element: IndexedElement): boolean =>
      this.#states.some((styles) => {
        const style = styles[element.order];
        const around = element.parent === null ? null : (styles[element.parent.order] ?? null);
        return style === undefined || appliesTo(property, element, style, around);
      });
    reportUnsupported(index, declared, { isShown, applies }, this.report);
    for (const styles of styleSets) reportLengths(index, styles, isShown, this.report);
  }

  /** Reports what no emitter took; nothing where an error left a part of the document without one. */
  close(): void {
    if (this.#hasFailed()) return;
    for (const styles of this.judged.styleSets) reportUntaken(this.judged.index, styles, this.report);
  }

  /** How each declaration of the author ended. */
  ends(): ReadonlyMap<Declared['declaration'], End> {
    const { index, declared } = this.judged;
    return declarationEnds(index, declared, this.#states, this.#said);
  }
}
