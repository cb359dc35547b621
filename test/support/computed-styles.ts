import type { Browser, Page } from 'playwright-core';

/** Where two documents compute to different styles, in words. */
export type StyleDifference = string;

export const judgedStyleWidths = [320, 480, 599, 600, 601, 1000] as const;

/** What linked files count from: a host that only exists in the browser's routes. */
const origin = 'http://documents.example/';

/** Opens an empty page in which documents are compared; `files` gives the linked ones by name. */
export async function openComparison(browser: Browser, files: (name: string) => string | undefined): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1000, height: 1400 } });
  const page = await context.newPage();
  await page.route(`${origin}**`, (route) => {
    const name = route.request().url().slice(origin.length);
    const body = name === '' ? '<!doctype html>' : files(name);
    return body === undefined
      ? route.fulfill({ status: 404 })
      : route.fulfill({ contentType: name.endsWith('.css') ? 'text/css' : 'text/html', body });
  });
  await page.goto(origin);
  // Between the frames: a pointer that stands over one of them hovers in it.
  await page.mouse.move(990, 650);
  return page;
}

/** Loads two documents side by side, each in a frame of its own, and waits for the style sheets that they link. */
export async function loadPair(page: Page, first: string, second: string): Promise<void> {
  await page.evaluate(
    async ([one, two]) => {
      document.documentElement.innerHTML = '<body style="margin:0"></body>';
      for (const [index, html] of [one, two].entries()) {
        const frame = document.createElement('iframe');
        frame.style.cssText = `position:absolute;border:0;left:0;top:${index * 700}px;width:1000px;height:600px`;
        document.body.append(frame);
        frame.contentDocument?.open();
        frame.contentDocument?.write(html ?? '');
        frame.contentDocument?.close();
      }
      const isLoading = (): boolean =>
        [...document.querySelectorAll('iframe')].some((frame) =>
          [...(frame.contentDocument?.querySelectorAll('link') ?? [])].some(({ sheet }) => sheet === null),
        );
      while (isLoading()) await new Promise((resolve) => setTimeout(resolve, 2));
      // What was laid out before a sheet had come is laid out anew, from no boxes at all.
      for (const frame of document.querySelectorAll('iframe')) {
        const root = frame.contentDocument?.documentElement;
        if (root === undefined) continue;
        const written = root.getAttribute('style');
        root.setAttribute('style', 'display:none!important');
        void root.offsetWidth;
        if (written === null) root.removeAttribute('style');
        else root.setAttribute('style', written);
      }
    },
    [first, second] as const,
  );
}

/** Compares all computed styles of all elements of the two loaded documents, at a frame width. */
export async function compareStyles(page: Page, width: number): Promise<StyleDifference[]> {
  return page.evaluate((frameWidth) => {
    const frames = [...document.querySelectorAll('iframe')];
    for (const frame of frames) frame.style.width = `${frameWidth}px`;
    // Names are listed once: a style that is walked through names them anew for each element.
    const names = [...getComputedStyle(document.documentElement)].filter((name) => !name.startsWith('--'));
    const lists = frames.map((frame) => {
      const inner = frame.contentDocument;
      if (inner === null) return [];
      return [inner.documentElement, ...inner.querySelectorAll('body, body *:not(style)')];
    });
    const [first = [], second = []] = lists;
    const differences: string[] = [];
    if (first.length !== second.length) differences.push(`${first.length} elements against ${second.length}`);
    first.forEach((element, index) => {
      const other = second[index];
      if (other === undefined || differences.length > 5) return;
      const view = element.ownerDocument.defaultView;
      const otherView = other.ownerDocument.defaultView;
      if (view === null || otherView === null) return;
      const style = view.getComputedStyle(element);
      const otherStyle = otherView.getComputedStyle(other);
      for (const property of names) {
        const [value, otherValue] = [style.getPropertyValue(property), otherStyle.getPropertyValue(property)];
        if (value !== otherValue) {
          differences.push(
            `${element.tagName}.${element.className}#${element.id} (${index}) ${property}: ${value} → ${otherValue}`,
          );
          break;
        }
      }
    });
    return differences;
  }, width);
}

/**
 * Compares with the same element of each document (and those around it) in the state of `:hover`. The state is set
 * by the browser's debugging protocol: a real pointer would lose an element whose box changes under it.
 */
export async function compareHovered(
  page: Page,
  elementIndex: number,
  widths: readonly number[],
): Promise<StyleDifference[]> {
  const session = await page.context().newCDPSession(page);
  await session.send('DOM.enable');
  await session.send('CSS.enable');
  const { root } = await session.send('DOM.getDocument', { depth: -1, pierce: true });
  const forced = framesIn(root).flatMap((frame) => hoverPath(frame, elementIndex));
  for (const nodeId of forced) await session.send('CSS.forcePseudoState', { nodeId, forcedPseudoClasses: ['hover'] });
  const differences: string[] = [];
  for (const width of widths)
    differences.push(...(await compareStyles(page, width)).map((item) => `at ${width}: ${item}`));
  for (const nodeId of forced) await session.send('CSS.forcePseudoState', { nodeId, forcedPseudoClasses: [] });
  await session.detach();
  return differences;
}

interface ProtocolNode {
  readonly nodeId: number;
  readonly nodeName: string;
  readonly nodeType: number;
  readonly children?: readonly ProtocolNode[];
  readonly contentDocument?: ProtocolNode;
}

function framesIn(node: ProtocolNode): ProtocolNode[] {
  const own = node.contentDocument === undefined ? [] : [node.contentDocument];
  return [...own, ...(node.children ?? []).flatMap(framesIn)];
}

/** The element with a number, counted over the body, and its ancestors. */
function hoverPath(frame: ProtocolNode, elementIndex: number): number[] {
  const paths: number[][] = [];
  const visit = (node: ProtocolNode, above: readonly number[]): void => {
    if (node.nodeName === 'STYLE' || node.nodeName === 'HEAD') return;
    const path = node.nodeType === 1 ? [...above, node.nodeId] : [...above];
    if (node.nodeType === 1) paths.push(path);
    for (const child of node.children ?? []) visit(child, path);
  };
  visit(frame, []);
  return paths[elementIndex % Math.max(1, paths.length)] ?? [];
}
