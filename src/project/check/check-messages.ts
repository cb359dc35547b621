import type { AcceptedFinding } from '../../core/check/accept.js';
import { withoutRepeats, type Finding, type Place, type Report } from '../../core/findings/finding.js';
import { resolveOrigin } from '../../core/text/mapped-text.js';
import type { PreparedEdition } from '../visit/prepared-edition.js';
import type { Target } from '../visit/target.js';
import { planVisit, type VisitRequest } from '../visit/choose-messages.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import { builtPictures, renderEdition } from '../visit/render-edition.js';
import { visitMessage, type VisitProgress } from '../visit/visit-messages.js';
import { settingsFor, type CheckBench } from './check-bench.js';
import { checkEdition, type CheckedEdition } from './check-edition.js';
import { asSet, settledMessage } from './settle.js';
import { withPicturesHere } from '../visit/pictures-here.js';

/** What a check came to. */
export interface CheckResult {
  readonly findings: readonly Finding[];
  readonly accepted: readonly AcceptedFinding[];
  /** How many messages or files were looked at. */
  readonly count: number;
  /** The web addresses that they lead to, each once, where it stands. */
  readonly links: readonly { readonly url: string; readonly place: Finding['place'] }[];
}

interface CheckOutcome {
  readonly findings: readonly Finding[];
}

/** Checks messages of a project: what a build says of them, and what the rules find. Nothing is written. */
export async function checkMessages(
  request: VisitRequest,
  bench: CheckBench,
  { strict, progress }: { readonly strict: boolean; readonly progress: (progress: VisitProgress) => void },
): Promise<CheckResult> {
  const findings: Finding[] = [];
  const accepted: AcceptedFinding[] = [];
  const links = new Map<string, Finding['place']>();
  const report: Report = (item) => findings.push(item);
  const config = withPicturesHere(request.config);
  const choice = { takesEditions: true, targets: (targets: readonly Target[]) => targets };
  const plan = await planVisit({ ...request, config }, choice, report);
  if (plan === null) return { findings, accepted, count: 0, links: [] };
  const placer = new PicturePlacer(config, process.env);
  let last: { readonly ready: PreparedEdition; readonly checked: CheckedEdition } | null = null;
  for (const [messagesDone, message] of plan.messages.entries()) {
    const visited = await visitMessage<CheckOutcome>(
      plan,
      message,
      {
        placer,
        block: null,
        progress: (done, of) =>
          progress({ message: message.name, done, of, messagesDone, messages: plan.messages.length }),
      },
      {
        visit: async (task, ready, target) => {
          const found: Finding[] = [];
          const settings = settingsFor(config, target.destination);
          const folder = builtPictures(task, ready, target);
          const done = await renderEdition(task, ready, target, folder, (item) => found.push(item));
          // What the rules find is the same for all destinations.
          if (done !== null && last?.ready !== ready)
            last = { ready, checked: await checkEdition(task, ready, done, bench) };
          if (done !== null && last !== null) {
            found.push(...last.checked.findings);
            for (const { url, place } of last.checked.links) links.set(url, placeAtOrigin(place));
          }
          return { findings: asSet(found, settings, strict) };
        },
        failed: () => ({ findings: [] }),
      },
    );
    const settled = settledMessage(visited, config.checks, strict);
    findings.push(...settled.findings);
    accepted.push(...settled.accepted);
  }
  return {
    findings: withoutRepeats(findings),
    accepted,
    count: plan.messages.length,
    links: [...links].map(([url, place]) => ({ url, place })),
  };
}

/** The place that an author wrote. */
function placeAtOrigin(place: Place): Place {
  return resolveOrigin(place).origin;
}
