import { attribute, writtenValue, type ElementNode } from '../../html/tree.js';
import type { StyledPage } from './styled-page.js';
import type { PictureFile } from './picture-facts.js';

/** A picture of a page. */
export interface Picture {
  readonly element: ElementNode;
  /** Its address as it is written. */
  readonly src: string;
  /** What stands for it; null where the attribute is missing. */
  readonly alt: string | null;
  /** How wide it is shown at a desk, in px; null where nothing says. */
  readonly shownWidth: number | null;
  /** Its file; null where nobody has looked, or it is not there. */
  readonly file: PictureFile | null;
  /** Whether it is a dot that counts who opens, or holds something apart. */
  readonly isSpacer: boolean;
}

export function picturesOf(page: StyledPage): Picture[] {
  return page.withTag('img').map((element) => {
    const src = writtenValue(page.doc, attribute(element, 'src') ?? '').trim();
    return {
      element,
      src,
      alt: attribute(element, 'alt'),
      file: page.pictureFiles?.get(src) ?? null,
      // Sizes take the styles of the whole page, which not every page is asked for.
      get shownWidth(): number | null {
        return sizeOf(page, element, 'width');
      },
      get isSpacer(): boolean {
        return (['width', 'height'] as const).some((side) => (sizeOf(page, element, side) ?? Infinity) <= 2);
      },
    };
  });
}

function sizeOf(page: StyledPage, element: ElementNode, side: 'width' | 'height'): number | null {
  const style = page.styleOf(element, 'desk');
  const own = style === null ? null : style.pixels(side);
  const most = style === null ? null : style.pixels(`max-${side}`);
  if (own !== null) return most === null ? own : Math.min(own, most);
  const written = attribute(element, side)?.trim() ?? '';
  return /^\d+$/.test(written) ? Number(written) : most;
}

/** A picture of pixels that is shown in a size. */
export interface ScaledPicture {
  readonly element: ElementNode;
  /** How wide its file is, in pixels, and how wide it is shown, in px. */
  readonly own: number;
  readonly shown: number;
  /** The same for the sentences of findings, with the width that is sharp everywhere. */
  readonly data: { readonly own: string; readonly shown: string; readonly most: string };
}

/** The pictures of pixels whose files and sizes are known; a drawing is sharp at any size. */
export function scaledPictures(pictures: readonly Picture[]): ScaledPicture[] {
  return pictures.flatMap(({ element, file, shownWidth: shown, isSpacer }) => {
    if (file === null || shown === null || isSpacer || file.format === 'svg') return [];
    const data = { own: String(file.width), shown: String(shown), most: String(Math.round(shown * 2)) };
    return [{ element, own: file.width, shown, data }];
  });
}
