import { projectFolderOf } from '../../../project/files/project-folder.js';
import { resolve } from 'node:path';
import { adviceForName, exitCodeOf, finding, isError, refusing, type Finding } from '../../../core/findings/finding.js';
import { shownWidths } from '../../../core/pictures/shown-widths.js';
import { nearestName } from '../../../core/text/nearest.js';
import { countPictures } from '../../../pictures/count-pictures.js';
import { hostPictures, type Hosting, type UploadMemory } from '../../../pictures/host-pictures.js';
import { folderAddress } from '../../../web/web-address.js';
import { loadConfig } from '../../../project/config/config.js';
import { resolveHosting } from '../../../project/config/config-images.js';
import { digestOf } from '../../../project/files/digest.js';
import { carriedPictures, mediaTypeOf } from '../../../project/load/message-pictures.js';
import { uploadMemory } from '../../../project/visit/upload-record.js';
import { writeWhole } from '../../../project/files/write-file.js';
import {
  filesArgument,
  filesOptions,
  readdressFiles,
  reportRemote,
  secondsRange,
  type ImagesOptions,
} from '../../output/readdress-files.js';
import { command, oneOfOr, text, wholeOr, type Told } from '../../io/command.js';
import type { Io } from '../../io/io.js';
import { printFindings } from '../../output/print-findings.js';

const options = {
  ...filesOptions,
  baseUrl: text('--base-url <url>', 'the address below which the pictures show'),
  upload: text(
    '--upload <url or folder>',
    'the address that takes the files, or a folder that something syncs; INSCRIBA_UPLOAD_USER and INSCRIBA_UPLOAD_PASSWORD, or INSCRIBA_UPLOAD_TOKEN, log in',
  ),
  method: oneOfOr('webdav', ['webdav', 'put'], '--method <name>', 'how the address takes files'),
  to: text('--to <destination>', 'host as this destination of inscriba.yaml does, in place of the options above'),
  timeout: wholeOr(30, secondsRange, '--timeout <seconds>', 'how long one request may take'),
};

type HostOptions = ImagesOptions & Told<typeof options>;

/** `images host`. */
export const host = command({
  name: 'host',
  summary: 'put pictures on a server, and point to them there',
  description:
    'Puts the pictures that lie here on a server and points to them there. Nothing is sent twice, and no HTML is written before the server shows every picture. uploads.json keeps what was sent.',
  arguments: { files: filesArgument },
  options,
  examples: [
    'inscriba images host out/archive/may-newsletter/index.html --to partners --out hosted.html',
    'inscriba images host export.html --base-url https://img.alderlane.example/mail/ --upload /srv/pictures --out hosted.html',
  ],
  run,
});

async function run(options: HostOptions, io: Io): Promise<number> {
  const { hosting, findings } = await hostingOf(options, io);
  if (hosting === null || findings.some(isError)) {
    printFindings(findings, io, options.color);
    return exitCodeOf(findings);
  }
  const recordFolder = (await projectFolderOf(io.folder)) ?? io.folder;
  const memory = await uploadMemory(recordFolder);
  return readdressFiles(options, io, async ({ input, doc, pictures }, report) => {
    const carried = await carriedPictures(
      pictures.local,
      shownWidths(doc),
      { mostBytes: null, keepsBytes: true },
      report,
    );
    const folder = folderNameOf(input, io.folder);
    const byPath = new Map(
      [...carried].map(([address, picture]) => [`${folder}/${picture.name}`, { address, picture }]),
    );
    const files = [...byPath].map(
      ([
        path,
        {
          picture: { bytes, format },
        },
      ]) => ({
        path,
        bytes,
        type: mediaTypeOf(format),
      }),
    );
    reportRemote(pictures, report);
    if (options.dryRun) {
      files.forEach(({ path, bytes }) => say(describePlan(path, bytes, hosting, memory)));
      return null;
    }
    const result = await hostPictures(files, hosting, {
      memory,
      digest: digestOf,
      write: writeWhole,
      done: (path, url, how) => say(`${how}  ${path.split('/').at(-1) ?? path}  ${url}`),
    });
    result.findings.forEach(report);
    if (result.findings.some(isError)) {
      say(`${countPictures(result.urls.size)} of ${files.length} are there; no HTML was written.`);
      return null;
    }
    return new Map(
      [...carried].map(([address, { name }]) => [address, result.urls.get(`${folder}/${name}`) ?? address]),
    );
  });

  function say(line: string): void {
    if (!options.quiet) io.err(`${line}\n`);
  }
}

function describePlan(path: string, bytes: Uint8Array, { baseUrl }: Hosting, memory: UploadMemory): string {
  const known = memory.find(baseUrl, digestOf(bytes));
  return known === null ? `would upload  ${path}  ${baseUrl}${path}` : `uploaded before  ${path}  ${known}`;
}

/** What tells the pictures of one file from those of others on the server. */
function folderNameOf(input: string, workingFolder: string): string {
  const name = input === '-' ? 'message' : (input.split(/[/\\]/).at(-1) ?? '').replace(/\.html?$/i, '');
  const plain = name === 'index' ? (resolve(workingFolder, input, '..').split(/[/\\]/).at(-1) ?? name) : name;
  const safe = plain
    .normalize('NFKD')
    .replace(/[^\w.-]+/g, '-')
    .replace(/^[-.]+|[-.]+$/g, '');
  return safe === '' ? 'message' : safe.toLowerCase();
}

async function hostingOf(options: HostOptions, io: Io): Promise<{ hosting: Hosting | null; findings: Finding[] }> {
  if (options.to !== null) return hostingOfDestination(options.to, io);
  const findings: Finding[] = [];
  const address = (key: string, text: string): string | null =>
    folderAddress(
      text,
      refusing(
        (item) => findings.push(item),
        (detail) => finding('address-wrong', null, { key, detail }),
      ),
    );
  const fail = (item: Finding): { hosting: null; findings: Finding[] } => ({ hosting: null, findings: [item] });
  if (options.baseUrl === null) return fail(finding('host-needs-address', null));
  const baseUrl = address('--base-url', options.baseUrl);
  if (baseUrl === null) return { hosting: null, findings };
  if (options.upload === null) return fail(finding('host-needs-upload', null));
  if (!/^[a-z][a-z\d+.-]+:\/\//i.test(options.upload))
    return {
      hosting: { baseUrl, upload: { kind: 'folder', folder: resolve(io.folder, options.upload) } },
      findings,
    };
  const url = address('--upload', options.upload);
  if (url === null) return { hosting: null, findings };
  const variable = (name: string): string | null => process.env[name] ?? null;
  const login = {
    user: variable('INSCRIBA_UPLOAD_USER'),
    password: variable('INSCRIBA_UPLOAD_PASSWORD'),
    token: variable('INSCRIBA_UPLOAD_TOKEN'),
  };
  const upload = {
    kind: options.method,
    url,
    login,
    milliseconds: options.timeout * 1000,
    how: '--timeout',
  };
  return { hosting: { baseUrl, upload }, findings };
}

async function hostingOfDestination(name: string, io: Io): Promise<{ hosting: Hosting | null; findings: Finding[] }> {
  const { config, findings } = await loadConfig(io.folder);
  if (config === null) return { hosting: null, findings: [...findings] };
  const known = config.destinations.filter(({ images }) => images.mode === 'host').map((item) => item.name);
  const destination = config.destinations.find((item) => item.name === name && item.images.mode === 'host');
  if (destination === undefined) {
    const advice = adviceForName(nearestName(name, known), known, 'Give one of them images: { mode: host, … }.');
    return { hosting: null, findings: [finding('host-no-destination', null, { name, advice })] };
  }
  const resolved = resolveHosting(destination.images, process.env, config.folder);
  if (resolved.hosting !== null && resolved.hosting.upload === null)
    return { hosting: null, findings: [finding('host-needs-upload', null)] };
  return resolved;
}
