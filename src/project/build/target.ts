import type { Dialect } from '../../core/dialects/dialect.js';
import type { Destination } from '../config/config.js';

/** A destination with its dialect. */
export interface Target {
  readonly destination: Destination;
  readonly dialect: Dialect;
}
