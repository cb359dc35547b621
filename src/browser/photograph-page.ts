/// <reference lib="dom" />
import type { Page } from './browser.js';

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
  return granted(() => page.screenshot({ fullPage: true, animations: 'disabled', caret: 'hide' }));
}

/** Runs in the page, where nothing may be waited for: no script of it runs, and so no event is heard. */
function addStyles(css: string): void {
  const style = document.createElement('style');
  style.textContent = css;
  document.head.append(style);
}

/** Does what a busy browser refuses now and then, and grants the next time. */
export async function granted<T>(photograph: () => Promise<T>): Promise<T> {
  for (let attempt = 1; ; attempt += 1)
    try {
      return await photograph();
    } catch (error) {
      if (attempt === ATTEMPTS) throw error;
      await new Promise((resolve) => setTimeout(resolve, attempt * 200));
    }
}
