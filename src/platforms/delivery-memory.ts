import type { Delivery, StoredPicture } from '../core/delivery/deliveries.js';
import type { Finding } from '../core/findings/finding.js';

/** What remembers what pushes have made. What is kept is written before the promise holds. */
export interface DeliveryMemory {
  readonly find: (key: Pick<Delivery, 'destination' | 'message' | 'edition'>) => Delivery | null;
  readonly keep: (delivery: Delivery) => Promise<Finding | null>;
  readonly drop: (delivery: Delivery) => Promise<Finding | null>;
  readonly picture: (destination: string, digest: string) => StoredPicture | null;
  readonly keepPicture: (picture: StoredPicture) => Promise<Finding | null>;
}
