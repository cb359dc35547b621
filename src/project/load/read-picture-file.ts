import type { FindingCode } from '../../core/findings/finding.js';
import { isInside } from '../files/inside.js';
import { describeError, errorCode } from '../files/text-file.js';

/** Why a picture cannot be used: what is missing from a finding but its place and the path that names it. */
export interface PictureProblem {
  readonly code: FindingCode;
  readonly data: Readonly<Record<string, string>>;
}

/** Errors that mean that no such file can be. */
const missing: ReadonlySet<string | null> = new Set(['ENOENT', 'ENOTDIR', 'ENAMETOOLONG', 'ERR_INVALID_ARG_VALUE']);

/**
 * Reads a picture that a document names. Neither `..` nor a symbolic link may lead out of `root`.
 * @param root the folder; a finding calls it `rootName`
 * @param refuse takes why it cannot be used
 * @returns null where it cannot
 */
export async function readPictureFile(
  file: string,
  { root, rootName }: { readonly root: string; readonly rootName: string },
  read: (file: string) => Promise<Uint8Array>,
  refuse: (problem: PictureProblem) => null,
): Promise<Uint8Array | null> {
  if (!isInside(file, root)) return refuse({ code: 'picture-outside', data: { place: rootName } });
  try {
    return await read(file);
  } catch (error) {
    if (missing.has(errorCode(error))) return refuse({ code: 'picture-missing', data: {} });
    return refuse({ code: 'picture-unreadable', data: { detail: describeError(error) } });
  }
}
