import { adviceForName, finding, type Finding } from '../../core/findings/finding.js';
import { recognizeDialects } from '../../core/dialects/convert/convert-tags.js';
import type { Dialect } from '../../core/dialects/dialect.js';
import { nearestName } from '../../core/text/nearest.js';
import type { SourceText } from '../../core/text/source-text.js';
import { projectFolderOf } from '../../project/config/config.js';
import { dialectNames, loadDialect } from '../../project/config/dialects.js';
import type { Io } from '../io/io.js';

/** All dialects at hand: those of the project around, and those that ship. */
export async function allDialects(io: Io, findings: Finding[]): Promise<Dialect[]> {
  const folder = (await projectFolderOf(io.folder)) ?? io.folder;
  const loaded = await Promise.all((await dialectNames(folder)).map((name) => loadDialect(name, folder)));
  findings.push(...loaded.flatMap((result) => [...result.findings]));
  return loaded.flatMap(({ dialect }) => (dialect === null ? [] : [dialect]));
}

/** The dialect of a name; null, with a finding, where there is none. */
export function chosenDialect(name: string, dialects: readonly Dialect[], findings: Finding[]): Dialect | null {
  const dialect = dialects.find((candidate) => candidate.name === name);
  if (dialect === undefined) {
    const known = dialects.map((candidate) => candidate.name).sort();
    findings.push(
      finding('unknown-dialect', null, { name, advice: adviceForName(nearestName(name, known), known, '') }),
    );
  }
  return dialect ?? null;
}

/** The dialect that a text shows; null, with a finding, where it shows none, or several alike. */
export function recognizedDialect(
  source: SourceText,
  dialects: readonly Dialect[],
  findings: Finding[],
): Dialect | null {
  const place = { source, span: { start: 0, end: 0 } };
  const ranking = recognizeDialects(source, dialects);
  const [first] = ranking;
  if (first === undefined) {
    findings.push(finding('dialect-unrecognized', place, {}));
    return null;
  }
  const best = first.known - first.unknown;
  const tied = ranking.filter(({ known, unknown }) => known - unknown === best);
  if (tied.length > 1) {
    const names = tied.map(({ dialect }) => dialect.name);
    const list = `${names.slice(0, -1).join(', ')} and ${names[names.length - 1] ?? ''}`;
    findings.push(finding('dialect-ambiguous', place, { names: list, count: String(first.known) }));
    return null;
  }
  const count = `${first.known} of ${first.known + first.unknown} tags`;
  findings.push(finding('dialect-recognized', null, { file: source.name, dialect: first.dialect.name, count }));
  return first.dialect;
}
