import { join } from 'node:path';
import type { Dialect } from '../../core/dialects/dialect.js';
import { bellmoor } from './bellmoor.js';
import { faultPlan, type Fault, type FaultKind } from './faults.js';
import { ferrywire } from './ferrywire.js';
import { gannetry } from './gannetry.js';
import { larkfold } from './larkfold.js';
import { oxbow } from './oxbow.js';
import type { Platform } from './platform.js';
import { servePlatform, type RunningPlatform, type SeenExchange } from './platform-server.js';
import { PlatformState } from './platform-state.js';
import { tansy } from './tansy.js';

/** Every simulated platform. */
export const platforms: readonly Platform[] = [bellmoor, ferrywire, larkfold, oxbow, tansy, gannetry];

/** How simulated platforms are run. */
export interface PlatformsOptions {
  /** Their names. */
  readonly names: readonly string[];
  /** The port of the first; the others have those that follow. 0 for any that are free. */
  readonly port: number;
  /** The folder that keeps their states; null where nothing outlives the process. */
  readonly folder: string | null;
  readonly dialect: (name: string) => Promise<Dialect>;
  /** The documentation of an interface (OpenAPI), by the name of its platform. */
  readonly documentation: (name: string) => Promise<string>;
  readonly faults: readonly FaultKind[];
  readonly seed: number;
  /** Is told of each request that was answered, and by which platform. */
  readonly seen: (name: string, exchange: SeenExchange) => void;
}

/** Starts simulated platforms, each a server of its own. Fails as the system does where a port is taken; then none runs. */
export async function startPlatforms(options: PlatformsOptions): Promise<readonly RunningPlatform[]> {
  const running: RunningPlatform[] = [];
  const chosen = platforms.filter(({ name }) => options.names.includes(name));
  try {
    for (const [index, platform] of chosen.entries())
      running.push(
        await servePlatform({
          platform,
          dialect: await options.dialect(platform.name),
          state: new PlatformState(options.folder === null ? null : join(options.folder, platform.name)),
          port: options.port === 0 ? 0 : options.port + index,
          documentation: await options.documentation(platform.name),
          nextFault: options.faults.length === 0 ? noFault : faultPlan(options.faults, options.seed + index),
          seen: (exchange) => options.seen(platform.name, exchange),
        }),
      );
  } catch (error) {
    await Promise.all(running.map(({ stop }) => stop()));
    throw error;
  }
  return running;
}

function noFault(): Fault | null {
  return null;
}
