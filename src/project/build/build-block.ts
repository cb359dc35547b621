import { buildEdition } from './build-edition.js';
import type { CheckSettings } from '../../core/check/settings.js';
import { atOrigin, identityOf, type Finding } from '../../core/findings/finding.js';
import { settingsFor } from '../check/check-bench.js';
import { CHECKED_EDITIONS, EditionChecker } from '../check/edition-checker.js';
import { asSet, withoutAccepted } from '../check/settle.js';
import type { Config } from '../config/config.js';
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
export async function buildBlock(
  { message, targets, block }: BlockTask,
  plan: VisitPlan,
  { request, placer }: { readonly request: BuildRequest; readonly placer: PicturePlacer },
  progress: (done: number, of: number) => void,
): Promise<VisitedMessage<BuildOutcome>> {
  // What is looked at by the rules is compiled by itself.
  const checker = new EditionChecker(Math.max(0, CHECKED_EDITIONS - block.from));
  const visitor: EditionVisitor<BuildOutcome> = {
    visit: (task, ready, target) => buildEdition(task, ready, target, { request, checker }),
    failed: failedOutcome,
  };
  const visited = await visitMessage(
    { ...plan, targets },
    message,
    { placer, progress, block, byThemselves: CHECKED_EDITIONS },
    visitor,
  );
  return settled(visited, plan.config, targets);
}

/** What came of a message, its findings as its authors and its project want them. */
function settled(
  { own, outcomes, sources, ...visited }: VisitedMessage<BuildOutcome>,
  config: Config,
  targets: readonly Target[],
): VisitedMessage<BuildOutcome> {
  const found = [...own, ...outcomes.flatMap(({ findings }) => findings)];
  const { standing } = withoutAccepted(found, sources);
  const kept = new Set(standing.map(identityOf));
  const keep = (items: readonly Finding[], settings: CheckSettings): Finding[] =>
    asSet(
      items.map(atOrigin).filter((item) => sources.length === 0 || kept.has(identityOf(item))),
      settings,
    );
  const comments = standing.filter(({ code }) => code.startsWith('accept-'));
  return {
    ...visited,
    sources: [],
    own: [...keep(own, config.checks), ...asSet(comments, config.checks)],
    outcomes: outcomes.map((outcome) => {
      const target = targets.find(({ destination }) => destination.name === outcome.destination);
      return { ...outcome, findings: keep(outcome.findings, settingsFor(config, target?.destination ?? null)) };
    }),
  };
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
