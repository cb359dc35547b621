import type { FindingCode } from '../../core/findings/finding.js';
import { isInside } from '../files/inside.js';
import { describeError, errorCode } from '../files/text-file.js';

/** Why a picture cannot be used: what is missing from a finding but its place and the path that names it. */
export interface PictureProblem {
  readonly code: FindingCode;
  readonly data: Readonly<Record<string, string>>;
}

export type PictureBytes =
  { readonly bytes: Uint8Array; readonly problem: null } | { readonly bytes: null; readonly problem: PictureProblem };

/** Errors that mean that no such file can be. */
const missing: ReadonlySet<string | null> = new Set(['ENOENT', 'ENOTDIR', 'ENAMETOOLONG', 'ERR_INVALID_ARG_VALUE']);

/**
 * Reads a picture that a document names. Neither `..` nor a symbolic link may lead out of `root`.
 * @param rootName what a finding calls `root`
 */
export async function readPictureFile(
  file: string,
  { root, rootName }: { readonly root: string; readonly rootName: string },
  read: (file: string) => Promise<Uint8Array>,
): Promise<PictureBytes> {
  const fail = (code: PictureProblem['code'], data: PictureProblem['data'] = {}): PictureBytes => ({
    bytes: null,
    problem: { code, data },
  });
  if (!(await isInside(file, root))) return fail('picture-outside', { place: rootName });
  try {
    return { bytes: await read(file), problem: null };
  } catch (error) {
    if (missing.has(errorCode(error))) return fail('picture-missing');
    return fail('picture-unreadable', { detail: describeError(error) });
  }
}
