import { Lines, type Pixels, type Region } from './pixels.js';

/** Where a picture is cut: into bands from top to bottom, and these into columns from left to right. */
export interface Cuts {
  readonly bands: readonly BandCut[];
}

/** A band ends at row `to` (exclusive); its columns end at these places, the last at the width of the picture. */
export interface BandCut {
  readonly to: number;
  readonly columns: readonly number[];
}

/** How a picture was stored: pixels that a lossy coding has disturbed are looked at less strictly. */
export type Noise = 'none' | 'lossy';

/** The width that lengths below are meant for, in px. */
const USUAL_WIDTH = 600;

/** Gaps as large as this part texts, blocks (pictures, cards, buttons) and columns, in px at the usual width. */
const TEXT_GAP = 28;
const BLOCK_GAP = 18;
const COLUMN_GAP = 8;
/** Between words of one line there are gaps too: a share of its height. */
const WORD_GAP = 0.8;
const LEAST_WORD_GAP = 16;
/** What is smaller is no slice of its own, in px at the usual width. */
const LEAST_BAND = 20;
const LEAST_COLUMN = 48;
const LEAST_CONTENT = 16;
/** What is as high as this is no line of text. */
const LEAST_BLOCK = 48;

/** An edge is hard where most of a line changes at once. */
const HARD_EDGE = 0.75;
const EDGE_STEP = 16;
/** A gap between blocks is larger than those between the lines of a text by this factor. */
const OVER_LINE_GAP = 1.8;

/**
 * Proposes where to cut a drawn design: at edges where all of a row changes its colour, at the edges of pictures that run
 * from side to side, and in the middle of gaps between blocks; within a band in the same way from left to right. Text,
 * photographs and gradients are never cut through.
 */
export function findCuts(pixels: Pixels, noise: Noise = 'none'): Cuts {
  const unit = pixels.width / USUAL_WIDTH;
  const calm = noise === 'lossy' ? 10 : 3;
  const frame = contentFrame(pixels, calm);
  const rows = new LineAnalysis(new Lines(pixels, frame, 'rows'), calm);
  const isBlock = ({ start, end }: Run): boolean => end - start >= LEAST_BLOCK * unit;
  // The corners of a frame, and the like, are no content of their own.
  const isStray = (from: number, to: number): boolean => rows.contentBetween(from, to) < LEAST_CONTENT * unit;
  const parts = (gap: Run, before: Run, after: Run): boolean =>
    (gap.end - gap.start >= TEXT_GAP * unit || isBlock(before) || isBlock(after)) &&
    !isStray(0, gap.start) &&
    !isStray(gap.end, pixels.height);
  const ends = withoutNarrow(rows.cuts(BLOCK_GAP * unit, parts), pixels.height, LEAST_BAND * unit);
  const bandEnds = [...ends, pixels.height];
  return {
    bands: bandEnds.map((to, index): BandCut => {
      const top = bandEnds[index - 1] ?? 0;
      return { to, columns: columnsOf(pixels, { ...frame, top, bottom: to }, calm, unit) };
    }),
  };
}

function columnsOf(pixels: Pixels, band: Region, calm: number, unit: number): number[] {
  const rows = new LineAnalysis(new Lines(pixels, band, 'rows'), calm);
  const ink = rows.inkExtent();
  if (ink === null) return [pixels.width];
  const columns = new LineAnalysis(new Lines(pixels, band, 'columns'), calm);
  const height = ink.end - ink.start;
  const isOneLine = rows.contentRuns() === 1;
  const wordGap = Math.max(LEAST_WORD_GAP * unit, isOneLine ? WORD_GAP * height : 0);
  // Letters have straight sides too, but low ones.
  const isTall = height >= LEAST_BLOCK * unit;
  const side = (HARD_EDGE * height) / (band.bottom - band.top);
  const cuts = columns
    .cuts(COLUMN_GAP * unit, (gap) => gap.end - gap.start >= wordGap || (isTall && columns.hasSide(gap, side)))
    .map((at) => at + band.left);
  return [...withoutNarrow(cuts, pixels.width, LEAST_COLUMN * unit), pixels.width];
}

/** A frame line or a ground at the sides takes most of the height. */
const FRAME_SHARE = 0.85;
const FRAME_EDGE = 0.6;

/** A design that stands in a frame, or on a ground of one colour, is looked at without them. */
function contentFrame(pixels: Pixels, calm: number): Region {
  const { width, height } = pixels;
  const whole = { left: 0, top: 0, right: width, bottom: height };
  const columns = new Lines(pixels, whole, 'columns');
  const isFrame = (x: number): boolean => columns.mainShare(x, calm) >= FRAME_SHARE;
  let left = 0;
  for (let x = 1; x < width >> 2 && isFrame(x - 1); x += 1) if (columns.edgeShare(x, EDGE_STEP) >= FRAME_EDGE) left = x;
  let right = width;
  for (let x = width - 1; x > width - (width >> 2) && isFrame(x); x -= 1)
    if (columns.edgeShare(x, EDGE_STEP) >= FRAME_EDGE) right = x;
  return left > 0 && right < width ? { ...whole, left, right } : whole;
}

/** Lines of one kind that follow each other; `end` is exclusive. */
interface Run {
  readonly kind: 'gap' | 'content';
  readonly start: number;
  readonly end: number;
}

/** What the lines of a region show: gaps, where each is calm and goes on as the one before it; and content. */
class LineAnalysis {
  readonly #runs: readonly Run[];

  constructor(
    private readonly lines: Lines,
    private readonly calm: number,
  ) {
    this.#runs = this.findRuns();
  }

  /** Where to cut. Gaps count from `least` lines on, where `counts` agrees. */
  cuts(least: number, counts: (gap: Run, before: Run, after: Run) => boolean): number[] {
    const found: number[] = [];
    const runs = this.#runs;
    const lineGap = this.lineGap(least);
    for (const [index, run] of runs.entries()) {
      const before = runs[index - 1];
      const after = runs[index + 1];
      if (before === undefined) continue;
      // An edge: two gaps of different colours, or a gap and content that reaches from end to end.
      if (run.kind === 'gap' && before.kind === 'gap') found.push(run.start);
      else if (this.isBleeding(run, before)) found.push(run.start);
      else if (this.isBleeding(before, run)) found.push(run.start);
      if (run.kind !== 'gap' || before.kind !== 'content' || after?.kind !== 'content') continue;
      const isLarge = run.end - run.start >= Math.max(least, lineGap * OVER_LINE_GAP);
      const hasEdge = this.isBleeding(before, run) || this.isBleeding(after, run);
      if (isLarge && !hasEdge && counts(run, before, after)) found.push((run.start + run.end) >> 1);
    }
    return found;
  }

  /** From the first line of content to the last; null where there is none. */
  inkExtent(): { start: number; end: number } | null {
    const content = this.#runs.filter(({ kind }) => kind === 'content');
    const [first] = content;
    if (first === undefined) return this.#runs.length > 1 ? { start: 0, end: this.lines.count } : null;
    return { start: first.start, end: content.at(-1)?.end ?? first.end };
  }

  /** How many lines between two show content. */
  contentBetween(from: number, to: number): number {
    return this.#runs
      .filter(({ kind, start, end }) => kind === 'content' && start >= from && end <= to)
      .reduce((sum, { start, end }) => sum + end - start, 0);
  }

  isOneGap(): boolean {
    return this.#runs.length === 1 && this.#runs[0]?.kind === 'gap';
  }

  contentRuns(): number {
    return this.#runs.filter(({ kind }) => kind === 'content').length;
  }

  /** Whether something beside a gap has a straight side that takes this share of a line, as cards and pictures have. */
  hasSide({ start, end }: Run, share: number): boolean {
    return [start, end].some(
      (line) => line > 0 && line < this.lines.count && this.lines.edgeShare(line, EDGE_STEP) >= share,
    );
  }

  /** The usual gap between the lines of a text: half of the small gaps are at most as large. */
  private lineGap(least: number): number {
    const small = this.#runs
      .filter(({ kind, start, end }) => kind === 'gap' && start > 0 && end < this.lines.count && end - start < least)
      .map(({ start, end }) => end - start)
      .sort((a, b) => a - b);
    return small.length < 2 ? 0 : (small[small.length >> 1] ?? 0);
  }

  /** Whether content meets a gap beside it at a hard edge, and reaches to both ends of its lines. */
  private isBleeding(content: Run, gap: Run): boolean {
    if (content.kind !== 'content' || gap.kind !== 'gap') return false;
    const border = content.start === gap.end ? content.start : gap.start;
    if (this.lines.edgeShare(border, EDGE_STEP) < HARD_EDGE) return false;
    const beside = content.start === gap.end ? gap.end - 1 : gap.start;
    let bleeding = 0;
    for (let line = content.start; line < content.end; line += 1)
      if (this.lines.endsDiffer(line, beside, EDGE_STEP)) bleeding += 1;
    return bleeding > (content.end - content.start) / 2;
  }

  private findRuns(): Run[] {
    const runs: Run[] = [];
    let start = 0;
    let kind = this.kindOf(0);
    for (let line = 1; line < this.lines.count; line += 1) {
      const next = this.kindOf(line);
      const breaks = next === 'gap' && kind === 'gap' && this.lines.edgeShare(line, EDGE_STEP) >= HARD_EDGE;
      if (next === kind && !breaks) continue;
      runs.push({ kind, start, end: line });
      start = line;
      kind = next;
    }
    if (this.lines.count > 0) runs.push({ kind, start, end: this.lines.count });
    return runs;
  }

  private kindOf(line: number): Run['kind'] {
    return this.lines.isCalm(line, this.calm) ? 'gap' : 'content';
  }
}

/** Whether a region shows nothing but its ground: one colour, or a gradient. */
export function isBlank(pixels: Pixels, region: Region, noise: Noise = 'none'): boolean {
  return new LineAnalysis(new Lines(pixels, region, 'rows'), noise === 'lossy' ? 10 : 3).isOneGap();
}

/** Cuts without those that leave less than `least` between them: a stripe belongs to what stands above it, the first to what follows. */
function withoutNarrow(cuts: readonly number[], end: number, least: number): number[] {
  const kept: number[] = [];
  for (const cut of cuts) {
    const before = kept.at(-1) ?? 0;
    if (end - cut < least) continue;
    if (cut - before >= least) kept.push(cut);
    else if (kept.length > 0) {
      kept.pop();
      kept.push(cut);
    }
  }
  return kept;
}
