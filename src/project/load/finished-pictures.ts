import { projectFolderOf } from '../files/project-folder.js';
import { readFile } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { finding, type Report } from '../../core/findings/finding.js';
import type { Doc } from '../../core/html/tree.js';
import { isElsewhere, plainPath } from '../../core/pictures/local-path.js';
import { pictureReferences, type PictureReference } from '../../core/pictures/references.js';
import { inspectPicture } from '../../pictures/inspect-picture.js';
import { isInside } from '../files/inside.js';
import { reportKind, type NamedPicture } from './message-pictures.js';
import { readPictureFile, type PictureProblem } from './read-picture-file.js';

/** Where the files that finished HTML names may lie. */
export interface FileBounds {
  /** The folder that its paths count from. */
  readonly folder: string;
  /** The folder that they may not lead out of. */
  readonly root: string;
  /** What a finding calls that folder. */
  readonly rootName: string;
}

/**
 * The bounds of a file of finished HTML: its project; else the folder that the user works in, where it lies there; else its
 * own folder.
 * @param path its full path; null for standard input
 */
export async function boundsOf(path: string | null, workingFolder: string): Promise<FileBounds> {
  const folder = path === null ? workingFolder : dirname(path);
  const project = await projectFolderOf(folder);
  const isHere = path === null || isInside(path, workingFolder);
  const root = project ?? (isHere ? workingFolder : folder);
  return { folder, root, rootName: root === workingFolder ? 'the folder you are in' : root };
}

/** The pictures of finished HTML. */
export interface FinishedPictures {
  readonly references: readonly PictureReference[];
  /** Those that lie here, read, by the addresses that the HTML gives. */
  readonly local: ReadonlyMap<string, NamedPicture>;
  /** The addresses of those on the web, each once. */
  readonly remote: readonly string[];
}

/** Reads the pictures that finished HTML names; what is missing or cannot be used is reported where it is named first. */
export async function readFinishedPictures(
  doc: Doc,
  { folder, root, rootName }: FileBounds,
  report: Report,
): Promise<FinishedPictures> {
  const references = pictureReferences(doc);
  const local = new Map<string, NamedPicture>();
  const seen = new Set<string>();
  for (const { path, span } of references) {
    if (seen.has(path) || isElsewhere(path)) continue;
    seen.add(path);
    const place = { source: doc.source, span };
    const file = resolve(folder, plainPath(path));
    const bounds = { root, rootName };
    const refuse = ({ code, data }: PictureProblem): null => {
      report(finding(code, place, { path, ...data }));
      return null;
    };
    const bytes = await readPictureFile(file, bounds, (name) => readFile(name), refuse);
    if (bytes === null) continue;
    const facts = await inspectPicture(bytes, (detail) => refuse({ code: 'picture-unreadable', data: { detail } }));
    if (facts === null) continue;
    reportKind({ file, bytes, facts }, path, place, report);
    // A drawing that shows things from elsewhere would come out with holes.
    if ((facts.drawing?.external ?? []).length === 0) local.set(path, { file, bytes, facts, place });
  }
  const remote = references.map(({ path }) => path).filter((path) => /^(?:https?:)?\/\//i.test(path));
  return { references, local, remote: [...new Set(remote)] };
}
