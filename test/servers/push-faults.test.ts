import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { FaultProxy, wireFaults } from '../support/fault-proxy.js';
import { platformNames } from '../support/platforms.js';
import { runFault, type FaultCase } from '../support/push-faults.js';
import { Random } from '../support/random.js';

/** So many runs; for a longer look, more can be asked for. */
const RUNS = Number(process.env['PUSH_FAULT_RUNS'] ?? 50);
const SEED = Number(process.env['PUSH_FAULT_SEED'] ?? 7);

/** The one with most requests; for a longer look, all. */
const IN_TURN = RUNS > 50 ? platformNames : ['larkfold'];

let proxy: FaultProxy;

beforeAll(async () => {
  proxy = await FaultProxy.start();
});
afterAll(() => proxy.stop());

/** The faults of a seed: each at a request that a push makes, and out of ten two that end the program. */
function faultOf(seed: number): FaultCase {
  const random = new Random(seed);
  const kinds = [...wireFaults, 'killed before', 'killed after'] as const;
  return {
    platform: random.pick(platformNames),
    request: random.between(1, 12),
    fault: random.pick(kinds),
    isUpdate: random.between(0, 1) === 1,
  };
}

describe('a push that something goes wrong with', () => {
  test(
    `completes when it is run again, makes nothing twice, and loses nothing (${RUNS} runs)`,
    async () => {
      for (let run = 0; run < RUNS; run += 1) await runFault(faultOf(SEED * 10_000 + run), proxy);
    },
    RUNS * 20_000,
  );

  test('so it does at every request in turn, where the connection is cut before and after', async () => {
    for (const platform of IN_TURN)
      for (const fault of ['cut before', 'cut after'] as const) {
        let made = Infinity;
        for (let request = 1; request <= made; request += 1) {
          made = await runFault({ platform, request, fault, isUpdate: false }, proxy);
          expect(request).toBeLessThan(40);
        }
      }
  }, 600_000);
});
