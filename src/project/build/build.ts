import { finding, type Finding } from '../../core/findings/finding.js';
import type { ShapeName } from '../../core/packages/shape-names.js';
import { buildEdition } from './build-edition.js';
import type { PictureSummary } from './place-pictures.js';
import {
  visitMessages,
  type Target,
  type VisitListener,
  type VisitRequest,
  type VisitResult,
} from './visit-messages.js';
import { removeStaleEditions, type Written } from './write-outputs.js';

/** What to build. */
export interface BuildRequest extends VisitRequest {
  /** The folder that outputs go below. */
  readonly outFolder: string;
  /** How the package that the destination imports is made, too; null where none is wanted. */
  readonly pack: PackRequest | null;
}

/** How packages are made. */
export interface PackRequest {
  /** The shape that is asked for; null for that of the dialect. */
  readonly shape: ShapeName | null;
}

/** One message, or one of its editions, at one destination. */
export interface BuildOutcome {
  readonly message: string;
  /** Null for a message without editions. */
  readonly edition: string | null;
  readonly destination: string;
  readonly findings: readonly Finding[];
  /** What was written, or null where errors kept everything as it was. */
  readonly written: Written | null;
  /** What became of its pictures; null where nothing was written. */
  readonly pictures: PictureSummary | null;
}

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
function packable(targets: readonly Target[], { destinations, pack }: BuildRequest, findings: Finding[]): Target[] {
  const able = targets.filter(({ dialect }) => dialect.package !== null || (pack?.shape ?? null) !== null);
  if (destinations.length === 0) return able;
  for (const { destination, dialect } of targets.filter((target) => !able.includes(target))) {
    const known = able.map((target) => target.destination.name).join(', ');
    findings.push(finding('not-packable', null, { name: destination.name, dialect: dialect.name, known }));
  }
  return able;
}
