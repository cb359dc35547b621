/** The pixels of a picture: four bytes each (red, green, blue, alpha), row by row. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** A part of a picture, in pixels; right and bottom are exclusive. */
export interface Region {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** The lines of a region: its rows, or its columns. */
export type Axis = 'rows' | 'columns';

/** The greatest difference of a channel between two pixels, by their places in the data. */
export function difference(data: Uint8Array, first: number, second: number): number {
  let most = 0;
  for (let channel = 0; channel < 4; channel += 1) {
    const apart = Math.abs((data[first + channel] ?? 0) - (data[second + channel] ?? 0));
    if (apart > most) most = apart;
  }
  return most;
}

/** A way through the lines of a region, whichever axis they lie along. */
export class Lines {
  /** How many lines there are, and how many pixels each has. */
  readonly count: number;
  readonly length: number;
  readonly #start: number;
  readonly #step: number;
  readonly #along: number;

  constructor(
    readonly pixels: Pixels,
    region: Region,
    axis: Axis,
  ) {
    const width = region.right - region.left;
    const height = region.bottom - region.top;
    const row = pixels.width * 4;
    this.count = axis === 'rows' ? height : width;
    this.length = axis === 'rows' ? width : height;
    this.#start = region.top * row + region.left * 4;
    this.#step = axis === 'rows' ? row : 4;
    this.#along = axis === 'rows' ? 4 : row;
  }

  /** The place of a pixel in the data. */
  at(line: number, position: number): number {
    return this.#start + line * this.#step + position * this.#along;
  }

  /** Whether pixels beside each other on a line differ by no more than `most`: it is of one colour, or fades slowly. */
  isCalm(line: number, most: number): boolean {
    const { data } = this.pixels;
    let at = this.at(line, 0);
    const first = at;
    for (let position = 1; position < this.length; position += 1) {
      const next = at + this.#along;
      if (difference(data, at, next) > most) return false;
      at = next;
    }
    // What fades slowly may still hold a step that was taken in small ones, as the edge of a letter is not.
    return this.length < 2 || difference(data, first, at) <= most || this.fadesEvenly(line);
  }

  /** The share of a line's pixels that differ from those of the line before it by more than `least`. */
  edgeShare(line: number, least: number): number {
    const { data } = this.pixels;
    let found = 0;
    for (let position = 0; position < this.length; position += 1)
      if (difference(data, this.at(line, position), this.at(line - 1, position)) > least) found += 1;
    return this.length === 0 ? 0 : found / this.length;
  }

  /** The share of a line's pixels that have the colour of the one in its middle. */
  mainShare(line: number, most: number): number {
    const { data } = this.pixels;
    const middle = this.at(line, this.length >> 1);
    let found = 0;
    for (let position = 0; position < this.length; position += 1)
      if (difference(data, this.at(line, position), middle) <= most) found += 1;
    return this.length === 0 ? 0 : found / this.length;
  }

  /** Whether both ends of a line differ from those of another by more than `least`. */
  endsDiffer(line: number, other: number, least: number): boolean {
    const { data } = this.pixels;
    const end = this.length - 1;
    return (
      difference(data, this.at(line, 0), this.at(other, 0)) > least &&
      difference(data, this.at(line, end), this.at(other, end)) > least
    );
  }

  /** A gradient takes its way over the whole line, not within a few pixels. */
  private fadesEvenly(line: number): boolean {
    const { data } = this.pixels;
    const whole = difference(data, this.at(line, 0), this.at(line, this.length - 1));
    const stretch = Math.max(2, this.length >> 3);
    for (let position = 0; position + stretch < this.length; position += stretch) {
      const part = difference(data, this.at(line, position), this.at(line, position + stretch));
      if (part > Math.max(12, whole / 2)) return false;
    }
    return true;
  }
}
