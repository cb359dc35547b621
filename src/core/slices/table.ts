import { escapeHtml } from '../html/escape.js';
import { shownRegion, type ShownGrid, type Slice, type SlicePlan } from './plan.js';
import type { Region } from './pixels.js';

/** What the table of slices names. */
export interface SliceFiles {
  /** The address of a slice's picture. */
  readonly address: (slice: Slice) => string;
  /** The colour of a slice's lower edge: it shows where a phone rounds heights away. */
  readonly edgeColor: (slice: Slice) => string;
}

/** A piece of a sliced picture: a table of pictures, or a slice that is text instead. */
export type SlicePiece =
  { readonly kind: 'table'; readonly html: string } | { readonly kind: 'live'; readonly slice: Slice };

/**
 * A sliced picture as pieces of a message, from top to bottom. Its tables leave no gap: cells have no padding and no spacing,
 * pictures are blocks. They are as wide as the room allows, up to the width that the picture is shown at; the columns of a
 * band shrink together.
 */
export function slicePieces(plan: SlicePlan, grid: ShownGrid, files: SliceFiles): SlicePiece[] {
  const pieces: SlicePiece[] = [];
  let rows: string[] = [];
  const endTable = (): void => {
    if (rows.length > 0) pieces.push({ kind: 'table', html: table(rows, grid.width) });
    rows = [];
  };
  for (const band of plan.bands) {
    const [first] = band;
    if (first !== undefined && band.length === 1 && first.live !== null) {
      endTable();
      pieces.push({ kind: 'live', slice: first });
    } else if (first !== undefined)
      rows.push(
        band.length === 1 ? row([cell(first, plan, grid, files, grid.width)]) : bandRow(band, plan, grid, files),
      );
  }
  endTable();
  return pieces;
}

const tableAttributes = 'role="presentation" cellpadding="0" cellspacing="0" border="0" dir="ltr"';

function table(rows: readonly string[], width: number): string {
  const style = `width:100%;max-width:${width}px;border-collapse:collapse;border-spacing:0`;
  return `<table data-raw ${tableAttributes} width="${width}" style="${style}">\n${rows.join('\n')}\n</table>`;
}

function row(cells: readonly string[]): string {
  return `<tr>${cells.join('')}</tr>`;
}

/** Columns stand in a table of their own: those of another band do not move them. */
function bandRow(band: readonly Slice[], plan: SlicePlan, grid: ShownGrid, files: SliceFiles): string {
  const style = 'width:100%;border-collapse:collapse;border-spacing:0;table-layout:fixed';
  const cells = band.map((slice) => cell(slice, plan, grid, files, null));
  const inner = `<table ${tableAttributes} width="${grid.width}" style="${style}">${row(cells)}</table>`;
  return row([`<td style="padding:0;font-size:0">${inner}</td>`]);
}

/** @param whole the width of the table where the slice takes all of it; null beside others */
function cell(slice: Slice, plan: SlicePlan, grid: ShownGrid, files: SliceFiles, whole: number | null): string {
  const { left, top, right, bottom } = shownRegion(slice, plan, grid);
  const width = right - left;
  const share = whole === null ? `width:${percent(width / grid.width)};` : '';
  const picture = image(slice, { left, top, right, bottom }, files, isDark(files.edgeColor(slice)));
  // A link that says nothing helps nobody: a slice without words leads somewhere only where its plan says so.
  const href = slice.href ?? (slice.alt === '' ? null : plan.link);
  const target = slice.target === null ? '' : ` target="${escapeHtml(slice.target)}"`;
  const linked =
    href === null || href === ''
      ? picture
      : `<a href=${quoted(href)}${target} style="display:block;text-decoration:none">${picture}</a>`;
  const style = `${share}padding:0;vertical-align:top;font-size:0;background-color:${files.edgeColor(slice)}`;
  return `<td width="${width}" style="${style}">${linked}</td>`;
}

function image(slice: Slice, { left, top, right, bottom }: Region, files: SliceFiles, onDark: boolean): string {
  // Where pictures are blocked, the text in their place is to be read.
  const reading = `color:${onDark ? '#ffffff' : '#000000'};font-size:16px;line-height:22px`;
  const size = `width="${right - left}" height="${bottom - top}"`;
  const style = `display:block;width:100%;height:auto;${reading}`;
  return `<img src="${escapeHtml(files.address(slice))}" ${size} border="0" alt=${quoted(slice.alt ?? '')} style="${style}">`;
}

/** An attribute value with its quotes. Those of a merge tag in it stay as they are where that is possible. */
function quoted(value: string): string {
  const isSingle = value.includes('"') && !value.includes("'");
  return isSingle ? `'${value.replace(/&/g, '&amp;').replace(/</g, '&lt;')}'` : `"${escapeHtml(value)}"`;
}

/** Whether light letters read better on a colour (by the relative luminance of WCAG 2.2, roughly). */
function isDark(color: string): boolean {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((at) => parseInt(color.slice(at, at + 2), 16));
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue < 110;
}

function percent(share: number): string {
  return `${Number((share * 100).toFixed(4))}%`;
}
