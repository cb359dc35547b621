import { finding, type Finding, type Report } from '../../core/findings/finding.js';
import type { Slice, SlicePlan } from '../../core/slices/plan.js';
import { shownGrid, shownRegion } from '../../core/slices/plan.js';
import type { SourceText } from '../../core/text/source-text.js';
import { group, list, needed, text, textLike, textOrNothing, whole, type Held } from '../../core/yaml/keys.js';
import { readYaml } from '../../core/yaml/read-yaml.js';
import type { PlaceOf, YamlPath } from '../../core/yaml/yaml-places.js';

const pixels = whole(1);

const sliceKeys = {
  to: pixels,
  name: textLike(/^[\p{L}\d][\p{L}\d_-]*$/u),
  alt: textOrNothing(),
  href: textOrNothing(),
  target: text(),
  live: text(),
  jpeg: whole(1, 100),
};

const slice = group(sliceKeys);

const planSchema = needed(
  group({
    picture: text(),
    size: needed(group({ width: needed(pixels), height: needed(pixels) })),
    width: needed(whole(1, 4000)),
    link: text(),
    bands: needed(list(group({ ...sliceKeys, columns: list(slice, 1) }), 1)),
  }),
);

type RawSlice = NonNullable<Held<typeof slice>>;
type RawPlan = Held<typeof planSchema>;

/**
 * Reads a plan and holds it to its picture. Null, with findings at their lines, where it cannot be cut so.
 * @param picture the picture as it is: its path in words, and its size in pixels
 */
export function readSlicePlan(
  source: SourceText,
  picture: { readonly path: string; readonly width: number; readonly height: number },
  report: Report,
): SlicePlan | null {
  const { value, findings, placeOf } = readYaml(source, planSchema);
  findings.forEach(report);
  if (value === null) return null;
  return new PlanReader(value, placeOf, picture, report).read();
}

class PlanReader {
  readonly #names = new Set<string>();
  #failed = false;

  constructor(
    private readonly raw: RawPlan,
    private readonly placeOf: PlaceOf,
    private readonly picture: { readonly path: string; readonly width: number; readonly height: number },
    private readonly given: Report,
  ) {}

  read(): SlicePlan | null {
    const { size, width, link } = this.raw;
    const { path, ...now } = this.picture;
    if (size.width !== now.width || size.height !== now.height) {
      const data = { path, now: `${now.width}×${now.height}`, before: `${size.width}×${size.height}` };
      this.fail(finding('slice-size', this.placeOf(['size']), data));
      return null;
    }
    let top = 0;
    const bands = this.raw.bands.map((band, index) => {
      const at: YamlPath = ['bands', index];
      const bottom = this.endOf(band, at, top, size.height, index === this.raw.bands.length - 1);
      const slices = this.bandSlices(band, at, { top, bottom });
      top = bottom;
      return slices;
    });
    const plan: SlicePlan = { size, width, link: link ?? null, bands };
    this.checkShown(plan);
    return this.#failed ? null : plan;
  }

  private bandSlices(
    band: RawPlan['bands'][number],
    at: YamlPath,
    { top, bottom }: { top: number; bottom: number },
  ): Slice[] {
    const { width } = this.raw.size;
    if (band.columns === undefined) return [this.slice(band, at, { left: 0, top, right: width, bottom })];
    let left = 0;
    return band.columns.map((column, index, all) => {
      const place: YamlPath = [...at, 'columns', index];
      const right = this.endOf(column, place, left, width, index === all.length - 1);
      const slice = this.slice(column, place, { left, top, right, bottom });
      if (slice.live !== null && all.length > 1)
        this.fail(finding('slice-live-column', this.placeOf([...place, 'live']), { name: slice.name }));
      left = right;
      return slice;
    });
  }

  /** Where a slice ends; the last one may leave that open. */
  private endOf({ to }: RawSlice, at: YamlPath, from: number, most: number, isLast: boolean): number {
    if (to === undefined && isLast) return most;
    if (to === undefined) {
      this.fail(finding('config-missing-key', this.placeOf(at), { key: 'to', expected: 'the pixel that it ends at' }));
      return from + 1;
    }
    const place = this.placeOf([...at, 'to']);
    if (to <= from || to > most)
      this.fail(finding('slice-order', place, { to: String(to), from: String(from), most: String(most) }));
    else if (isLast && to !== most) this.fail(finding('slice-end', place, { to: String(to), most: String(most) }));
    return to;
  }

  private slice(raw: RawSlice, at: YamlPath, region: Slice['region']): Slice {
    const numbers = at.filter((step) => typeof step === 'number').map((step) => Number(step) + 1);
    const name = raw.name ?? `band-${numbers.join('-')}`;
    const place = this.placeOf(at);
    if (this.#names.has(name)) this.fail(finding('slice-name-twice', place, { name }));
    this.#names.add(name);
    const alt = raw.alt ?? null;
    if (alt === null && raw.live === undefined) {
      const isWritten = Object.hasOwn(raw, 'alt');
      this.fail(finding('slice-alt-missing', isWritten ? this.placeOf([...at, 'alt']) : place, { name }));
    }
    const { href = null, target = null, live = null, jpeg = null } = raw;
    return { name, alt, href, target, live, jpeg, region, place };
  }

  private checkShown(plan: SlicePlan): void {
    if (this.#failed) return;
    const grid = shownGrid(plan.size, plan.width);
    for (const slice of plan.bands.flat()) {
      const { left, top, right, bottom } = shownRegion(slice, plan, grid);
      if (right <= left || bottom <= top) this.fail(finding('slice-thin', slice.place, { name: slice.name }));
    }
  }

  private fail(item: Finding): void {
    this.#failed = true;
    this.given(item);
  }
}
