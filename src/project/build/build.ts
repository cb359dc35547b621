import { finding, isError, withoutRepeats, type Finding, type Report } from '../../core/findings/finding.js';
import { BuildRecord, type StandingMessage } from './build-record.js';
import { planVisit, type ChosenMessage, type VisitPlan } from '../visit/choose-messages.js';
import type { BuildOutcome, BuildRequest } from './outcome.js';
import { removeStaleEditions } from './write-outputs.js';
import type { Target } from '../visit/target.js';
import { findingsOf } from '../visit/message-findings.js';
import type { MessageInputs, VisitedMessage, VisitProgress, VisitResult } from '../visit/visit-messages.js';
import type { MessageBuilder } from './message-builder.js';

/** Who is told on the way. */
export interface BuildListener {
  /** All editions of a message are done at all destinations; messages come in the order of their names. */
  readonly done: (outcomes: readonly BuildOutcome[]) => void;
  readonly progress: (progress: VisitProgress) => void;
}

export interface BuildResult extends VisitResult<BuildOutcome> {
  /** What each message was made from. */
  readonly inputs: ReadonlyMap<string, MessageInputs>;
}

/** A message on its way: what stands of it, and for which destinations it is built. */
interface MessageJob {
  readonly message: ChosenMessage;
  readonly standing: readonly StandingMessage[];
  readonly targets: readonly Target[];
}

/**
 * Builds messages for destinations. Each message is compiled once; one that stands as it was built is left alone, and a
 * message with errors leaves its outputs as they were.
 */
export async function buildMessages(
  request: BuildRequest,
  listener: Partial<BuildListener> = {},
): Promise<BuildResult> {
  const { outFolder, pack } = request;
  const findings: Finding[] = [];
  const inputs = new Map<string, MessageInputs>();
  const choice = {
    takesEditions: false,
    targets: (targets: readonly Target[], report: Report) =>
      pack === null ? targets : packable(targets, request, report),
  };
  const plan = await planVisit(request, choice, (item) => findings.push(item));
  if (plan === null) return { outcomes: [], findings, inputs };
  const record = new BuildRecord(outFolder, plan);
  const jobs: MessageJob[] = [];
  for (const message of plan.messages) jobs.push(await jobFor(message, plan, record, request));
  const work = jobs.filter(({ targets }) => targets.length > 0).length;
  const builder = work === 0 ? null : await builderFor(work, plan, request);
  const outcomes: BuildOutcome[] = [];
  const progress = (name: string, messagesDone: number, done = 0, of = 1): void =>
    listener.progress?.({ message: name, done, of, messagesDone, messages: jobs.length });
  try {
    for (const job of jobs) if (job.targets.length > 0) builder?.begin(job.message, job.targets);
    for (const [messagesDone, { message, targets, standing }] of jobs.entries()) {
      progress(message.name, messagesDone);
      const visited =
        builder === null || targets.length === 0
          ? null
          : await builder.result(message, (done, of) => progress(message.name, messagesDone, done, of));
      const built = visited?.outcomes ?? [];
      if (visited !== null) await finish(message.name, targets, visited);
      findings.push(...foundIn(standing, visited));
      const all = [...standing.flatMap((stood) => stood.outcomes), ...built];
      outcomes.push(...inOrder(all, plan.targets));
      for (const known of [...standing, ...(visited === null ? [] : [visited])])
        inputs.set(message.name, new Map([...(inputs.get(message.name) ?? []), ...known.inputs]));
      listener.done?.(inOrder(all, plan.targets));
    }
  } finally {
    await builder?.close();
  }
  // What is wrong with a part is said once, however many messages use it.
  return { outcomes, findings: withoutRepeats(findings), inputs };

  async function finish(
    name: string,
    targets: readonly Target[],
    visited: VisitedMessage<BuildOutcome>,
  ): Promise<void> {
    if (visited.overview !== null && visited.overview.editions.length > 0 && !visited.own.some(isError))
      for (const { destination } of targets) {
        const place = { outFolder, destination: destination.name, message: name, edition: null };
        await removeStaleEditions(place, new Set(visited.overview.editions));
      }
    const problem = await record.keep(name, targets, visited);
    if (problem !== null) findings.push(problem);
  }
}

async function jobFor(
  message: ChosenMessage,
  { targets }: VisitPlan,
  record: BuildRecord,
  { pack, isFresh }: BuildRequest,
): Promise<MessageJob> {
  const standing: StandingMessage[] = [];
  const left: Target[] = [];
  for (const target of targets) {
    const stood = isFresh ? null : await record.standing(message.name, target, pack);
    if (stood === null) left.push(target);
    else standing.push(stood);
  }
  return { message, standing, targets: left };
}

/** All that was found in a message, in the order in which it is read. */
function foundIn(standing: readonly StandingMessage[], visited: VisitedMessage<BuildOutcome> | null): Finding[] {
  const own = [...standing.flatMap(({ findings }) => findings), ...(visited?.own ?? [])];
  return findingsOf({ own, outcomes: visited?.outcomes ?? [] });
}

/** What builds is loaded where there is something to build. */
async function builderFor(work: number, plan: VisitPlan, request: BuildRequest): Promise<MessageBuilder> {
  const { MessageBuilder: Builder } = await import('./message-builder.js');
  return new Builder(plan, request, work);
}

/** Outcomes in the order of the destinations. */
function inOrder(outcomes: readonly BuildOutcome[], targets: readonly Target[]): BuildOutcome[] {
  return targets.flatMap(({ destination }) => outcomes.filter((outcome) => outcome.destination === destination.name));
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
