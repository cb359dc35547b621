import { finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import { PictureStore } from '../../platforms/picture-store.js';
import { PlatformClient } from '../../platforms/platform-client.js';
import { EditionChecker } from '../check/edition-checker.js';
import type { Environment } from '../config/settings.js';
import { readDeliveryFile } from '../files/delivery-file.js';
import { messageFiles } from '../load/message-names.js';
import { PicturePlacer } from '../visit/place-pictures.js';
import { visitMessages } from '../visit/visit-messages.js';
import { DeliveryFile } from './delivery-memory.js';
import { asPushTarget, platformAccess } from './platform-access.js';
import { lockDeliveries } from './push-lock.js';
import { EditionPush, type OpenPlatform } from './edition-push.js';
import { blankOutcome, type PushListener, type PushOutcome, type PushRequest } from './push-request.js';

/** Brings messages to the platforms of their destinations. What fails keeps nothing else from being pushed. */
export async function pushMessages(
  asked: PushRequest,
  listener: PushListener,
): Promise<{ readonly outcomes: readonly PushOutcome[]; readonly findings: readonly Finding[] }> {
  const request = asked.isDry ? { ...asked, environment: withoutSecrets(asked) } : asked;
  const { config, recordFolder, isDry } = request;
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const release = isDry ? (): Promise<void> => Promise.resolve() : await lockDeliveries(recordFolder, report);
  if (release === null) return { outcomes: [], findings };
  try {
    const record = await readDeliveryFile(recordFolder, report);
    if (record === null) return { outcomes: [], findings };
    const memory = new DeliveryFile(recordFolder, record);
    const platforms = await openPlatforms(request, memory, report);
    if (platforms === null) return { outcomes: [], findings };
    // Nothing goes out that was not looked at.
    const checker = new EditionChecker(Infinity);
    const messages = new Set((await messageFiles(config.folder)).map(({ name }) => name));
    const visited = await visitMessages<PushOutcome>(
      { ...request, destinations: platforms.map(({ target }) => target.destination.name) },
      {
        takesEditions: true,
        targets: (targets) => targets,
        failed: (message, edition, { destination }) => {
          const outcome = { ...blankOutcome, message, edition, destination: destination.name };
          listener.done(outcome);
          return outcome;
        },
        visit: async (task, ready, target) => {
          const platform = platforms.find((open) => open.target.destination.name === target.destination.name);
          if (platform === undefined) throw new Error(`${target.destination.name} is not open`);
          const push = new EditionPush({ request, listener, memory, checker, messages }, platform, { task, ready });
          const outcome = await push.run();
          listener.done(outcome);
          return outcome;
        },
      },
      listener.progress,
    );
    if (request.messages.length === 0) findings.push(...leftOver(memory, visited.outcomes, platforms, messages));
    return { outcomes: visited.outcomes, findings: [...visited.findings, ...findings] };
  } finally {
    await release();
  }
}

/** The environment of a push that nobody makes: in place of passwords for uploads stand their names. */
function withoutSecrets({ config, environment }: PushRequest): Environment {
  const secrets = config.destinations.flatMap(({ images: { upload } }) => [upload?.password, upload?.token]);
  const names = secrets.flatMap((setting) =>
    [...(setting?.text ?? '').matchAll(/\$\{env\.(\w+)\}/g)].map(([, name = '']) => name),
  );
  return { ...environment, ...Object.fromEntries(names.map((name) => [name, `<${name}>`])) };
}

/** The destinations that are pushed to. Null, and reported, where one of them cannot be. */
async function openPlatforms(
  { config, destinations, environment, recordFolder, isDry }: PushRequest,
  memory: DeliveryFile,
  report: Report,
): Promise<OpenPlatform[] | null> {
  const { chooseTargets } = await import('../visit/choose-messages.js');
  const found: Finding[] = [];
  const collect = (item: Finding): unknown => found.push(item);
  const wanted =
    destinations.length > 0
      ? destinations
      : config.destinations.filter(({ push }) => push !== null).map(({ name }) => name);
  if (wanted.length === 0) collect(finding('push-nowhere', null));
  const targets =
    wanted.length === 0 ? [] : await chooseTargets({ config, messages: [], destinations: wanted }, collect);
  const platforms: OpenPlatform[] = [];
  for (const each of targets) {
    const target = asPushTarget(each, collect);
    const sources = { environment, projectFolder: config.folder, needsSecrets: !isDry };
    const access = target === null ? null : await platformAccess(target, sources, collect);
    if (target === null || access === null) continue;
    const client = new PlatformClient(access);
    const store = new PictureStore(client, memory);
    const placer = new PicturePlacer(config, environment, { recordFolder });
    platforms.push({ target, client, store, placer, folder: null, closed: null });
  }
  found.forEach(report);
  return found.some(isError) ? null : platforms;
}

/** Templates of messages and editions that are no more. */
function leftOver(
  memory: DeliveryFile,
  outcomes: readonly PushOutcome[],
  platforms: readonly OpenPlatform[],
  messages: ReadonlySet<string>,
): Finding[] {
  const names = platforms.map(({ target }) => target.destination.name);
  return memory.deliveries.flatMap(({ destination, message, edition, id }) => {
    if (!names.includes(destination) || id === null) return [];
    const own = outcomes.filter((outcome) => outcome.message === message && outcome.destination === destination);
    const isThere =
      own.length === 0
        ? messages.has(message)
        : own.some((outcome) => outcome.edition === edition || outcome.how === 'failed');
    const what = edition === null ? message : `${message}/${edition}`;
    return isThere ? [] : [finding('push-left-over', null, { name: destination, what, id })];
  });
}
