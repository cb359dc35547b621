import { readFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import type { Dialect } from '../../core/dialects/dialect.js';
import { exitCodeOf, finding, type Finding } from '../../core/findings/finding.js';
import { dialectNamed } from '../../project/config/dialects.js';
import { ownFile } from '../../project/files/own-files.js';
import { readyFolder, writeWhole } from '../../project/files/write-file.js';
import { imageLogin, startImageHost } from '../../standins/image-host.js';
import { startMailbox } from '../../standins/mailbox.js';
import type { KeptMail } from '../../standins/mail-views.js';
import { faultKinds } from '../../standins/platforms/faults.js';
import { platforms, startPlatforms, type PlatformsOptions } from '../../standins/platforms/start-platforms.js';
import type { Io } from '../io/io.js';
import { printFindings } from '../output/print-findings.js';
import { command, listOf, text, wholeOr, type CommonOptions, type Told } from '../io/command.js';
import { kilobytes } from '../../core/text/amounts.js';

/** Every port there is, and 0 for one that is free. */
const ports = [0, 65_535] as const;

const services = ['platforms', 'images', 'mailbox'] as const;

const platformNames = platforms.map(({ name }) => name);

const options = {
  only: listOf(
    [...services, ...platformNames],
    '--only <service...>',
    `only these: ${services.join(', ')}, or single platforms (${platformNames.join(', ')})`,
  ),
  smtpPort: wholeOr(4025, ports, '--smtp-port <number>', 'the port that takes mail; 0 for any that is free'),
  pagePort: wholeOr(4080, ports, '--page-port <number>', 'the port of the page of the mailbox; 0 for any that is free'),
  imagePort: wholeOr(4090, ports, '--image-port <number>', 'the port of the image host; 0 for any that is free'),
  platformPort: wholeOr(
    4101,
    ports,
    '--platform-port <number>',
    'the port of the first platform, the others have the next ones; 0 for any that are free',
  ),
  state: text('--state <folder>', 'keep templates and pictures there, for the next start'),
  env: text('--env <file>', 'write the addresses and keys into this file, as NAME=value'),
  faults: listOf(faultKinds, '--faults <kind...>', `answer some requests wrongly: ${faultKinds.join(', ')}`),
  seed: wholeOr(1, [0, 2 ** 31], '--seed <number>', 'which requests are answered wrongly'),
  keep: text('--keep <folder>', 'write each mail into this folder, too'),
};

type StandinOptions = Told<typeof options> & CommonOptions;

/** `standin`. */
export const standin = command({
  name: 'standin',
  description:
    'Runs simulated services on this machine until it is stopped: six sending platforms that take what inscriba push brings, an image host that speaks WebDAV, and a mailbox that takes every mail and sends none on. Each has a page that shows what it was given.',
  options,
  examples: ['inscriba standin --env platforms.env', 'inscriba standin --only mailbox --smtp-port 2500 --keep mails'],
  run,
});

/** A service that is running. */
interface Service {
  readonly name: string;
  /** What it does, and where it shows it. */
  readonly line: string;
  /** What a project has to know, as variables of the environment. */
  readonly variables: Readonly<Record<string, string>>;
  readonly stop: () => Promise<void>;
}

async function run(options: StandinOptions, io: Io): Promise<number> {
  const { quiet, color } = options;
  const { state } = options;
  const unready = state === null ? null : readyFolder(resolve(io.folder, state), state);
  if (unready !== null) {
    printFindings([unready], io, color);
    return exitCodeOf([unready]);
  }
  const running: Service[] = [];
  const stopAll = (): Promise<unknown> => Promise.all(running.map(({ stop }) => stop()));
  for (const start of starts(options, io)) {
    const { services: started, problem } = await starting(start);
    running.push(...started);
    if (problem === null) continue;
    await stopAll();
    printFindings([problem], io, color);
    return exitCodeOf([problem]);
  }
  const variables = Object.assign({}, ...running.map((service) => service.variables)) as Record<string, string>;
  const lines = Object.entries(variables).map(([name, value]) => `${name}=${value}\n`);
  const unwritten =
    options.env === null ? null : await writeWhole(resolve(io.folder, options.env), lines.join(''), options.env);
  if (unwritten !== null) {
    await stopAll();
    printFindings([unwritten], io, color);
    return exitCodeOf([unwritten]);
  }
  const width = Math.max(...running.map(({ name }) => name.length));
  for (const { name, line } of running) io.err(`${name.padEnd(width)}  ${line}\n`);
  if (options.env !== null && !quiet) io.err(`\nAddresses and keys are in ${options.env}.\n`);
  io.err('Ctrl-C stops.\n');
  await io.stopped();
  await stopAll();
  io.err('Stopped.\n');
  return 130;
}

/** What is to be started, in its order. */
function starts(options: StandinOptions, io: Io): (() => Promise<readonly Service[]>)[] {
  const isWanted = (name: string): boolean => options.only.length === 0 || options.only.includes(name);
  const names = platformNames.filter((name) => isWanted(name) || isWanted('platforms'));
  return [
    ...(names.length === 0 ? [] : [() => platformServices(names, options, io)]),
    ...(isWanted('images') ? [() => imageService(options, io)] : []),
    ...(isWanted('mailbox') ? [() => mailService(options, io)] : []),
  ];
}

async function platformServices(
  names: readonly string[],
  { platformPort, state, faults, seed, quiet }: StandinOptions,
  io: Io,
): Promise<readonly Service[]> {
  const running = await startPlatforms({
    ...platformSources,
    names,
    port: platformPort,
    folder: state === null ? null : resolve(io.folder, state),
    faults,
    seed,
    seen: (name, { method, path, answer }) => {
      if (!quiet) io.err(`${name}  ${method} ${path}  ${answer.status}\n`);
    },
  });
  return running.map(({ name, address, stop }) => {
    const platform = platforms.find((known) => known.name === name);
    return {
      name,
      line: `${address}  ${platform?.habit ?? ''}`,
      variables: platformVariables(name, address),
      stop,
    };
  });
}

/** The address and the keys of a simulated platform, as variables of the environment: `BELLMOOR_URL`, `BELLMOOR_KEY`. */
export function platformVariables(name: string, address: string): Record<string, string> {
  const { credentials = {} } = platforms.find((known) => known.name === name) ?? {};
  const variable = (key: string): string => `${name}_${key}`.toUpperCase();
  return {
    [variable('url')]: address,
    ...Object.fromEntries(Object.entries(credentials).map(([key, value]) => [variable(key), value])),
  };
}

/** Where simulated platforms have their dialects and their documentation from. */
export const platformSources: Pick<PlatformsOptions, 'dialect' | 'documentation'> = {
  dialect: async (name): Promise<Dialect> => {
    const { dialect } = await dialectNamed(name, ownFile('.'));
    if (dialect === null) throw new Error(`The dialect ${name} cannot be read`);
    return dialect;
  },
  documentation: (name) => readFile(join(ownFile('standins'), `${name}.yaml`), 'utf8'),
};

async function imageService({ imagePort, state }: StandinOptions, io: Io): Promise<readonly Service[]> {
  const { folder, remove } = await imageFolder(state === null ? null : resolve(io.folder, state));
  const { address, stop } = await startImageHost(folder, imagePort);
  return [
    {
      name: 'images',
      line: `${address}  Takes pictures over WebDAV, and shows them.`,
      variables: imageVariables(address),
      stop: async () => {
        await stop();
        await remove();
      },
    },
  ];
}

/** The address and the login of the simulated image host, as variables of the environment. */
export function imageVariables(address: string): Record<string, string> {
  return { IMAGE_HOST: address, IMAGE_HOST_USER: imageLogin.user, IMAGE_HOST_PASSWORD: imageLogin.password };
}

async function imageFolder(
  state: string | null,
): Promise<{ readonly folder: string; readonly remove: () => Promise<void> }> {
  if (state !== null) return { folder: join(state, 'images'), remove: () => Promise.resolve() };
  const [{ mkdtemp, rm }, { tmpdir }] = await Promise.all([import('node:fs/promises'), import('node:os')]);
  const folder = await mkdtemp(join(tmpdir(), 'inscriba-images-'));
  return { folder, remove: () => rm(folder, { recursive: true, force: true }) };
}

async function mailService(
  { smtpPort, pagePort, quiet, keep, color }: StandinOptions,
  io: Io,
): Promise<readonly Service[]> {
  const received = async (mail: KeptMail): Promise<void> => {
    const problem = keep === null ? null : await keepMail(mail, resolve(io.folder, keep));
    if (problem !== null) {
      printFindings([problem], io, color);
      throw new Error('not kept');
    }
    if (!quiet) io.err(`mail ${mail.number}  for ${mail.readers.join(', ')}  ${kilobytes(mail.bytes.length)}\n`);
  };
  const mailbox = await startMailbox({ smtpPort, pagePort, received });
  return [
    {
      name: 'mailbox',
      line: `${mailbox.page}  Takes every mail on 127.0.0.1:${mailbox.smtpPort}, and shows it.`,
      variables: { MAILBOX_PORT: String(mailbox.smtpPort) },
      stop: mailbox.stop,
    },
  ];
}

async function starting(
  start: () => Promise<readonly Service[]>,
): Promise<{ readonly services: readonly Service[]; readonly problem: Finding | null }> {
  try {
    return { services: await start(), problem: null };
  } catch (error) {
    const { code, port } = error as NodeJS.ErrnoException & { port?: number };
    if (code !== 'EADDRINUSE' && code !== 'EACCES') throw error;
    const detail = code === 'EACCES' ? 'this user may not listen there' : 'another program listens there';
    return { services: [], problem: finding('port-taken', null, { port: String(port ?? ''), detail }) };
  }
}

/** Writes a mail into a folder, under its number. */
export function keepMail(mail: KeptMail, folder: string): Promise<Finding | null> {
  const path = resolve(folder, `mail-${String(mail.number).padStart(3, '0')}.eml`);
  return writeWhole(path, mail.bytes);
}
