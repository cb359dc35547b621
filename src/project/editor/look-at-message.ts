import { withoutConsequences } from '../../core/editor/consequences.js';
import { atOrigin, identityOf, type Finding } from '../../core/findings/finding.js';
import { settingsFor, type CheckBench } from '../check/check-bench.js';
import { checkEdition, type CheckedEdition } from '../check/check-edition.js';
import { asSet, settledMessage } from '../check/settle.js';
import type { MessageFile } from '../load/message-names.js';
import type { VisitPlan } from '../visit/choose-messages.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import { builtPictures, renderEdition } from '../visit/render-edition.js';
import { visitMessage, type MessageInputs } from '../visit/visit-messages.js';

/** What is wrong with a message as it stands, and the files that decide it. */
export interface MessageLook {
  readonly findings: readonly Finding[];
  readonly inputs: MessageInputs;
}

/**
 * Looks at a message while it is written: at its first edition, by the steps of a build and its check, without writing
 * anything. What is wrong in one place keeps nothing from being found in another.
 */
export async function lookAtMessage(plan: VisitPlan, message: MessageFile, bench: CheckBench): Promise<MessageLook> {
  // What other messages say has no part in it: they may be looked at in any order.
  const alone: CheckBench = { ...bench, subjects: new Map() };
  let checked: CheckedEdition | null = null;
  const visited = await visitMessage<{ readonly findings: readonly Finding[] }>(
    plan,
    { ...message, editions: [] },
    {
      placer: new PicturePlacer(plan.config, process.env),
      block: { from: 0, to: 1 },
      progress: () => undefined,
      goesOn: true,
    },
    {
      visit: async (task, ready, target) => {
        const found: Finding[] = [];
        const folder = builtPictures(task, ready, target);
        const done = await renderEdition(task, ready, target, folder, (item) => found.push(item));
        if (done !== null) checked ??= await checkEdition(task, ready, done, alone);
        const all = [...found, ...(checked?.findings ?? [])];
        return { findings: asSet(all, settingsFor(plan.config, target.destination)) };
      },
      failed: () => ({ findings: [] }),
    },
  );
  const { findings } = settledMessage(visited, plan.config.checks);
  const own = new Set(visited.own.map((item) => identityOf(atOrigin(item))));
  return { findings: withoutConsequences(findings, own), inputs: visited.inputs };
}
