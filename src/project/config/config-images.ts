import { resolve } from 'node:path';
import { finding, refusing, type Finding, type Report } from '../../core/findings/finding.js';
import type { Hosting, Upload } from '../../pictures/host-pictures.js';
import { folderAddress } from '../../web/web-address.js';
import type { PlaceOf } from '../../core/yaml/yaml-places.js';
import type { RawImages } from './config-schema.js';
import { filledSetting, secretSetting, settingAt, type Environment, type Setting } from './settings.js';

/** How a destination's pictures reach readers. What the environment adds is not known yet. */
export interface PictureSetting {
  readonly mode: RawImages['mode'];
  readonly baseUrl: Setting | null;
  readonly upload: UploadSetting | null;
}

interface UploadSetting {
  readonly kind: 'webdav' | 'put' | 'folder';
  readonly url: Setting | null;
  readonly folder: string | null;
  readonly user: Setting | null;
  readonly password: Setting | null;
  readonly token: Setting | null;
  readonly seconds: number;
}

/** The seconds that one picture may take on its way. */
const UPLOAD_SECONDS = 30;

/** Reads `images` of a destination; what is missing for its mode, and what its mode does not know, is reported. */
export function readPictureSetting(
  raw: RawImages | undefined,
  destination: string,
  placeOf: PlaceOf,
  report: Report,
): PictureSetting {
  if (raw === undefined) return { mode: 'package', baseUrl: null, upload: null };
  const path = ['destinations', destination, 'images'];
  const { mode, base_url: baseUrl, upload } = raw;
  const isHosted = mode === 'host';
  const missing = (at: string[], key: string, expected: string): unknown =>
    report(finding('config-missing-key', placeOf(at), { key, expected }));
  const needless = (at: string[], key: string, advice: string): unknown =>
    report(finding('config-unknown-key', placeOf([...at, key]), { key, advice }));
  if (isHosted && baseUrl === undefined) missing(path, 'base_url', 'the address below which the pictures show');
  if (!isHosted && mode !== 'library' && baseUrl !== undefined)
    needless(path, 'base_url', `Pictures of mode ${mode} have no address on the web; the modes host and library do.`);
  if (!isHosted && upload !== undefined) needless(path, 'upload', 'Pictures are uploaded in mode: host.');
  const within = [...path, 'upload'];
  if (upload?.kind === 'folder' && upload.folder === undefined) missing(within, 'folder', 'the folder that takes them');
  if (upload !== undefined && upload.kind !== 'folder' && upload.url === undefined)
    missing(within, 'url', 'the address of the folder that takes them');
  const setting = (at: string[], text: string | undefined): Setting | null => settingAt(at, text, placeOf);
  return {
    mode,
    baseUrl: setting([...path, 'base_url'], baseUrl),
    upload:
      upload === undefined
        ? null
        : {
            kind: upload.kind,
            url: setting([...within, 'url'], upload.url),
            folder: upload.folder ?? null,
            user: setting([...within, 'user'], upload.user),
            password: setting([...within, 'password'], upload.password),
            token: setting([...within, 'token'], upload.token),
            seconds: upload.timeout ?? UPLOAD_SECONDS,
          },
  };
}

/**
 * Where the pictures of a destination go, with what the environment says. Null, with findings, where a variable is missing
 * or an address is none.
 */
export function resolveHosting(
  { baseUrl, upload }: PictureSetting,
  environment: Environment,
  projectFolder: string,
): { hosting: Hosting | null; findings: Finding[] } {
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const fill = (setting: Setting | null): string | null =>
    filledSetting(setting, environment, report, 'https://missing.invalid/');
  const address = (setting: Setting | null): string => {
    const text = fill(setting);
    if (setting === null || text === null) return '';
    // The place is not shown: the line may hold a password.
    const refuse = refusing(report, (detail) => finding('address-wrong', null, { key: setting.key, detail }));
    return folderAddress(text, refuse) ?? '';
  };
  const secret = (setting: Setting | null): string | null => secretSetting(setting, environment, report);
  const hosting: Hosting = { baseUrl: address(baseUrl), upload: uploadOf() };
  return { hosting: findings.length > 0 ? null : hosting, findings };

  function uploadOf(): Upload | null {
    if (upload === null) return null;
    if (upload.kind === 'folder') return { kind: 'folder', folder: resolve(projectFolder, upload.folder ?? '') };
    const login = { user: fill(upload.user), password: secret(upload.password), token: secret(upload.token) };
    return {
      kind: upload.kind,
      url: address(upload.url),
      login,
      milliseconds: upload.seconds * 1000,
      how: 'timeout under upload in inscriba.yaml',
    };
  }
}
