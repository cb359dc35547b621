import { finding, type Report } from '../core/findings/finding.js';
import { findBrowser, startBrowser, type Browser } from './browser.js';

/**
 * The browser that was named, or that is installed, running. Null, with a finding, where none starts.
 * @param path null for the one that is installed
 */
export async function openBrowser(path: string | null, report: Report): Promise<Browser | null> {
  const found = path ?? findBrowser(process.env['PATH'] ?? '');
  if (found === null) {
    report(finding('browser-missing', null, {}));
    return null;
  }
  return startBrowser(found).catch((error: unknown) => {
    const [detail = ''] = String(error instanceof Error ? error.message : error).split('\n');
    report(finding('browser-failed', null, { path: found, detail }));
    return null;
  });
}
