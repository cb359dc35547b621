/// <reference lib="dom" />
import type { Camera, Page } from './browser.js';

/** A page to photograph. */
export interface PhotographedPage {
  readonly address: string;
  /** Of the window, in CSS px. */
  readonly width: number;
  /** Rules that are added to it. */
  readonly css: string;
}

const WINDOW_HEIGHT = 900;

/** How often a photograph is tried. */
const ATTEMPTS = 4;

/** A page as a PNG, all of it. Its pictures are there, and what moves is at its end, so that the same page makes the same bytes. */
export async function photographPage(page: Page, { address, width, css }: PhotographedPage): Promise<Buffer> {
  await page.setViewportSize({ width, height: WINDOW_HEIGHT });
  await page.goto(address);
  if (css !== '') await page.evaluate(addStyles, css);
  const { isAnimated, ...size } = await page.evaluate(measure);
  // What moves is brought to its end first, which takes longer.
  if (isAnimated) return granted(() => page.screenshot({ fullPage: true, animations: 'disabled', caret: 'hide' }));
  const camera = await page.context().newCDPSession(page);
  const picture = await photographWhole(camera, size, 'small');
  await camera.detach();
  return picture;
}

/** Runs in the page: how large all of it is, in CSS px, and whether something on it moves. */
function measure(): { width: number; height: number; isAnimated: boolean } {
  const { scrollWidth, scrollHeight } = document.documentElement;
  return {
    width: Math.max(innerWidth, scrollWidth),
    height: Math.max(innerHeight, scrollHeight),
    isAnimated: document.getAnimations().length > 0,
  };
}

/**
 * All of a page on which nothing moves, as a PNG.
 * @param size that of the page, in CSS px
 * @param coding whether the file is small, or is there soon
 */
export async function photographWhole(
  camera: Camera,
  size: { readonly width: number; readonly height: number },
  coding: 'small' | 'soon',
): Promise<Buffer> {
  const { data } = await granted(() =>
    camera.send('Page.captureScreenshot', {
      format: 'png',
      optimizeForSpeed: coding === 'soon',
      captureBeyondViewport: true,
      clip: { x: 0, y: 0, ...size, scale: 1 },
    }),
  );
  return Buffer.from(data, 'base64');
}

/** Runs in the page, where nothing may be waited for: no script of it runs, and so no event is heard. */
function addStyles(css: string): void {
  const style = document.createElement('style');
  style.textContent = css;
  document.head.append(style);
}

/** Does what a busy browser refuses now and then, and grants the next time. */
async function granted<T>(photograph: () => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt += 1)
    try {
      return await photograph();
    } catch (error) {
      if (attempt === ATTEMPTS) throw error;
      await new Promise((resolve) => setTimeout(resolve, attempt * 200));
    }
}
