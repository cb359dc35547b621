import { join } from 'node:path';
import { afterEach, beforeEach, expect, test } from '@jest/globals';
import { WorkerPool } from '../../src/project/build/worker-pool.js';
import type { WorkerTask } from '../../src/project/build/worker-messages.js';
import { TestFolder } from '../support/project.js';

let folder: TestFolder;
let pool: WorkerPool;

beforeEach(() => {
  folder = new TestFolder().write({
    'inscriba.yaml':
      'name: P\nsender: { name: P, address: p@p.example }\ndestinations: { plain: { dialect: neutral } }\n',
    'messages/one.html': '<!doctype html><html lang="en"><head><title>A</title></head><body><p>One</p></body></html>',
  });
  pool = new WorkerPool(2, { folder: folder.path, outFolder: join(folder.path, 'out'), pack: null });
});
afterEach(async () => {
  await pool.close();
  folder.remove();
});

const done = 'index.txt index.html manifest.json';
const block = { from: 0, to: 500 };
const message = (): WorkerTask['message'] => ({
  name: 'one',
  path: join(folder.path, 'messages/one.html'),
  editions: [],
});
const good = (): WorkerTask => ({ message: message(), targets: ['plain'], block });
/** What no worker survives: a message that is none. */
const deadly = (): WorkerTask => ({ ...good(), message: null as unknown as WorkerTask['message'] });

/** What became of tasks: the files that were written, or that there are none. */
async function fates(tasks: readonly WorkerTask[]): Promise<string[]> {
  const settled = await Promise.allSettled(tasks.map((task) => pool.run(task)));
  return settled.map((fate) =>
    fate.status === 'rejected'
      ? 'failed'
      : fate.value.visited.outcomes.map(({ written }) => written?.files.map(({ path }) => path).join(' ')).join(),
  );
}

test('a task that ends its worker fails by itself: those that the worker had beside it are done by another', async () => {
  expect(await fates([good(), deadly(), good(), deadly(), good(), good()])).toEqual([
    done,
    'failed',
    done,
    'failed',
    done,
    done,
  ]);
}, 30_000);

test('where no worker can start, every task fails, and none waits for ever', async () => {
  folder.delete('inscriba.yaml');
  expect(await fates([good(), good(), good()])).toEqual(['failed', 'failed', 'failed']);
}, 30_000);

test('a pool whose workers have ended takes more tasks', async () => {
  expect(await fates([deadly()])).toEqual(['failed']);
  expect(await fates([good()])).toEqual([done]);
}, 30_000);
