import { expect } from '@jest/globals';
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import type { FaultProxy, WireFault } from './fault-proxy.js';
import { TestPlatform } from './platforms.js';
import { environmentOf, pushProject } from './push-project.js';
import { repository, type TestFolder } from './project.js';

/** What goes wrong in a run: with which request, and whether the template was there before. */
export interface FaultCase {
  readonly platform: string;
  readonly request: number;
  readonly fault: WireFault | 'killed before' | 'killed after';
  readonly isUpdate: boolean;
}

/** Requests take no longer than this, in seconds, where one of them is late. */
const PATIENCE = 0.5;

/** A project whose pushes go through a proxy. */
function project({ platform }: FaultCase): TestFolder {
  return pushProject(platform).change(
    'inscriba.yaml',
    "url: '${env.P_URL}'",
    `timeout: ${PATIENCE}, url: '\${env.P_URL}'`,
  );
}

/**
 * Pushes through a proxy that has one request go wrong, then again without. After that there is one template, as it is to be,
 * each picture is there once, nothing is pending, and a third push sends nothing. Gives how many requests the first push made.
 */
export async function runFault(fault: FaultCase, proxy: FaultProxy): Promise<number> {
  const platform = await TestPlatform.start(fault.platform);
  const folder = project(fault);
  const env = environmentOf(fault.platform, proxy.address);
  proxy.target = platform.address;
  proxy.plan = () => null;
  proxy.passing = () => undefined;
  try {
    if (fault.isUpdate) {
      expect((await folder.runBeside(['push'], env)).code).toBe(0);
      folder.change('messages/repair.html', 'bring what is broken', 'mend what is broken');
      folder.change('messages/repair.html', 'images/plane.png', 'images/drill.png');
    }
    proxy.count = 0;
    if (fault.fault === 'killed before' || fault.fault === 'killed after') await pushAndKill(folder, env, fault, proxy);
    else {
      const { fault: kind } = fault;
      proxy.plan = (count) => (count === fault.request ? kind : null);
      await folder.runBeside(['push'], env);
    }
    const made = proxy.count;
    proxy.plan = () => null;
    proxy.passing = () => undefined;
    const again = await folder.runBeside(['push'], env);
    const told = JSON.stringify(fault);
    expect([told, again.code, again.err]).toEqual([
      told,
      0,
      expect.stringMatching(/created|updated|unchanged|found there/),
    ]);
    expect([told, platform.state.templates.map(({ name }) => name)]).toEqual([told, ['repair']]);
    expect([told, platform.state.templates[0]?.html]).toEqual([
      told,
      expect.stringContaining(fault.isUpdate ? 'mend what is broken' : 'bring what is broken'),
    ]);
    const pictures = platform.state.pictures.map(({ name }) => name);
    expect([told, pictures.length]).toEqual([told, new Set(pictures).size]);
    expect([told, pictures.length]).toEqual([told, fault.platform === 'ferrywire' ? 0 : fault.isUpdate ? 3 : 2]);
    for (const [, path = ''] of (platform.state.templates[0]?.html ?? '').matchAll(/src="(http[^"]*)"/g))
      if (!path.startsWith('https:'))
        expect([told, (await fetch(path.replace(proxy.address, platform.address))).status]).toEqual([told, 200]);
    expect([told, folder.read('deliveries.json')]).toEqual([told, expect.not.stringContaining('"pending"')]);
    expect([told, platform.undocumented]).toEqual([told, []]);
    platform.asked();
    const third = await folder.runBeside(['push'], env);
    expect([told, third.err, platform.asked().writes]).toEqual([told, expect.stringMatching(/^unchanged/), []]);
    return made;
  } finally {
    folder.remove();
    await platform.stop();
  }
}

/** Starts the program, and ends it without a word at one of its requests. */
async function pushAndKill(
  folder: TestFolder,
  env: Readonly<Record<string, string>>,
  { request, fault }: FaultCase,
  proxy: FaultProxy,
): Promise<void> {
  const child = spawn(process.execPath, [join(repository, 'dist/program/inscriba.js'), 'push'], {
    cwd: folder.path,
    env: { ...process.env, ...env },
    stdio: 'ignore',
  });
  const when = fault === 'killed before' ? 'before' : 'after';
  proxy.passing = (count, moment) => {
    if (count === request && moment === when) child.kill('SIGKILL');
  };
  await new Promise((resolve) => child.once('exit', resolve));
}
