import { buildEdition } from './build-edition.js';
import type { ChosenMessage, VisitPlan } from '../visit/choose-messages.js';
import type { BuildOutcome, BuildRequest } from './outcome.js';
import type { PicturePlacer } from '../visit/place-pictures.js';
import type { Target } from '../visit/target.js';
import { visitMessage, type EditionBlock, type EditionVisitor, type VisitedMessage } from '../visit/visit-messages.js';

/** Some editions of a message to build, for some destinations. */
export interface BlockTask {
  readonly message: ChosenMessage;
  readonly targets: readonly Target[];
  readonly block: EditionBlock;
}

/** Builds a block of the editions of a message. */
export function buildBlock(
  { message, targets, block }: BlockTask,
  plan: VisitPlan,
  { request, placer }: { readonly request: BuildRequest; readonly placer: PicturePlacer },
  progress: (done: number, of: number) => void,
): Promise<VisitedMessage<BuildOutcome>> {
  const visitor: EditionVisitor<BuildOutcome> = {
    visit: (task, ready, target) => buildEdition(task, ready, target, request),
    failed: failedOutcome,
  };
  return visitMessage({ ...plan, targets }, message, { placer, progress, block }, visitor);
}

/** An output that could not be made. */
export function failedOutcome(message: string, edition: string | null, { destination }: Target): BuildOutcome {
  return {
    message,
    edition,
    destination: destination.name,
    findings: [],
    written: null,
    pictures: null,
    shape: null,
    isUnchanged: false,
  };
}
