import { join, resolve } from 'node:path';
import { exitCodeOf, isError, type Report } from '../../core/findings/finding.js';
import { outlineCss } from '../../core/views/outlines.js';
import { fileNameOf, type View } from '../../core/views/view.js';
import { openPage, type Browser, type Page } from '../../browser/browser.js';
import { photographPage } from '../../browser/photograph-page.js';
import { writeWhole } from '../../project/files/write-file.js';
import type { Looked, PreviewSource } from '../../project/preview/preview-source.js';
import { frameAddress, type RunningPreview } from '../../preview/preview-server.js';
import type { Io } from '../io/io.js';
import { countPictures } from '../../pictures/count-pictures.js';

/** What is photographed. */
export interface Shots {
  readonly source: PreviewSource;
  readonly running: RunningPreview;
  readonly views: readonly View[];
  /** The messages, or editions of them. */
  readonly looked: readonly Looked[];
  readonly folder: string;
}

/**
 * Writes a PNG of each message in each view. What does not build is told, and the others are written all the same.
 * @returns the exit code
 */
export async function takeShots(shots: Shots, browser: Browser, io: Io, report: Report): Promise<number> {
  const page = await openPage(browser);
  const folder = resolve(io.folder, shots.folder);
  let written = 0;
  let code = 0;
  for (const looked of shots.looked) {
    const findings = await shots.source.findings(looked);
    findings.filter((item) => isError(item)).forEach(report);
    code = Math.max(code, exitCodeOf(findings));
    const message = await shots.source.bench(looked);
    if (message === null || message.state === 'broken') continue;
    for (const view of shots.views) {
      const picture = await shotOf(page, shots, looked, { view, slices: message.slices });
      const problem = await writeWhole(join(folder, shotName(looked, view)), picture);
      if (problem !== null) report(problem);
      code = Math.max(code, problem === null ? 0 : exitCodeOf([problem]));
      if (problem === null) written += 1;
    }
  }
  io.err(`${countPictures(written)} in ${io.shown(folder)}\n`);
  return code;
}

function shotOf(
  page: Page,
  { running }: Shots,
  looked: Looked,
  { view, slices }: { readonly view: View; readonly slices: readonly string[] },
): Promise<Buffer> {
  const address = running.address + frameAddress(looked, view);
  return photographPage(page, { address, width: view.width, css: outlineCss(view.outlines, slices) });
}

/** `may-newsletter-700-webkit-light.png` */
function shotName({ name, edition }: Looked, view: View): string {
  return `${[name, ...(edition === null ? [] : [edition]), fileNameOf(view)].join('-')}.png`;
}
