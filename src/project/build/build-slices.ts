import { basename, dirname, extname, join, relative, sep } from 'node:path';
import { textWidth } from '../../core/text/text-width.js';
import { watched, type Report } from '../../core/findings/finding.js';
import { escapeHtml } from '../../core/html/escape.js';
import { neutralDialect } from '../../core/dialects/dialect.js';
import { renderMessage } from '../../core/message/render-message.js';
import type { SlicePlan } from '../../core/slices/plan.js';
import { inspectPicture, type PictureFacts } from '../../pictures/inspect-picture.js';
import type { Config } from '../config/config.js';
import { FileLog } from '../files/file-log.js';
import { loadMessage } from '../load/load-message.js';
import { htmlNames, isPartName } from '../load/message-names.js';
import type { CarriedPicture } from '../load/message-pictures.js';
import { MessagePreparer } from '../visit/prepare-message.js';
import { readSlicePlan } from '../load/slice-plan.js';

/** A picture that is to be cut and shown. */
export interface SliceRequest {
  /** The full paths of the picture and its plan. */
  readonly path: string;
  readonly plan: string;
  /** Where slices lead that say nothing else, in place of what the plan says. */
  readonly link: string | null;
  readonly config: Config;
}

/** A picture, cut and put together again as a page. */
export interface BuiltSlices {
  readonly plan: SlicePlan;
  readonly html: string;
  readonly pictures: readonly CarriedPicture[];
}

/** Cuts a picture and compiles the table of its slices, as a message that holds nothing else. */
export async function buildSlices(request: SliceRequest, given: Report): Promise<BuiltSlices | null> {
  const { path, config } = request;
  const { report, hasFailed } = watched(given);
  const files = new FileLog();
  const folder = dirname(path);
  const file = await files.text(request.plan, report);
  if (file === null) return null;
  const name = basename(path, extname(path));
  const page = join(folder, `${name}.html`);
  files.put(page, pageOf(path, request.plan, name, request.link));
  const message = await loadMessage({ name, path: page }, config, { files }, report);
  if (message === null || hasFailed()) return null;
  const partNames = (await htmlNames(config.folder, 'parts')).filter(isPartName);
  const preparer = new MessagePreparer(message, config, { files, partNames });
  const [edition] = preparer.editions(report);
  const ready = edition === undefined ? null : await preparer.prepare(edition, report);
  if (ready === null || hasFailed()) return null;
  const pictures = [...new Map([...ready.pictures.values()].map((picture) => [picture.name, picture])).values()];
  const { html } = renderMessage(
    ready.versions,
    {
      dialect: neutralDialect,
      fields: config.fields,
      recipient: preparer.recipient(new Date().getFullYear(), null),
      picturePath: (source) => `images/${ready.pictures.get(source)?.name ?? ''}`,
      text: { width: 72, links: 'notes', measure: textWidth },
      linkParameters: [],
    },
    report,
  );
  // That it can be read is known: its slices were cut.
  const facts = await inspectPicture(await files.bytes(path), () => null);
  const plan = facts === null ? null : readSlicePlan(file.source, { path: name, ...sizeOf(facts) }, () => undefined);
  return plan === null || hasFailed() ? null : { plan, html, pictures };
}

function sizeOf({ width, height }: PictureFacts): Pick<PictureFacts, 'width' | 'height'> {
  return { width, height };
}

function pageOf(path: string, plan: string, name: string, link: string | null): string {
  const from = dirname(path);
  const address = (file: string): string => relative(from, file).split(sep).map(encodeURIComponent).join('/');
  const ownLink = link === null ? '' : ` slices-link="${escapeHtml(link)}"`;
  return `<!doctype html>\n<html lang="en"><head><title>${escapeHtml(name)}</title></head><body style="margin:0">\n<img src="${address(path)}" slices="${address(plan)}"${ownLink}>\n</body></html>\n`;
}
