import type { Delivery } from '../../core/delivery/deliveries.js';
import type { Exchange, SendPattern } from '../../core/dialects/push-api.js';
import { filledRequest, type RequestFiles } from '../../core/delivery/fill-request.js';
import { shownRequest } from '../../core/delivery/show-request.js';
import { filledText, type RequestValues } from '../../core/delivery/values.js';
import { pictureValues, type StorablePicture } from '../../platforms/picture-store.js';
import type { PlatformAccess } from '../../platforms/platform-client.js';
import type { Hosting, UploadMemory } from '../../pictures/host-pictures.js';
import type { TemplateContent } from '../../platforms/push-template.js';

/** What is known beforehand of a template. */
export interface KnownBefore {
  readonly known: Delivery | null;
  /** The pictures that no push has stored. */
  readonly pictures: readonly StorablePicture[];
}

/**
 * The requests that a push would make, in their order, as people read them. What only an answer says stands as its name
 * (`<folder.id>`), and so do secrets.
 */
export function plannedRequests(
  access: PlatformAccess,
  content: TemplateContent,
  { known, pictures }: KnownBefore,
): string[] {
  const { api, url, settings } = access;
  const base = new Map<string, SendPattern>([...settings, ['destination.url', url]]);
  const show = (exchange: Exchange, values: RequestValues, files?: RequestFiles): string => {
    const filled = new Map([...unknownTo(exchange), ...base, ...values]);
    return shownRequest(withToken(access, filledRequest(api, exchange, filled, files), base), url);
  };
  const folder = api.folder === null ? new Map() : new Map([['folder.name', filledText(api.folder.name, base)]]);
  const values = new Map([...content.values, ...folder]);
  const requests: string[] = [];
  if (api.signIn.kind === 'client_credentials')
    requests.push(
      shownRequest(
        {
          method: 'POST',
          path: filledText(api.signIn.tokenPath, base),
          headers: { authorization: `Basic ${filledText(`${api.signIn.id}:${api.signIn.secret}`, base)}` },
          body: {
            kind: 'form',
            fields: [
              ['grant_type', 'client_credentials'],
              ...(api.signIn.scope === null ? [] : [['scope', filledText(api.signIn.scope, base)] as const]),
            ],
          },
        },
        url,
      ),
    );
  if (api.folder !== null) requests.push(show(api.folder.find, folder));
  for (const picture of pictures) {
    if (api.picture === null) continue;
    if (api.picture.find !== null) requests.push(show(api.picture.find, pictureValues(picture)));
    requests.push(show(api.picture, pictureValues(picture), { file: picture, pictures: [] }));
  }
  if (known === null || known.id === null)
    return [...requests, show(api.find, values), show(api.create, values, content.files)];
  const remote = new Map([
    ...values,
    ['remote.id', known.id],
    ...(known.link === null ? [] : [['remote.link', known.link] as const]),
  ]);
  if (api.read !== null) requests.push(show(api.read, remote));
  if (known.sent !== content.digest || known.pending !== null) requests.push(show(api.update, remote, content.files));
  return requests;
}

/** The requests by which pictures get onto a server: each is looked for, put there where it is not known, and looked at. */
export function plannedUploads(
  pictures: readonly StorablePicture[],
  message: string,
  { baseUrl, upload }: Hosting,
  memory: UploadMemory,
): string[] {
  if (upload === null || upload.kind === 'folder' || pictures.length === 0) return [];
  const path = (name: string): string => [message, name].map(encodeURIComponent).join('/');
  const lines = pictures.flatMap(({ name, type, bytes, digest }) => {
    const known = memory.find(baseUrl, digest);
    if (known !== null) return [`HEAD ${known}\n`];
    const shown = `HEAD ${baseUrl}${path(name)}\n`;
    return [
      shown,
      `PUT ${upload.url}${path(name)}\n  content-type: ${type}\n  the file ${name} (${bytes.length} bytes)\n`,
      shown,
    ];
  });
  const isNew = lines.some((line) => line.startsWith('PUT'));
  return upload.kind === 'webdav' && isNew ? [`MKCOL ${upload.url}${encodeURIComponent(message)}/\n`, ...lines] : lines;
}

/** Every name that a request uses, standing for itself. */
function unknownTo({ path, send, headers }: Exchange): (readonly [string, string])[] {
  const text = `${path} ${JSON.stringify(send)} ${JSON.stringify(headers)}`;
  return [...text.matchAll(/\$\{([^}"]+)\}/g)].map(([, name = '']) => [name, `<${name}>`] as const);
}

/** Who asks, in words: what the header says is a secret or holds one. */
function withToken(
  { api }: PlatformAccess,
  request: ReturnType<typeof filledRequest>,
  values: RequestValues,
): ReturnType<typeof filledRequest> {
  const said =
    api.signIn.kind === 'client_credentials'
      ? 'Bearer <access_token>'
      : api.signIn.kind === 'basic'
        ? `Basic ${filledText(`${api.signIn.user}:${api.signIn.password}`, values)}`
        : null;
  return said === null ? request : { ...request, headers: { ...request.headers, authorization: said } };
}
