import { adviceForName, finding, type Finding, type Report } from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import type { OutgoingMail } from '../../mail/mail.js';
import type { Config } from '../config/config.js';
import { mailOf, type MailDelivery } from './packed-mail.js';
import { oneTarget } from './one-target.js';
import type { VisitRequest } from './choose-messages.js';
import { visitMessages, type VisitProgress } from './visit-messages.js';

/** Which mails to make. */
export interface MailRequest extends VisitRequest {
  /** The names of the samples that fill them, one mail for each; null where merge tags stay. */
  readonly samples: readonly string[] | null;
  readonly delivery: Omit<MailDelivery, 'recipient'>;
}

/** A mail that was made of a message. */
export interface MadeMail {
  readonly message: string;
  readonly edition: string | null;
  /** The sample that fills it; null where merge tags stay. */
  readonly sample: string | null;
  /** Whether merge tags stand in it. */
  readonly hasTags: boolean;
  readonly mail: OutgoingMail;
}

/** What came of an edition. */
export interface MailOutcome {
  readonly findings: readonly Finding[];
  readonly mails: readonly MadeMail[];
}

/** Makes mails of messages: of each edition one for each sample. */
export async function makeMails(
  request: MailRequest,
  progress: (progress: VisitProgress) => void = () => undefined,
): Promise<{ mails: MadeMail[]; findings: readonly Finding[] }> {
  const year = request.delivery.date.getFullYear();
  const { outcomes, findings } = await visitMessages<MailOutcome>(
    request,
    {
      takesEditions: true,
      targets: (targets, found) => oneTarget(targets, found),
      failed: () => ({ findings: [], mails: [] }),
      visit: async (task, ready, target) => {
        const found: Finding[] = [];
        const mails: MadeMail[] = [];
        for (const sample of request.samples ?? [null]) {
          const recipient = request.samples === null ? null : task.preparer.recipient(year, sample);
          const made = await mailOf(task, ready, target, { ...request.delivery, recipient }, (item) =>
            found.push(item),
          );
          const hasTags = recipient === null && ready.versions.html.source.tags.some(({ kind }) => kind !== 'literal');
          if (made !== null)
            mails.push({ message: task.message, edition: ready.edition.name, sample, hasTags, mail: made.mail });
        }
        return { findings: found, mails };
      },
    },
    progress,
  );
  return { mails: outcomes.flatMap((outcome) => outcome.mails), findings };
}

/** The name of the recipient that the samples of the fields make, where a project names no others. */
const UNNAMED = 'sample';

/** The names of a project's sample recipients. */
export function sampleNames({ samples }: Config): readonly string[] {
  return samples.size === 0 ? [UNNAMED] : [...samples.keys()];
}

/** The samples that are asked for; all that there are where none is. What is none is reported. */
export function chooseSamples(config: Config, wanted: readonly string[], report: Report): readonly string[] {
  const known = sampleNames(config);
  for (const name of wanted.filter((candidate) => !known.includes(candidate))) {
    const advice = adviceForName(nearestName(name, known), known, '');
    report(finding('unknown-sample', null, { name, advice }));
  }
  return wanted.length > 0 ? wanted : known;
}

/** "branch-notice/mill-yard, filled for nobody". */
export function describeMail({ message, edition, sample }: MadeMail): string {
  const name = edition === null ? message : `${message}/${edition}`;
  return sample === null ? name : `${name}, filled for ${sample}`;
}
