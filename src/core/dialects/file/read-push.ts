import { adviceForName, finding, type Report } from '../../findings/finding.js';
import { nearestName } from '../../text/nearest.js';
import type { PlaceOf, YamlPath } from '../../yaml/yaml-places.js';
import type { Exchange, PushApi, RecordedExchange, RequestMethod, SendPattern, SignIn } from '../push-api.js';
import type { RawExchange, RawExchanges, RawPush, RawSearch } from './push-schema.js';

/** The interface that `push:` of a dialect file describes. */
export function toPushApi(raw: RawPush): PushApi {
  return {
    settings: Object.fromEntries(
      Object.entries(raw.settings).map(([name, { about, secret, usual }]) => [
        name,
        { about, secret, usual: usual ?? null },
      ]),
    ),
    signIn: signInOf(raw.auth),
    headers: raw.headers,
    pictureWay: raw.images,
    picture:
      raw.picture === undefined
        ? null
        : {
            ...toExchange(raw.picture),
            address: raw.picture.address,
            find: raw.picture.find === undefined ? null : toExchange(raw.picture.find),
          },
    folder:
      raw.folder === undefined
        ? null
        : { name: raw.folder.name, find: toExchange(raw.folder.find), create: toExchange(raw.folder.create) },
    namesAreUnique: raw.names === 'unique',
    find: toExchange(raw.find),
    read: raw.read === undefined ? null : toExchange(raw.read),
    create: toExchange(raw.create),
    // Joi leaves out what is not written.
    update: toExchange({ ...raw.create, ...raw.update } as RawExchange),
    gone: raw.gone,
    requestsPerSecond: raw.limits.requests_per_second ?? null,
    atOnce: raw.limits.at_once,
    errorMessage: raw.error.message ?? null,
  };
}

function signInOf(auth: RawPush['auth']): SignIn {
  return auth.kind === 'client_credentials'
    ? { kind: auth.kind, tokenPath: auth.token_url, id: auth.id, secret: auth.secret, scope: auth.scope ?? null }
    : auth;
}

function toExchange(raw: RawExchange | RawSearch): Exchange {
  const [method = 'GET', path = '/'] = raw.request.split(' ');
  // Only requests that look for something go through lists.
  const { items, next } = raw as Partial<RawSearch>;
  return {
    // The schema has seen to the method, and to what JSON may hold.
    method: method as RequestMethod,
    path,
    headers: raw.headers,
    body: raw.body,
    send: raw.send as SendPattern,
    file: raw.file ?? null,
    pictures: raw.pictures ?? null,
    take: raw.take,
    items: items ?? null,
    next: next === undefined ? null : typeof next === 'string' ? { at: next, parameter: null } : next,
  };
}

/** The exchanges that a dialect file has recorded. */
export function toExchanges(raw: RawExchanges): RecordedExchange[] {
  return raw.map(({ step, values, request, answer, takes, says }) => ({
    step,
    values: values as RecordedExchange['values'],
    request: { line: request.line, headers: request.headers, body: request.body as SendPattern },
    answer: { status: answer.status, body: answer.body as SendPattern },
    takes:
      takes === undefined
        ? null
        : Object.fromEntries(Object.entries(takes).map(([name, value]) => [name, String(value)])),
    says: says ?? null,
  }));
}

/** The values of a message that requests may hold, beside those that are a platform's own. */
export const messageValues = [
  'message.name',
  'message.edition',
  'message.project',
  'message.subject',
  'message.preheader',
  'message.topic',
  'message.description',
  'message.keywords',
  'message.links',
  'message.regions',
  'message.digest',
  'sender.name',
  'sender.address',
  'sender.reply_to',
  'html',
  'text',
  'css',
  'body',
] as const;

/** The values of a picture. */
export const pictureValues = [
  'picture.name',
  'picture.type',
  'picture.base64',
  'picture.bytes',
  'picture.width',
  'picture.height',
] as const;

/** Reports names that stand for nothing, and requests that miss what they need. */
export function checkPush(raw: RawPush, placeOf: PlaceOf, report: Report): void {
  const settings = ['destination.url', ...Object.keys(raw.settings).map((name) => `destination.${name}`)];
  const taken = (owner: string, ...exchanges: (RawExchange | undefined)[]): string[] =>
    exchanges.flatMap((exchange) => Object.keys(exchange?.take ?? {}).map((name) => `${owner}.${name}`));
  const folder =
    raw.folder === undefined ? [] : ['folder.name', ...taken('folder', raw.folder.find, raw.folder.create)];
  const remote = taken('remote', raw.find, raw.create);
  const common = [...settings, ...folder];
  const scopes: readonly (readonly [readonly string[], unknown, readonly string[]])[] = [
    [['auth'], raw.auth, settings],
    [['headers'], raw.headers, settings],
    [['picture'], raw.picture, [...settings, ...pictureValues, ...taken('picture', raw.picture, raw.picture?.find)]],
    [['folder'], raw.folder, [...settings, ...folder]],
    [['find'], raw.find, [...common, ...messageValues]],
    [['read'], raw.read, [...common, ...remote]],
    [['create'], raw.create, [...common, ...messageValues]],
    [['update'], raw.update, [...common, ...messageValues, ...remote]],
  ];
  for (const [path, value, known] of scopes)
    for (const [at, name] of namesIn(value, ['push', ...path]))
      if (!known.includes(name))
        report(finding('push-name', placeOf(at), { name, advice: adviceForName(nearestName(name, known), known, '') }));
  const missing = (key: string, expected: string, within: readonly string[] = []): void =>
    report(finding('config-missing-key', placeOf(['push', ...within]), { key, expected }));
  if (raw.images === 'store' && raw.picture === undefined) missing('picture', 'the request that puts a picture there');
  if (!('id' in raw.create.take) && !('id' in raw.find.take))
    missing('id', 'where its number stands', ['create', 'take']);
  if (!('id' in raw.find.take)) missing('id', 'where the number of a template stands', ['find', 'take']);
}

/** The `${names}` in the texts of a value, with the paths of the texts. */
function namesIn(value: unknown, path: YamlPath): (readonly [YamlPath, string])[] {
  if (typeof value === 'string')
    return [...value.matchAll(/\$\{([^}]*)\}/g)].map(([, name = '']) => [path, name] as const);
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([key, inner]) =>
    namesIn(inner, [...path, Array.isArray(value) ? Number(key) : key]),
  );
}
