import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { isError } from '../../core/findings/finding.js';
import type { Config } from '../../project/config/config.js';
import { DELIVERY_FILE } from '../../project/files/delivery-file.js';
import type { PushOutcome } from '../../project/push/push-request.js';
import { startImageHost } from '../../standins/image-host.js';
import { platforms, startPlatforms } from '../../standins/platforms/start-platforms.js';
import type { Io } from '../io/io.js';
import type { CommonOptions } from '../io/command.js';
import { pushAndTell } from './push.js';
import { imageVariables, platformSources, platformVariables } from './standin.js';
import { kilobytes } from '../../core/text/amounts.js';

/** The ports that `standin` has, where they are free: pictures in templates are looked at there later. */
const PLATFORM_PORT = 4101;
const IMAGE_PORT = 4090;

/** What a platform that knows no fallbacks, conditions and loops is sent: a message without any. */
const plainMessages: ReadonlyMap<string, readonly string[]> = new Map([['tansy', ['parts-specimen']]]);

/** What came of pushing the sample project to all platforms. */
export interface DemoPushes {
  readonly code: number;
  readonly outcomes: readonly PushOutcome[];
}

/** Pushes a project to simulated platforms that are there meanwhile, and keep in a folder what they are given. */
export async function pushToPlatforms(
  config: Config,
  { folder, record, options }: { readonly folder: string; readonly record: string; readonly options: CommonOptions },
  io: Io,
  say: (line: string) => void,
): Promise<DemoPushes> {
  // What an earlier run left there belongs to it.
  await Promise.all([rm(folder, { recursive: true, force: true }), rm(join(record, DELIVERY_FILE), { force: true })]);
  const services = await startServices(folder);
  try {
    const outcomes: PushOutcome[] = [];
    let code = 0;
    for (const { names, messages } of rounds(config)) {
      const request = {
        config,
        messages,
        destinations: names,
        environment: { ...process.env, ...services.variables },
        recordFolder: record,
        isDry: false,
        isForced: false,
      };
      const pushed = await pushAndTell(config, request, { ...options, yes: false, isBrief: true }, io, say);
      outcomes.push(...pushed.outcomes);
      code = Math.max(code, pushed.code);
    }
    return { code, outcomes };
  } finally {
    await services.stop();
  }
}

/** Which destinations get which messages; all where there are none. */
function rounds({
  destinations,
}: Config): readonly { readonly names: string[]; readonly messages: readonly string[] }[] {
  const plain = destinations.filter(({ dialect }) => plainMessages.has(dialect));
  const all = destinations.filter((destination) => !plain.includes(destination)).map(({ name }) => name);
  return [
    { names: all, messages: [] },
    ...plain.map(({ name, dialect }) => ({ names: [name], messages: plainMessages.get(dialect) ?? [] })),
  ];
}

interface Services {
  readonly variables: Readonly<Record<string, string>>;
  readonly stop: () => Promise<void>;
}

async function startServices(folder: string): Promise<Services> {
  const images = await onUsualPort(IMAGE_PORT, (port) => startImageHost(join(folder, 'images'), port));
  const running = await onUsualPort(PLATFORM_PORT, (port) =>
    startPlatforms({
      ...platformSources,
      names: platforms.map(({ name }) => name),
      port,
      folder,
      faults: [],
      seed: 0,
      seen: () => undefined,
    }),
  );
  const variables = running.map(({ name, address }) => platformVariables(name, address));
  return {
    variables: Object.assign({}, imageVariables(images.address), ...variables) as Record<string, string>,
    stop: async () => {
      await Promise.all([images.stop(), ...running.map(({ stop }) => stop())]);
    },
  };
}

async function onUsualPort<T>(port: number, start: (port: number) => Promise<T>): Promise<T> {
  try {
    return await start(port);
  } catch {
    return start(0);
  }
}

/** Messages and destinations, with the weight of each, or what kept it from being pushed; and what was found in each message. */
export function pushTable(outcomes: readonly PushOutcome[]): readonly (readonly string[])[] {
  const destinations = [...new Set(outcomes.map(({ destination }) => destination))];
  const messages = [...new Set(outcomes.map(({ message }) => message))];
  const rows = messages.map((message) => {
    const own = outcomes.filter((outcome) => outcome.message === message);
    const editions = new Set(own.map(({ edition }) => edition)).size;
    const codes = new Set(own.flatMap(({ findings }) => findings.map(({ code }) => code)));
    return [
      editions > 1 ? `${message} (${editions})` : message,
      ...destinations.map((destination) => cellOf(own.filter((outcome) => outcome.destination === destination))),
      codes.size === 0 ? '–' : [...codes].join(', '),
    ];
  });
  return [['', ...destinations, 'findings'], ...rows];
}

function cellOf(outcomes: readonly PushOutcome[]): string {
  const [first] = outcomes;
  if (first === undefined) return '–';
  const failed = outcomes.filter(({ how }) => how === 'failed');
  if (failed.length > 0) return `${failed.flatMap(({ findings }) => findings.filter(isError)).length} errors`;
  return kilobytes(outcomes.reduce((sum, { weight }) => sum + weight, 0) / outcomes.length);
}
