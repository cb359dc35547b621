import type { Dialect, PackageShape } from '../../core/dialects/dialect.js';
import type { Destination } from '../config/config.js';

/** A destination with its dialect. */
export interface Target {
  readonly destination: Destination;
  readonly dialect: Dialect;
}

/** The shape of a package: that which is asked for, with the names that the dialect gives to such files. */
export function shapeFor({ dialect }: Target, asked: PackageShape['shape'] | null): PackageShape | null {
  return asked === null || asked === dialect.package?.shape ? dialect.package : { shape: asked };
}
