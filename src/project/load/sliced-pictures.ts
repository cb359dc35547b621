import { basename, dirname, extname, join, resolve } from 'node:path';
import { finding, isError, refusing, type Finding, type Place, type Report } from '../../core/findings/finding.js';
import { readMarkup, type WrittenTag } from '../../core/html/markup.js';
import { maskedSource } from '../../core/html/mask.js';
import { plainPath } from '../../core/pictures/local-path.js';
import { attributeOf } from '../../core/pictures/references.js';
import { shownGrid, type Slice, type SlicePlan } from '../../core/slices/plan.js';
import { slicePieces, type SlicePiece } from '../../core/slices/table.js';
import { MappedText, type Piece } from '../../core/text/mapped-text.js';
import type { SourceText } from '../../core/text/source-text.js';
import type { Span } from '../../core/text/span.js';
import { cutPicture, readStillPicture, type CutSlice } from '../../pictures/cut-picture.js';
import { digestOf } from '../files/digest.js';
import type { FileLog } from '../files/file-log.js';
import { isInside } from '../files/inside.js';
import type { NamedPicture } from './message-pictures.js';
import { readPictureFile } from './read-picture-file.js';
import { readSlicePlan } from './slice-plan.js';

/** Slices over this weight are told of, in bytes. */
const HEAVY_SLICE = 150 * 1024;

/** Where the files of a message lie. */
export interface SliceFolders {
  /** What the paths of a message count from. */
  readonly message: string;
  readonly project: string;
}

/** A source whose sliced pictures have become tables, and the slices by the paths that these tables give. */
export interface SlicedSource {
  readonly source: SourceText;
  readonly slices: ReadonlyMap<string, NamedPicture>;
}

/** Elements in which a table cannot stand. */
const linesOfText: ReadonlySet<string> = new Set(['p', 'a', 'span', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'b', 'em']);

/**
 * Puts tables of slices in the place of `<img slices="…">`. Every other character keeps its place for findings; a source
 * without sliced pictures comes back as it is.
 */
export async function withSlicedPictures(
  source: SourceText,
  folders: SliceFolders,
  files: FileLog,
  report: Report,
): Promise<SlicedSource> {
  if (!/\bslices\s*=/i.test(source.text)) return { source, slices: new Map() };
  const { text } = source;
  const { tags } = readMarkup(maskedSource(text));
  const slices = new Map<string, NamedPicture>();
  const pieces: Piece[] = [];
  let position = 0;
  for (const tag of tags) {
    const plan = tag.tag === 'img' ? attributeOf(tag, 'slices', text) : null;
    if (plan === null) continue;
    const around = openElement(text, tag);
    if (around !== null) report(finding('slice-place', { source, span: tag.span }, { tag: around }));
    const cut = await loadSlices(source, tag, folders, files, report);
    if (cut === null) continue;
    for (const [path, picture] of cut.slices) slices.set(path, picture);
    pieces.push(copied(source, { start: position, end: tag.span.start }));
    pieces.push({ text: cut.html, origin: { source, span: tag.span }, exact: false, uses: [] });
    position = tag.span.end;
  }
  pieces.push(copied(source, { start: position, end: text.length }));
  return { source: position === 0 ? source : new MappedText(source.name, pieces), slices };
}

function copied(source: SourceText, span: Span): Piece {
  return { text: source.slice(span), origin: { source, span }, exact: true, uses: [] };
}

/** The element of text that a tag stands in, where one is open before it on its way up. */
function openElement(text: string, tag: WrittenTag): string | null {
  const before = /<(\/?)([a-z][a-z\d]*)\b[^<>]*>\s*$/i.exec(
    text.slice(Math.max(0, tag.span.start - 500), tag.span.start),
  );
  const name = before?.[2]?.toLowerCase() ?? '';
  return before?.[1] === '' && linesOfText.has(name) ? name : null;
}

async function loadSlices(
  source: SourceText,
  tag: WrittenTag,
  folders: SliceFolders,
  files: FileLog,
  report: Report,
): Promise<{ html: string; slices: ReadonlyMap<string, NamedPicture> } | null> {
  const path = attributeOf(tag, 'src', source.text) ?? '';
  const planPath = attributeOf(tag, 'slices', source.text) ?? '';
  const attribute = tag.attributes.find(({ name }) => name === 'slices');
  const place = { source, span: attribute?.value ?? tag.span };
  const pictureFile = resolve(folders.message, plainPath(path));
  const bytes = await readPictureFile(
    pictureFile,
    { root: folders.project, rootName: 'the project' },
    (name) => files.bytes(name),
    ({ code, data }) => {
      report(finding(code, { source, span: tag.span }, { path, ...data }));
      return null;
    },
  );
  if (bytes === null) return null;
  const full = resolve(folders.message, plainPath(planPath));
  const isHere = isInside(full, folders.project);
  const missing = finding('slice-plan-missing', place, { path: planPath, picture: path });
  if (!isHere) report(missing);
  const file = isHere
    ? await files.text(full, (problem) => report(problem.code === 'file-missing' ? missing : problem))
    : null;
  if (file === null) return null;
  const name = basename(plainPath(path), extname(path));
  const sliced = await sliceSource(file.source, { path, bytes, place: { source, span: tag.span } }, report);
  if (sliced === null) return null;
  // Two pictures may have one name, and one picture two plans.
  const mark = digestOf(`${digestOf(bytes)} ${file.source.text}`).slice(0, 8);
  const addressOf = (slice: Slice): string => `slice:${mark}/${encodeURIComponent(slice.name)}`;
  const cuts = new Map(sliced.cuts.map((cut) => [cut.slice, cut]));
  const link = attributeOf(tag, 'slices-link', source.text) ?? sliced.plan.link;
  const pieces = slicePieces({ ...sliced.plan, link }, shownGrid(sliced.plan.size, sliced.plan.width), {
    address: addressOf,
    edgeColor: (slice) => cuts.get(slice)?.edgeColor ?? '#ffffff',
  });
  const html = pieces.map((piece) => pieceHtml(piece, report)).join('\n');
  const slices = new Map(
    sliced.cuts.map((cut): [string, NamedPicture] => [addressOf(cut.slice), namedSlice(cut, full, name)]),
  );
  return { html, slices };
}

/** A part of the project stands where its slice is live; what else a path may name is refused. */
function pieceHtml(piece: SlicePiece, report: Report): string {
  if (piece.kind === 'table') return piece.html;
  const { live, place } = piece.slice;
  const tag = /^(?:\.{0,2}\/)*parts\/([a-z][\p{Ll}\d._-]*)\.html$/u.exec(live ?? '')?.[1];
  if (tag !== undefined) return `<${tag}></${tag}>`;
  report(finding('slice-live-missing', place, { path: live ?? '' }));
  return '';
}

function namedSlice({ slice, picture }: CutSlice, planFile: string, name: string): NamedPicture {
  const { width, height, format, bytes } = picture;
  return {
    file: join(dirname(planFile), `${name}-${slice.name}.${format === 'jpeg' ? 'jpg' : format}`),
    bytes,
    facts: { format, width, height, frames: 1, needsConversion: false, drawing: null },
    place: slice.place,
    isFinished: true,
  };
}

/** A picture that is to be cut. */
export interface WholePicture {
  /** What findings call it. */
  readonly path: string;
  readonly bytes: Uint8Array;
  readonly place: Place | null;
}

/** A picture, cut as its plan says. */
export interface SlicedPicture {
  readonly plan: SlicePlan;
  readonly cuts: readonly CutSlice[];
}

/** So many sliced pictures are kept for other builds in this process. */
const MOST_KEPT = 20;
const kept = new Map<string, { sliced: SlicedPicture | null; findings: readonly Finding[] }>();

/** Reads a plan and cuts its picture. Null, with findings, where that cannot be done. */
async function sliceSource(
  planSource: SourceText,
  picture: WholePicture,
  report: Report,
): Promise<SlicedPicture | null> {
  const key = `${digestOf(picture.bytes)} ${planSource.name} ${digestOf(planSource.text)}`;
  const known = kept.get(key);
  const findings: Finding[] = [];
  const result = known ?? { sliced: await slice(planSource, picture, (item) => findings.push(item)), findings };
  if (known === undefined && !findings.some(isError)) kept.set(key, result);
  const [oldest] = kept.keys();
  if (kept.size > MOST_KEPT && oldest !== undefined) kept.delete(oldest);
  result.findings.forEach(report);
  return result.sliced;
}

async function slice(
  planSource: SourceText,
  { path, bytes, place }: WholePicture,
  report: Report,
): Promise<SlicedPicture | null> {
  const picture = await readStillPicture(
    bytes,
    refusing(report, (detail) => finding('picture-unreadable', place, { path, detail })),
  );
  if (picture === null) return null;
  const { facts, pixels } = picture;
  const plan = readSlicePlan(planSource, { path, width: facts.width, height: facts.height }, report);
  if (plan === null) return null;
  const cuts = await cutPicture(pixels, plan, shownGrid(plan.size, plan.width));
  for (const {
    slice: { name, place: at },
    picture,
  } of cuts)
    if (picture.bytes.length > HEAVY_SLICE && picture.format === 'png')
      report(finding('slice-heavy', at, { name, size: (picture.bytes.length / 1024).toFixed(0) }));
  return { plan, cuts };
}
