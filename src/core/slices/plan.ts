import type { Place } from '../findings/finding.js';
import type { Region } from './pixels.js';

/** A part of a sliced picture. */
export interface Slice {
  /** Tells it from the others; its file is named after it. */
  readonly name: string;
  /** What is read where the picture is not seen; empty where there is nothing to read. Null where nobody has said. */
  readonly alt: string | null;
  readonly href: string | null;
  /** The window that its link opens in. */
  readonly target: string | null;
  /** The path of a part of the project that stands in its place as text; null for a picture. */
  readonly live: string | null;
  /** The quality of a JPEG that it is saved as; null keeps every pixel. */
  readonly jpeg: number | null;
  /** In pixels of the picture. */
  readonly region: Region;
  /** Where the plan speaks of it. */
  readonly place: Place;
}

/** How a picture is cut: bands from top to bottom, each of one or more slices from left to right. */
export interface SlicePlan {
  /** The width and height of the picture that the plan was made for, in its pixels. */
  readonly size: { readonly width: number; readonly height: number };
  /** How wide it is shown, in CSS px. */
  readonly width: number;
  /** Where slices lead that say nothing else. */
  readonly link: string | null;
  readonly bands: readonly (readonly Slice[])[];
}

/** A slice as it is proposed. */
export interface ProposedSlice {
  readonly region: Region;
  readonly name: string;
  /** Its number in the overview, from 1. */
  readonly number: number;
  /** A text to begin from; null where somebody has to write one. */
  readonly alt: string | null;
  /** What to say beside it: that the text was read from the picture, and how sure that is. */
  readonly remark: string | null;
}

/** What a new plan says. */
export interface Proposal {
  /** The picture, by its path from the plan. */
  readonly picture: string;
  readonly size: { readonly width: number; readonly height: number };
  readonly width: number;
  readonly link: string | null;
  readonly bands: readonly (readonly ProposedSlice[])[];
}

/** A new plan as YAML, with comments for those who edit it. */
export function planText({ picture, size, width, link, bands }: Proposal): string {
  const lines = [
    `# How ${picture.replace(/[\r\n]/g, ' ')} is cut. "to" is where a slice ends, in pixels of the picture: bands count from its top, columns from`,
    '# its left. Each slice begins where the one before it ends, so one number moves a cut.',
    '# A slice has: name, alt (what is read where the picture is not seen; "" where there is nothing to read), href, target,',
    '# live: parts/….html (text in place of the picture), jpeg: 80 (smaller, for photographs).',
    `picture: ${JSON.stringify(picture)}`,
    `size: { width: ${size.width}, height: ${size.height} }`,
    `width: ${width}  # as it is shown, in px`,
    ...(link === null ? [] : [`link: ${JSON.stringify(link)}  # for slices that say something and have no href`]),
    'bands:',
    ...bands.flatMap((band) => bandLines(band)),
  ];
  return `${lines.join('\n')}\n`;
}

function bandLines(band: readonly ProposedSlice[]): string[] {
  const [only] = band;
  if (only === undefined) return [];
  if (band.length === 1) return [`  - to: ${only.region.bottom}`, ...sliceLines(only, '    ')];
  return [
    `  - to: ${only.region.bottom}`,
    '    columns:',
    ...band.flatMap((slice) => [`      - to: ${slice.region.right}`, ...sliceLines(slice, '        ')]),
  ];
}

function sliceLines({ name, number, alt, remark }: ProposedSlice, indent: string): string[] {
  const said = alt === null ? 'alt:' : `alt: ${JSON.stringify(alt)}`;
  return [
    `${indent}name: ${name}  # ${number} in the overview`,
    `${indent}${said}${remark === null ? '' : `  # ${remark}`}`,
  ];
}

/** Where slices of a picture lie when it is shown, in CSS px. */
export interface ShownGrid {
  readonly width: number;
  readonly height: number;
  /** Pixels of the picture that is cut to a CSS px: 1, or 2 where the picture is large enough. */
  readonly scale: 1 | 2;
  /** A place in pixels of the picture, in whole CSS px. */
  readonly shown: (pixels: number) => number;
}

/**
 * The grid that a picture is cut on. Cuts lie on whole CSS px, so that no slice is blurred or leaves a gap; a picture that is
 * not one or two times as wide as it is shown has to be scaled to that first.
 */
export function shownGrid(size: { readonly width: number; readonly height: number }, width: number): ShownGrid {
  const shownWidth = Math.min(width, size.width);
  const scale = size.width >= 2 * shownWidth ? 2 : 1;
  const ratio = shownWidth / size.width;
  const isWhole = size.width === shownWidth * scale;
  const height = isWhole ? Math.ceil(size.height / scale) : Math.max(1, Math.round(size.height * ratio));
  return {
    width: shownWidth,
    height,
    scale,
    shown: (pixels) => Math.round(pixels * ratio),
  };
}

/** Where a slice lies on the grid, in CSS px. */
export function shownRegion({ region }: Pick<Slice, 'region'>, plan: Pick<SlicePlan, 'size'>, grid: ShownGrid): Region {
  return {
    left: grid.shown(region.left),
    top: grid.shown(region.top),
    right: region.right >= plan.size.width ? grid.width : grid.shown(region.right),
    bottom: region.bottom >= plan.size.height ? grid.height : grid.shown(region.bottom),
  };
}
