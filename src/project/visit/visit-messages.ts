import { join } from 'node:path';
import {
  adviceForName,
  atOrigin,
  finding,
  isError,
  withoutRepeats,
  type Finding,
  type Report,
} from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import type { SourceText } from '../../core/text/source-text.js';
import type { Config } from '../config/config.js';
import { FileLog } from '../files/file-log.js';
import { CONFIG_FILE } from '../files/project-folder.js';
import { loadMessage } from '../load/load-message.js';
import {
  planVisit,
  type ChosenMessage,
  type VisitChoice,
  type VisitPlan,
  type VisitRequest,
} from './choose-messages.js';
import { defectIn } from './defect.js';
import { findingsOf } from './message-findings.js';
import { PicturePlacer } from './place-pictures.js';
import type { Target } from './target.js';
import { MessagePreparer } from './prepare-message.js';
import type { Edition, PreparedEdition } from './prepared-edition.js';

/** What the editions of a message share while it is gone through. */
export interface EditionTask {
  readonly config: Config;
  readonly message: string;
  readonly preparer: MessagePreparer;
  readonly placer: PicturePlacer;
  /** Its files that hold comments by which their authors accept findings, as far as they have been read. */
  readonly sources: () => Promise<readonly SourceText[]>;
  /** The SHA-256 of its own file. */
  readonly source: string;
}

/** What is done with the editions of messages. */
export interface EditionVisitor<Outcome> {
  readonly visit: (task: EditionTask, ready: PreparedEdition, target: Target) => Promise<Outcome>;
  /** What comes of an edition that could not be compiled. */
  readonly failed: (message: string, edition: string | null, target: Target) => Outcome;
}

/** The SHA-256 of the files that a message read, null for those that were not there, by full path. */
export type MessageInputs = ReadonlyMap<string, string | null>;

/** How far the way through messages is. */
export interface VisitProgress {
  /** The message that is at hand, how many of its editions are done, and of how many. */
  readonly message: string;
  readonly done: number;
  readonly of: number;
  readonly messagesDone: number;
  readonly messages: number;
}

export interface VisitResult<Outcome> {
  readonly outcomes: readonly Outcome[];
  /** Findings about the request and the messages themselves, in order. */
  readonly findings: readonly Finding[];
}

/** What a message says of itself, for an overview. */
export interface MessageOverview {
  readonly subject: string;
  readonly topic: string | null;
  readonly keywords: readonly string[];
  /** The names of its editions; empty for a message without. */
  readonly editions: readonly string[];
}

/** What came of one message. */
export interface VisitedMessage<Outcome> {
  readonly outcomes: readonly Outcome[];
  /** What was found about the message itself; what was found at a destination is with its outcome. */
  readonly own: readonly Finding[];
  readonly inputs: MessageInputs;
  /** Null where the message cannot be read. */
  readonly overview: MessageOverview | null;
  /** How many editions were asked for: of a message without, one. */
  readonly editions: number;
  /** Its files that may hold comments by which their authors accept findings. */
  readonly sources: readonly SourceText[];
}

/** Some of the editions of a message, by their numbers: what one visit of many takes. */
export interface EditionBlock {
  readonly from: number;
  readonly to: number;
}

/** Goes through the editions of messages at their destinations. Each message is compiled once. */
export async function visitMessages<Outcome extends { readonly findings: readonly Finding[] }>(
  request: VisitRequest,
  visitor: EditionVisitor<Outcome> & VisitChoice,
  showProgress: (progress: VisitProgress) => void = () => undefined,
): Promise<VisitResult<Outcome>> {
  const findings: Finding[] = [];
  const plan = await planVisit(request, visitor, (item) => findings.push(item));
  if (plan === null) return { outcomes: [], findings };
  const placer = new PicturePlacer(plan.config, process.env);
  const outcomes: Outcome[] = [];
  for (const [messagesDone, message] of plan.messages.entries()) {
    const progress = (done: number, of: number): void =>
      showProgress({ message: message.name, done, of, messagesDone, messages: plan.messages.length });
    const visited = await visitMessage(plan, message, { placer, progress, block: null }, visitor);
    findings.push(...findingsOf(visited));
    outcomes.push(...visited.outcomes);
  }
  // What is wrong with a part is said once, however many messages use it.
  return { outcomes, findings: withoutRepeats(findings) };
}

/** How a message is gone through. */
export interface MessageVisit {
  readonly placer: PicturePlacer;
  /** Told how many editions are done, and of how many. */
  readonly progress: (done: number, of: number) => void;
  /** The editions that are gone through; null for all that were asked for. */
  readonly block: EditionBlock | null;
  /**
   * So many of the editions that were asked for, from the first, are each compiled by themselves; those behind them share
   * what is alike in them. All, where it is not given.
   */
  readonly byThemselves?: number;
  /** Is shown each edition as soon as its HTML is there. */
  readonly onlooker?: (task: EditionTask, ready: PreparedEdition) => Promise<void>;
  /** Whether what is behind an error is looked at as well as it can be, for who wants to know all that is wrong. */
  readonly goesOn?: boolean;
}

/** Goes through the editions of one message. A defect on the way is a finding, and the end of this message alone. */
export async function visitMessage<Outcome extends { readonly findings: readonly Finding[] }>(
  plan: VisitPlan,
  message: ChosenMessage,
  visit: MessageVisit,
  visitor: EditionVisitor<Outcome>,
): Promise<VisitedMessage<Outcome>> {
  const files = new FileLog(plan.read);
  const own: Finding[] = [];
  if ((visit.block?.from ?? 0) === 0) visit.progress(0, 1);
  try {
    const visited = await visitEditions(plan, message, { ...visit, files, own }, visitor);
    return { ...visited, own, inputs: files.digests, sources: await files.textsWith('accept ') };
  } catch (error) {
    own.push(defectIn(message.path, error));
    const outcomes = plan.targets.map((target) => visitor.failed(message.name, null, target));
    return { outcomes, own, inputs: files.digests, overview: null, editions: 0, sources: [] };
  }
}

async function visitEditions<Outcome>(
  { config, targets, partNames }: VisitPlan,
  message: ChosenMessage,
  {
    placer,
    progress,
    block,
    onlooker,
    byThemselves = Infinity,
    goesOn = false,
    files,
    own,
  }: MessageVisit & { readonly files: FileLog; readonly own: Finding[] },
  visitor: EditionVisitor<Outcome>,
): Promise<Pick<VisitedMessage<Outcome>, 'outcomes' | 'overview' | 'editions'>> {
  const report = (item: Finding): unknown => own.push(atOrigin(item));
  // A change of the configuration is a change of every message.
  await files.bytes(join(config.folder, CONFIG_FILE)).catch(() => null);
  const loaded = await loadMessage(message, config, { files, goesOn }, report);
  const allFailed = (): Outcome[] => targets.map((target) => visitor.failed(message.name, null, target));
  if (loaded === null || (own.some(isError) && !goesOn)) return { outcomes: allFailed(), overview: null, editions: 0 };
  const looking = onlooker === undefined ? null : (ready: PreparedEdition) => onlooker(task, ready);
  const preparer = new MessagePreparer(loaded, config, { files, partNames, onlooker: looking, goesOn });
  const all = preparer.editions(report);
  const chosen = chooseEditions(message, all, report);
  const editions = block === null ? chosen : chosen.slice(block.from, block.to);
  const sources = (): Promise<readonly SourceText[]> => files.textsWith('accept ');
  const source = files.digests.get(message.path) ?? '';
  const task: EditionTask = { config, message: message.name, preparer, placer, sources, source };
  const outcomes: Outcome[] = [];
  let overview: MessageOverview | null = null;
  for (const [index, edition] of editions.entries()) {
    const number = (block?.from ?? 0) + index;
    progress(number, chosen.length);
    const isAlone = number < byThemselves;
    const ready = await (isAlone ? preparer.prepare(edition, report) : preparer.prepareAlike(edition, report));
    if (ready !== null) overview ??= overviewOf(preparer, ready, all);
    for (const target of targets)
      outcomes.push(
        ready === null ? visitor.failed(message.name, edition.name, target) : await visitor.visit(task, ready, target),
      );
  }
  if (own.some(isError) && editions.length === 0) outcomes.push(...allFailed());
  return { outcomes, overview, editions: chosen.length };
}

function overviewOf(
  preparer: MessagePreparer,
  { versions: { html } }: PreparedEdition,
  all: readonly Edition[],
): MessageOverview {
  const { topic, keywords } = html.source.metadata;
  const editions = all.flatMap(({ name }) => (name === null ? [] : [name]));
  return { subject: preparer.subjectOf(html.source), topic, keywords, editions };
}

function chooseEditions(
  { name, editions: wanted }: ChosenMessage,
  all: readonly Edition[],
  report: Report,
): readonly Edition[] {
  if (wanted.length === 0) return all;
  const known = all.flatMap((edition) => (edition.name === null ? [] : [edition.name]));
  for (const edition of wanted.filter((candidate) => !known.includes(candidate)))
    report(
      finding('unknown-edition', null, {
        name: edition,
        message: name,
        advice: adviceForName(nearestName(edition, known), known, 'The message has no editions.'),
      }),
    );
  return all.filter((edition) => edition.name !== null && wanted.includes(edition.name));
}
