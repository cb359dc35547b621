import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Dialect } from '../../src/core/dialects/dialect.js';
import { readDialect } from '../../src/core/dialects/file/read-dialect.js';
import { SourceText } from '../../src/core/text/source-text.js';
import { PlatformState } from '../../src/standins/platforms/platform-state.js';
import {
  servePlatform,
  type RunningPlatform,
  type SeenExchange,
} from '../../src/standins/platforms/platform-server.js';
import { platforms } from '../../src/standins/platforms/start-platforms.js';
import { OpenApi } from './openapi.js';
import { repository } from './project.js';

const documentations = new Map<string, OpenApi>();

function documentationOf(name: string): OpenApi {
  const known = documentations.get(name) ?? new OpenApi(name);
  documentations.set(name, known);
  return known;
}

/** A dialect that ships. */
export function shippedDialect(name: string): Dialect {
  const text = readFileSync(join(repository, 'dialects', `${name}.yaml`), 'utf8');
  const { dialect } = readDialect(new SourceText(`${name}.yaml`, text));
  if (dialect === null) throw new Error(name);
  return dialect;
}

/** A simulated platform that a test looks into: what it keeps, and what it was asked. */
export class TestPlatform {
  /** Every request to its interface, and its answer. */
  readonly seen: SeenExchange[] = [];
  /** What of them is not as the documentation of the platform says. */
  readonly undocumented: string[] = [];

  private constructor(
    readonly name: string,
    readonly state: PlatformState,
    private readonly running: () => RunningPlatform,
  ) {}

  static async start(name: string, folder: string | null = null): Promise<TestPlatform> {
    const platform = platforms.find((known) => known.name === name);
    if (platform === undefined) throw new Error(name);
    const state = new PlatformState(folder);
    let running: RunningPlatform | null = null;
    const test = new TestPlatform(name, state, () => running as RunningPlatform);
    running = await servePlatform({
      platform,
      dialect: shippedDialect(name),
      state,
      port: 0,
      documentation: '',
      nextFault: () => null,
      seen: (exchange) => {
        test.seen.push(exchange);
        test.undocumented.push(...documentationOf(name).problems(exchange));
      },
    });
    return test;
  }

  get address(): string {
    return this.running().address;
  }

  /** The requests that changed something since the last look, and those that only asked. */
  asked(): { readonly writes: string[]; readonly reads: number } {
    const lines = this.seen.splice(0).map(({ method, path, answer }) => ({
      isWrite: method !== 'GET' && !path.startsWith('/sign-in'),
      line: `${method} ${path.replace(/\?.*$/, '')} ${answer.status}`,
    }));
    return {
      writes: lines.filter(({ isWrite }) => isWrite).map(({ line }) => line),
      reads: lines.filter(({ isWrite }) => !isWrite).length,
    };
  }

  stop(): Promise<void> {
    return this.running().stop();
  }
}

/** How a destination of each platform is configured; the environment holds its address and its keys. */
export const destinationOf: Readonly<Record<string, string>> = {
  bellmoor: `{ dialect: bellmoor, push: { url: '\${env.P_URL}', account: alder-lane, key: '\${env.P_SECRET}' } }`,
  ferrywire: `{ dialect: ferrywire, images: { mode: host, base_url: https://img.alderlane.example/ }, push: { url: '\${env.P_URL}', token: '\${env.P_SECRET}' } }`,
  larkfold: `{ dialect: larkfold, images: { mode: library }, push: { url: '\${env.P_URL}', user: desk@alderlane.example, password: '\${env.P_SECRET}' } }`,
  oxbow: `{ dialect: oxbow, images: { mode: library }, push: { url: '\${env.P_URL}', client: alder-lane-library, secret: '\${env.P_SECRET}' } }`,
  tansy: `{ dialect: tansy, images: { mode: library }, push: { url: '\${env.P_URL}', key: '\${env.P_SECRET}' } }`,
  gannetry: `{ dialect: gannetry, push: { url: '\${env.P_URL}', token: '\${env.P_SECRET}' } }`,
};

export const platformNames: readonly string[] = Object.keys(destinationOf);

/** The one secret of each platform. */
export const secretOf: Readonly<Record<string, string>> = {
  bellmoor: 'bellmoor-key-for-trying',
  ferrywire: 'ferrywire-token-for-trying',
  larkfold: 'larkfold-password-for-trying',
  oxbow: 'oxbow-secret-for-trying',
  tansy: 'tansy-key-for-trying',
  gannetry: 'gannetry-token-for-trying',
};
