import { readFileSync } from 'node:fs';
import { finding, type Report } from '../../core/findings/finding.js';
import type { Feature } from '../../core/engines/engine.js';
import { digestOf } from '../files/digest.js';
import { ownFile } from '../files/own-files.js';
import { readTextFile } from '../files/text-file.js';

/** The table of engines as it was read when the program was built, and the digest of the file that it was read from. */
interface ReadAhead {
  readonly digest: string;
  readonly features: readonly Feature[];
}

const table = ownFile('data/engines.yaml');

/** What engines make of the features of HTML and CSS: the table that ships. Null, and reported, where it cannot be read. */
export async function engineFeatures(report: Report): Promise<readonly Feature[] | null> {
  const known = readAhead();
  if (known !== null) return known;
  const file = await readTextFile(table, table, report);
  if (file === null) return null;
  const { readEngines } = await import('../../core/engines/read-engines.js');
  const { features, findings } = readEngines(file.source);
  findings.forEach(report);
  if (features === null) report(finding('engines-wrong', null, { detail: 'see above' }));
  return features;
}

/** Null where the file is another one by now. Small files are read at once sooner than by other threads. */
function readAhead(): readonly Feature[] | null {
  try {
    const known = JSON.parse(readFileSync(ownFile('dist/engines.json'), 'utf8')) as ReadAhead;
    return known.digest === digestOf(readFileSync(table)) ? known.features : null;
  } catch {
    return null;
  }
}
