import { findingsFrom, plainFindings, type PlainFindings } from '../../core/findings/plain-findings.js';
import type { ChosenMessage } from '../visit/choose-messages.js';
import type { BuildOutcome, PackRequest } from './outcome.js';
import type { EditionBlock, VisitedMessage } from '../visit/visit-messages.js';

/** What a worker is started with. */
export interface WorkerStart {
  /** The folder of the project. */
  readonly folder: string;
  readonly outFolder: string;
  readonly pack: PackRequest | null;
  /** Where it says what it is writing. */
  readonly pending: SharedArrayBuffer;
}

/** A block of editions to build, for the destinations of these names. */
export interface WorkerTask {
  readonly message: ChosenMessage;
  readonly targets: readonly string[];
  readonly block: EditionBlock;
}

/** A task, by the number that its answer names. */
export interface NumberedTask {
  readonly number: number;
  readonly task: WorkerTask;
}

/** What came of a task, as plain data. */
export interface WorkerAnswer {
  readonly visited: Omit<VisitedMessage<Omit<BuildOutcome, 'findings'>>, 'own'>;
  /** What was found about the message, and then with each outcome. */
  readonly findings: PlainFindings;
  /** How many of the findings belong to each outcome, in their order. */
  readonly counts: readonly number[];
}

/** What came of a task, by the number of that. */
export interface NumberedAnswer {
  readonly number: number;
  readonly answer: WorkerAnswer;
}

export function asAnswer({ outcomes, own, ...visited }: VisitedMessage<BuildOutcome>): WorkerAnswer {
  return {
    visited: { ...visited, outcomes: outcomes.map((outcome) => ({ ...outcome, findings: undefined })) },
    findings: plainFindings([...own, ...outcomes.flatMap(({ findings }) => findings)]),
    counts: outcomes.map(({ findings }) => findings.length),
  };
}

export function fromAnswer({ visited, findings, counts }: WorkerAnswer): VisitedMessage<BuildOutcome> {
  const all = findingsFrom(findings);
  const ofOutcomes = counts.reduce((sum, count) => sum + count, 0);
  let at = all.length - ofOutcomes;
  const own = all.slice(0, at);
  const outcomes = visited.outcomes.map((outcome, index) => {
    const from = at;
    at += counts[index] ?? 0;
    return { ...outcome, findings: all.slice(from, at) };
  });
  return { ...visited, outcomes, own };
}
