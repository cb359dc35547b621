import { basename, extname } from 'node:path';
import { finding, refusing, type Place, type Refuse, type Report } from '../../core/findings/finding.js';
import type { PictureFacts, PictureFormat } from '../../pictures/inspect-picture.js';
import {
  extensionOf,
  lighterPicture,
  type MailFormat,
  type MailPicture,
  type PictureWish,
} from '../../pictures/lighter-picture.js';
import { digestOf } from '../files/digest.js';

/** A picture file, read. */
export interface PictureFile {
  /** Its full path. */
  readonly file: string;
  readonly bytes: Uint8Array;
  readonly facts: PictureFacts;
}

/** A picture, and where a document first names it. */
export interface NamedPicture extends PictureFile {
  readonly place: Place | null;
  /** True for one that is ready as it is, such as a slice. */
  readonly isFinished?: boolean;
}

/** A picture as it leaves the tool. */
export interface CarriedPicture {
  /** Its name there: readable, and new whenever the content is. */
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly format: MailFormat;
  readonly width: number;
  readonly height: number;
  readonly from: NamedPicture;
}

const kinds: Readonly<Record<PictureFormat, { readonly title: string; readonly endings: readonly string[] }>> = {
  png: { title: 'PNG', endings: ['.png'] },
  jpeg: { title: 'JPEG', endings: ['.jpg', '.jpeg', '.jpe', '.jfif'] },
  gif: { title: 'GIF', endings: ['.gif'] },
  webp: { title: 'WebP', endings: ['.webp'] },
  avif: { title: 'AVIF', endings: ['.avif', '.heif', '.heic'] },
  svg: { title: 'SVG', endings: ['.svg'] },
  tiff: { title: 'TIFF', endings: ['.tif', '.tiff'] },
};

/** The name of a kind of pictures, as people write it. */
export function titleOf(format: PictureFormat): string {
  return kinds[format].title;
}

/** Media types of the kinds that mails carry (RFC 2045, 5). */
export function mediaTypeOf(format: PictureFormat): string {
  return format === 'svg' ? 'image/svg+xml' : `image/${format}`;
}

/**
 * Reports what a file holds else than its name says, and drawings that are more than pictures.
 * @param path what the document calls it
 */
export function reportKind({ facts, file }: PictureFile, path: string, place: Place | null, report: Report): void {
  const { format, drawing } = facts;
  const ending = extname(file).toLowerCase();
  const { title, endings } = kinds[format];
  if (ending !== '' && !endings.includes(ending)) {
    const name = `${basename(file, extname(file))}${extensionOf(format)}`;
    report(finding('picture-extension', place, { path, kind: title, name }));
  }
  if (drawing === null) return;
  const { active, external } = drawing;
  if (external.length > 0) report(finding('picture-external', place, { path, what: external.slice(0, 3).join(', ') }));
  else if (active.length > 0) report(finding('picture-drawn', place, { path, what: active.slice(0, 3).join(', ') }));
}

/** So many pictures keep what they came to, for other editions and builds in this process. */
const MOST_KEPT = 400;

/** Why a picture cannot be made ready. */
interface Unreadable {
  readonly detail: string;
}

const kept = new Map<string, Promise<MailPicture | Unreadable>>();

/** Makes a picture ready for mail, once for each width. */
async function lighten(picture: PictureFile, wish: PictureWish, refuse: Refuse): Promise<MailPicture | null> {
  const key = JSON.stringify([digestOf(picture.bytes), wish]);
  const made = kept.get(key) ?? madeReady(picture, wish);
  kept.set(key, made);
  const [oldest] = kept.keys();
  if (kept.size > MOST_KEPT && oldest !== undefined) kept.delete(oldest);
  const ready = await made;
  return 'detail' in ready ? refuse(ready.detail) : ready;
}

async function madeReady({ bytes, facts }: PictureFile, wish: PictureWish): Promise<MailPicture | Unreadable> {
  let detail = '';
  const refuse = (told: string): null => {
    detail = told;
    return null;
  };
  return (await lighterPicture(bytes, facts, wish, refuse)) ?? { detail };
}

/**
 * Makes the pictures of a document ready for mail.
 * @param widths how wide each is shown at most, in CSS px; a file that is shown at several widths gets the widest
 */
export async function carriedPictures(
  pictures: ReadonlyMap<string, NamedPicture>,
  widths: ReadonlyMap<string, number | null>,
  { mostBytes, keepsBytes }: Omit<PictureWish, 'shownWidth'>,
  report: Report,
): Promise<Map<string, CarriedPicture>> {
  const widest = new Map<string, number | null>();
  for (const [path, { file }] of pictures) {
    const width = widths.get(path) ?? null;
    const known = widest.get(file);
    widest.set(file, width === null || known === null ? null : Math.max(width, known ?? 0));
  }
  const carried = new Map<string, CarriedPicture>();
  for (const [path, from] of pictures) {
    const wish = { shownWidth: widest.get(from.file) ?? null, mostBytes, keepsBytes: keepsBytes === true };
    const refuse = refusing(report, (detail) => finding('picture-unreadable', from.place, { path, detail }));
    const picture = from.isFinished ? finishedPicture(from) : await lighten(from, wish, refuse);
    if (picture === null) continue;
    carried.set(path, { ...picture, name: nameOf(from.file, from.bytes, picture.bytes, picture.format), from });
    if (mostBytes !== null && picture.bytes.length > mostBytes)
      report(
        finding('picture-heavy', from.place, {
          path,
          size: (picture.bytes.length / 1024).toFixed(1),
          most: String(mostBytes / 1024),
        }),
      );
  }
  return carried;
}

function finishedPicture({ bytes, facts: { format, width, height } }: PictureFile): MailPicture | null {
  return format === 'png' || format === 'jpeg' || format === 'gif' ? { bytes, format, width, height } : null;
}

/**
 * `step-ladder-1f3a9c04.png`: the name of the file in plain letters, and eight digits of its content's SHA-256. A name that
 * ends in the digits of what the file held before gets the new ones in their place.
 */
export function nameOf(file: string, before: Uint8Array, bytes: Uint8Array, format: PictureFormat): string {
  const mark = (content: Uint8Array): string => `-${digestOf(content).slice(0, 8)}`;
  const name = basename(file, extname(file));
  const own = name.endsWith(mark(before)) ? name.slice(0, -mark(before).length) : name;
  const stem = own
    .normalize('NFKD')
    .replace(/[^\w-]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .toLowerCase();
  return `${stem === '' ? 'picture' : stem}${mark(bytes)}${extensionOf(format)}`;
}
