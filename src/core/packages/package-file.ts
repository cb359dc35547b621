/** One file of a package. */
export interface PackageFile {
  /** Relative, with forward slashes. */
  readonly path: string;
  readonly bytes: Uint8Array;
}
