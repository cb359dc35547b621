import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { readDeliveries, type DeliveryRecord } from '../../core/delivery/deliveries.js';
import { finding, refusing, type Report } from '../../core/findings/finding.js';

/** What pushes have made, in the folder of a project; it is meant for version control. */
export const DELIVERY_FILE = 'deliveries.json';

/** The record in a folder; empty where there is none. Null, and reported, where there is one that cannot be read. */
export async function readDeliveryFile(folder: string, report: Report): Promise<DeliveryRecord | null> {
  const path = join(folder, DELIVERY_FILE);
  let text: string;
  try {
    text = await readFile(path, 'utf8');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return { deliveries: [], pictures: [] };
    report(finding('deliveries-wrong', null, { path, detail: (error as Error).message }));
    return null;
  }
  return readDeliveries(
    text,
    refusing(report, (detail) => finding('deliveries-wrong', null, { path, detail })),
  );
}
