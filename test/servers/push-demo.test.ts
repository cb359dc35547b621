import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { renameSync } from 'node:fs';
import { join } from 'node:path';
import { startImageHost, imageLogin, type RunningImageHost } from '../../src/standins/image-host.js';
import { platformNames, TestPlatform } from '../support/platforms.js';
import { TestFolder, type Run } from '../support/project.js';

/** The destinations of the sample project by their platforms. */
const destinations: Readonly<Record<string, string>> = {
  bellmoor: 'members',
  ferrywire: 'partners',
  larkfold: 'friends',
  oxbow: 'branches',
  tansy: 'shops',
  gannetry: 'press',
};

const platforms = new Map<string, TestPlatform>();
let images: RunningImageHost;
let folder: TestFolder;
let env: Record<string, string>;

beforeAll(async () => {
  folder = TestFolder.demoProject();
  renameSync(join(folder.path, 'platforms.yaml'), join(folder.path, 'inscriba.yaml'));
  images = await startImageHost(join(folder.path, '.images'), 0);
  for (const name of platformNames) platforms.set(name, await TestPlatform.start(name));
  const url = (name: string): string => platforms.get(name)?.address ?? '';
  env = {
    IMAGE_HOST: images.address,
    IMAGE_HOST_USER: imageLogin.user,
    IMAGE_HOST_PASSWORD: imageLogin.password,
    BELLMOOR_URL: url('bellmoor'),
    BELLMOOR_ACCOUNT: 'alder-lane',
    BELLMOOR_KEY: 'bellmoor-key-for-trying',
    FERRYWIRE_URL: url('ferrywire'),
    FERRYWIRE_TOKEN: 'ferrywire-token-for-trying',
    LARKFOLD_URL: url('larkfold'),
    LARKFOLD_USER: 'desk@alderlane.example',
    LARKFOLD_PASSWORD: 'larkfold-password-for-trying',
    OXBOW_URL: url('oxbow'),
    OXBOW_CLIENT: 'alder-lane-library',
    OXBOW_SECRET: 'oxbow-secret-for-trying',
    TANSY_URL: url('tansy'),
    TANSY_KEY: 'tansy-key-for-trying',
    GANNETRY_URL: url('gannetry'),
    GANNETRY_TOKEN: 'gannetry-token-for-trying',
  };
}, 60_000);

afterAll(async () => {
  await Promise.all([...platforms.values()].map((platform) => platform.stop()));
  await images.stop();
  folder.remove();
});

const push = (platform: string, messages: readonly string[]): Promise<Run> =>
  folder.runBeside(['push', ...messages, '--to', destinations[platform] ?? ''], env);

test.each(platformNames)(
  'what %s keeps of the sample project is what is built',
  async (name) => {
    const platform = platforms.get(name);
    if (platform === undefined) throw new Error(name);
    // Tansy knows no fallbacks, conditions and loops.
    const messages = name === 'tansy' ? ['parts-specimen'] : [];
    const destination = destinations[name] ?? '';
    const first = await push(name, messages);
    expect([first.code, first.err]).toEqual([0, expect.stringContaining(name === 'tansy' ? '1 created' : '8 created')]);
    const made = await folder.runBeside(
      [name === 'larkfold' ? 'pack' : 'build', ...messages, '--to', destination],
      env,
    );
    expect(made.code).toBe(0);

    const builtOf = (template: string, file: string): string => {
      const path = /^branch-notice-/.test(template) ? template.replace('branch-notice-', 'branch-notice/') : template;
      return folder.read(`out/${destination}/${path}/${file}`);
    };
    /** Where a build has the path of a picture, a store has an address with its number. */
    const withPaths = (html: string): string =>
      html.replace(/http:\/\/127\.0\.0\.1:\d+\/(?:library|shown|i)\/(\d+)(?:\/[\w.-]+)?/g, (whole, id: string) => {
        const picture = platform.state.pictures.find((kept) => kept.id === id);
        return picture === undefined ? whole : `images/${picture.name}`;
      });
    expect(platform.state.templates).toHaveLength(name === 'tansy' ? 1 : 8);
    for (const { name: template, html, css, text } of platform.state.templates) {
      const built = builtOf(template, name === 'larkfold' ? 'body.html' : 'index.html');
      // Tansy keeps no head.
      expect([template, withPaths(html)]).toEqual([
        template,
        name === 'tansy' ? built.replace(/<head\b[^]*?<\/head>/i, '') : built,
      ]);
      if (name === 'larkfold') expect(withPaths(css)).toBe(builtOf(template, 'styles.css'));
      expect(text).toBe(builtOf(template, 'index.txt'));
    }

    platform.asked();
    const second = await push(name, messages);
    expect([second.code, second.err]).toEqual([
      0,
      expect.stringContaining(name === 'tansy' ? '1 unchanged' : '8 unchanged'),
    ]);
    expect(platform.asked().writes).toEqual([]);
    expect(platform.undocumented).toEqual([]);
  },
  60_000,
);
