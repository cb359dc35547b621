import { finding, type Report } from '../../core/findings/finding.js';
import { buildEdition } from './build-edition.js';
import type { BuildOutcome, BuildRequest } from './outcome.js';
import { visitMessages, type VisitListener, type VisitResult } from './visit-messages.js';
import type { Target } from './target.js';
import { removeStaleEditions } from './write-outputs.js';

export type BuildResult = VisitResult<BuildOutcome>;

/**
 * Builds messages for destinations. Each message is compiled once; a message with errors leaves its outputs as they were.
 */
export function buildMessages(
  request: BuildRequest,
  listener: Partial<VisitListener<BuildOutcome>> = {},
): Promise<BuildResult> {
  const { outFolder, pack } = request;
  return visitMessages(
    request,
    {
      takesEditions: false,
      targets: (targets, findings) => (pack === null ? targets : packable(targets, request, findings)),
      visit: (task, ready, target) => buildEdition(task, ready, target, request),
      failed: (message, edition, { destination }) => ({
        message,
        edition,
        destination: destination.name,
        findings: [],
        written: null,
        pictures: null,
      }),
      whole: async (message, editions, targets) => {
        const current = new Set(editions.map(({ name }) => name ?? ''));
        for (const { destination } of targets)
          await removeStaleEditions({ outFolder, destination: destination.name, message, edition: null }, current);
      },
    },
    listener,
  );
}

/** Packages are made for destinations whose dialect describes one, or in the shape that is asked for. */
function packable(targets: readonly Target[], { destinations, pack }: BuildRequest, report: Report): Target[] {
  const able = targets.filter(({ dialect }) => dialect.package !== null || (pack?.shape ?? null) !== null);
  if (destinations.length === 0) return able;
  for (const { destination, dialect } of targets.filter((target) => !able.includes(target))) {
    const known = able.map((target) => target.destination.name).join(', ');
    report(finding('not-packable', null, { name: destination.name, dialect: dialect.name, known }));
  }
  return able;
}
