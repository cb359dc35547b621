import type { Page } from 'playwright-core';

/** Where two documents compute to different styles, in words. */
export type StyleDifference = string;

export const judgedStyleWidths = [320, 480, 599, 600, 601, 1000] as const;

/** Loads two documents side by side, each in a frame of its own. */
export async function loadPair(page: Page, first: string, second: string): Promise<void> {
  await page.evaluate(
    ([one, two]) => {
      document.documentElement.innerHTML = '<body style="margin:0"></body>';
      for (const [index, html] of [one, two].entries()) {
        const frame = document.createElement('iframe');
        frame.style.cssText = `position:absolute;border:0;left:0;top:${index * 700}px;width:1000px;height:600px`;
        document.body.append(frame);
        frame.contentDocument?.open();
        frame.contentDocument?.write(html ?? '');
        frame.contentDocument?.close();
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
      for (const property of style) {
        if (property.startsWith('--')) continue;
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

/** Compares with the pointer over the same element of each document. */
export async function compareHovered(page: Page, elementIndex: number): Promise<StyleDifference[]> {
  const targets = await page.evaluate((wanted) => {
    return [...document.querySelectorAll('iframe')].map((frame) => {
      const elements = [...(frame.contentDocument?.querySelectorAll('body *:not(style)') ?? [])];
      const element = elements[wanted % Math.max(1, elements.length)];
      const outer = frame.getBoundingClientRect();
      const box = element?.getBoundingClientRect();
      return box === undefined || box.width < 1 || box.height < 1
        ? null
        : {
            x: outer.x + box.x + Math.min(box.width, 4) / 2,
            y: outer.y + box.y + Math.min(box.height, 4) / 2,
            bottom: outer.bottom,
          };
    });
  }, elementIndex);
  const [first, second] = targets;
  if (!first || !second || first.x < 0 || first.y < 0 || first.y > first.bottom || first.x > 1000) return [];
  const hovered = async (point: { x: number; y: number }, frameIndex: number): Promise<string[]> => {
    await page.mouse.move(0, 2000);
    await page.mouse.move(point.x, point.y);
    return page.evaluate((index) => {
      const inner = document.querySelectorAll('iframe')[index]?.contentDocument;
      const view = inner?.defaultView;
      if (!inner || !view) return [];
      return [inner.documentElement, ...inner.querySelectorAll('body, body *:not(style)')].map((element) => {
        const style = view.getComputedStyle(element);
        return `${element.matches(':hover') ? 'hovered ' : ''}${element.tagName} ${[...style]
          .filter((property) => !property.startsWith('--'))
          .map((property) => `${property}:${style.getPropertyValue(property)}`)
          .join(';')}`;
      });
    }, frameIndex);
  };
  const [one, two] = [await hovered(first, 0), await hovered(second, 1)];
  return one
    .flatMap((line, index) =>
      line === two[index] ? [] : [`hover on ${elementIndex}: ${firstDifference(line, two[index] ?? '')}`],
    )
    .slice(0, 4);
}

function firstDifference(one: string, two: string): string {
  const [left, right] = [one.split(';'), two.split(';')];
  const index = left.findIndex((part, position) => part !== right[position]);
  return `${left[0]?.slice(0, 30)} ${left[index]} → ${right[index]}`;
}
