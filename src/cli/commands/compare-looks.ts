import { usualViews, writeView, type View } from '../../core/views/view.js';
import { openPages, type Browser, type Page } from '../../browser/browser.js';
import { photographPage } from '../../browser/photograph-page.js';
import { differencePicture, differingShare } from '../../browser/pixels.js';
import type { Looked } from '../../project/preview/preview-source.js';
import type { ProjectPreview } from '../../project/preview/project-preview.js';
import { frameAddress, servePreview } from '../../preview/preview-server.js';

/** How a view of a message looks before and after; pictures, as Base64, where they are kept. */
export interface LookedAt {
  readonly view: string;
  readonly share: number;
  readonly pictures: { readonly before: string; readonly after: string; readonly difference: string } | null;
}

/** Somebody who compares looks, until they are closed. */
export interface Looks {
  readonly compare: (looked: Looked) => Promise<LookedAt[]>;
  readonly close: () => Promise<void>;
}

/** Compares looks by what is opened when there is first something to look at: most changes change few messages. */
export class LooksAtNeed {
  #opened: Promise<Looks | null> | null = null;

  /** @param start gives null where nobody can look */
  constructor(private readonly start: () => Promise<Looks | null>) {}

  open(): Promise<Looks | null> {
    this.#opened ??= this.start();
    return this.#opened;
  }

  /** How the views of a message look; null where nobody can look. */
  async compare(looked: Looked): Promise<LookedAt[] | null> {
    return (await this.open())?.compare(looked) ?? null;
  }

  async close(): Promise<void> {
    await (await this.#opened)?.close();
  }
}

/** Shows both states in a browser, as a preview would. */
export async function startLooks(
  { before, after }: { readonly before: ProjectPreview; readonly after: ProjectPreview },
  browser: Browser,
  keepsPictures: boolean,
): Promise<Looks> {
  const files = { script: '', style: '', views: [] };
  const servers = await Promise.all([before, after].map((source) => servePreview(source, files, 0)));
  const pages = await openPages(browser);
  // Destinations and editions often show the same.
  const compared = new Map<string, LookedAt>();
  // What lies on the web is the same before and after; nothing is fetched for it.
  for (const page of pages) await page.route(/^https?:\/\/(?!127\.0\.0\.1)/, (route) => route.abort());
  const [was = '', is = ''] = servers.map(({ address }) => address);
  return {
    compare: async (looked) => {
      const seen: LookedAt[] = [];
      for (const view of usualViews) {
        const [past, now] = await Promise.all([before.frame(looked, view), after.frame(looked, view)]);
        const key = `${view.width}\n${shownOf(past)}\n${shownOf(now)}`;
        const known = past === now ? { view: writeView(view), share: 0, pictures: null } : compared.get(key);
        const done = known ?? (await compareView(pages, [was, is], { looked, view }, keepsPictures));
        compared.set(key, done);
        seen.push(done);
      }
      return seen;
    },
    close: async () => {
      await Promise.all([browser.close(), ...servers.map(({ stop }) => stop())]);
    },
  };
}

/** What of a page shows: links look alike wherever they lead. */
function shownOf(html: string | null): string {
  return html?.replace(/ href="[^"]*"/g, '') ?? '';
}

async function compareView(
  [past, present]: readonly [Page, Page],
  [was, is]: readonly [string, string],
  { looked, view }: { readonly looked: Looked; readonly view: View },
  keepsPictures: boolean,
): Promise<LookedAt> {
  const shoot = (page: Page, server: string): Promise<Buffer> =>
    photographPage(page, { address: `${server}${frameAddress(looked, view)}`, width: view.width, css: '' });
  const shootBoth = (): Promise<[Buffer, Buffer]> => Promise.all([shoot(past, was), shoot(present, is)]);
  let [before, after] = await shootBoth();
  // On a busy machine a page is now and then photographed before it is drawn to its end: what differs has to differ twice.
  if (!before.equals(after)) [before, after] = await shootBoth();
  const share = await differingShare(before, after, 'exact');
  const base64 = (bytes: Buffer): string => bytes.toString('base64');
  const pictures =
    share === 0 || !keepsPictures
      ? null
      : {
          before: base64(before),
          after: base64(after),
          difference: base64(await differencePicture(before, after, 'exact')),
        };
  return { view: writeView(view), share, pictures };
}
