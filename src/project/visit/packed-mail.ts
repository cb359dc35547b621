import { finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import type { PackageFile } from '../../core/packages/package-file.js';
import { templateName, type MessageFacts } from '../../core/packages/manifest.js';
import { renderSample } from '../../core/message/render-message.js';
import type { SampleRecipient } from '../../core/dialects/sample/fill-sample.js';
import { composeMail, headerProblems } from '../../mail/compose-mail.js';
import type { MailPicture, OutgoingMail } from '../../mail/mail.js';
import { builtPictures, renderEdition, renderInput } from './render-edition.js';
import type { PlacedPictures } from './place-pictures.js';
import type { PreparedEdition } from './prepared-edition.js';
import type { EditionTask } from './visit-messages.js';
import type { Target } from './target.js';

/** What a message is made a mail for. */
export interface MailDelivery {
  /** Who gets it; nobody yet for a draft. */
  readonly to: readonly string[];
  /** Whose data fill its merge tags; null where they stay. */
  readonly recipient: SampleRecipient | null;
  /** What stands before its subject. */
  readonly mark: string;
  readonly isUnsent: boolean;
  readonly date: Date;
}

/** ZIP's earliest time, which packed mails have too: a package depends on its content alone. */
const PACKED_DATE = new Date(Date.UTC(1980, 0, 1));

/** A package that is a mail: its one file, and how its pictures travel. */
export interface PackedMail {
  readonly files: readonly PackageFile[];
  readonly pictures: MessageFacts['pictures'];
}

/** Makes a package that is a mail. Null, with findings, where it cannot be made. */
export async function packedMail(
  task: EditionTask,
  ready: PreparedEdition,
  target: Target,
  report: Report,
): Promise<PackedMail | null> {
  const delivery: MailDelivery = { to: [], recipient: null, mark: '', isUnsent: true, date: PACKED_DATE };
  const made = await mailOf(task, ready, target, delivery, report);
  if (made === null) return null;
  const { bytes } = await composeMail(made.mail);
  const path = `${templateName({ message: task.message, edition: ready.edition.name })}.eml`;
  return { files: [{ path, bytes }], pictures: made.pictures };
}

/** A mail, and how its pictures travel. */
interface MailOfEdition {
  readonly mail: OutgoingMail;
  readonly pictures: MessageFacts['pictures'];
}

/** Makes a mail of an edition; pictures that lie in files become parts of it. Null, with findings, where that cannot be. */
export async function mailOf(
  task: EditionTask,
  ready: PreparedEdition,
  given: Target,
  { to, recipient, mark, isUnsent, date }: MailDelivery,
  report: Report,
): Promise<MailOfEdition | null> {
  const found: Finding[] = [];
  const collect = (item: Finding): void => {
    found.push(item);
    report(item);
  };
  const target = withAttachedPictures(given);
  const { sender } = task.config;
  if (sender === null) {
    collect(finding('sender-missing', null));
    return null;
  }
  const done = await renderEdition(task, ready, target, builtPictures(task, ready, target), collect);
  if (done === null || found.some(isError)) return null;
  const { rendered, placed } = done;
  const input = renderInput(task, ready, target, placed.address, () => undefined);
  const content = recipient === null ? rendered : renderSample(ready.versions, { ...input, recipient });
  const { from, replyTo } = ready.versions.html.metadata;
  const mail: OutgoingMail = {
    from: { name: from ?? sender.name, address: sender.address },
    replyTo: replyTo ?? sender.replyTo,
    to,
    subject: `${mark}${content.subject}`,
    text: content.flowed,
    html: content.html,
    pictures: attachedPictures(placed),
    attachments: ready.attachments.map(({ name, bytes }) => ({ name, type: '', bytes })),
    unsubscribe: sender.unsubscribe,
    isUnsent,
    date,
  };
  const problems = headerProblems(mail);
  for (const what of problems) collect(finding('header-injection', null, { what }));
  return problems.length > 0 ? null : { mail, pictures: done.facts.pictures };
}

/** A mail has no folder beside it: what would lie there is a part of it. */
function withAttachedPictures(target: Target): Target {
  const { images } = target.destination;
  const liesBeside = images.mode === 'package' || (images.mode === 'library' && images.baseUrl === null);
  return liesBeside
    ? { ...target, destination: { ...target.destination, images: { ...images, mode: 'attach' } } }
    : target;
}

function attachedPictures({ listed, files }: PlacedPictures): MailPicture[] {
  const bytes = new Map(files.map((file) => [file.path, file.bytes]));
  return listed.flatMap(({ address, contentId }) => {
    const content = address === null ? undefined : bytes.get(address);
    if (contentId === null || content === undefined || address === null) return [];
    return [{ name: address.replace(/^images\//, ''), type: '', bytes: content, contentId }];
  });
}
