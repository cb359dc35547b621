import { join } from 'node:path';
import {
  keyOf,
  printDeliveries,
  type Delivery,
  type DeliveryRecord,
  type StoredPicture,
} from '../../core/delivery/deliveries.js';
import type { Finding } from '../../core/findings/finding.js';
import type { DeliveryMemory } from '../../platforms/delivery-memory.js';
import { DELIVERY_FILE } from '../files/delivery-file.js';
import { writeWhole } from '../files/write-file.js';

/** The memory of pushes in a file, which is written whole after each change. */
export class DeliveryFile implements DeliveryMemory {
  readonly #deliveries: Map<string, Delivery>;
  readonly #pictures: Map<string, StoredPicture>;
  #writing: Promise<Finding | null> = Promise.resolve(null);

  constructor(
    private readonly folder: string,
    { deliveries, pictures }: DeliveryRecord,
  ) {
    this.#deliveries = new Map(deliveries.map((delivery) => [keyOf(delivery), delivery]));
    this.#pictures = new Map(pictures.map((picture) => [pictureKey(picture.destination, picture.picture), picture]));
  }

  get deliveries(): readonly Delivery[] {
    return [...this.#deliveries.values()];
  }

  find(key: Parameters<DeliveryMemory['find']>[0]): Delivery | null {
    return this.#deliveries.get(keyOf(key)) ?? null;
  }

  keep(delivery: Delivery): Promise<Finding | null> {
    this.#deliveries.set(keyOf(delivery), delivery);
    return this.write();
  }

  drop(delivery: Delivery): Promise<Finding | null> {
    this.#deliveries.delete(keyOf(delivery));
    return this.write();
  }

  /** Gives a delivery the name of another message, in one step. */
  rename(delivery: Delivery, message: string): Promise<Finding | null> {
    this.#deliveries.delete(keyOf(delivery));
    return this.keep({ ...delivery, message });
  }

  picture(destination: string, digest: string): StoredPicture | null {
    return this.#pictures.get(pictureKey(destination, digest)) ?? null;
  }

  keepPicture(picture: StoredPicture): Promise<Finding | null> {
    this.#pictures.set(pictureKey(picture.destination, picture.picture), picture);
    return this.write();
  }

  /** One after the other: several pictures are on their way at once. */
  private write(): Promise<Finding | null> {
    const next = this.#writing.then(() => {
      const record = { deliveries: this.deliveries, pictures: [...this.#pictures.values()] };
      return writeWhole(join(this.folder, DELIVERY_FILE), printDeliveries(record));
    });
    this.#writing = next;
    return next;
  }
}

function pictureKey(destination: string, digest: string): string {
  return `${destination} ${digest}`;
}
