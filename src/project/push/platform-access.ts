import type { ApiSetting, PushApi } from '../../core/dialects/push-api.js';
import { adviceForName, finding, watched, refusing, type Report } from '../../core/findings/finding.js';
import { nearestName } from '../../core/text/nearest.js';
import type { PlatformAccess } from '../../platforms/platform-client.js';
import { folderAddress } from '../../web/web-address.js';
import type { PushSetting } from '../config/config-push.js';
import { filledSetting, secretSetting, type Environment } from '../config/settings.js';
import type { Target } from '../visit/target.js';
import { secretOf } from './secret-command.js';

/** What is shown in place of a secret that is not needed: for requests that nobody sends. */
function secretName(name: string): string {
  return `<${name}>`;
}

/** Where the settings of a destination come from. */
export interface SettingSources {
  readonly environment: Environment;
  readonly projectFolder: string;
  /** False where secrets are not asked for, and their names stand in their place. */
  readonly needsSecrets: boolean;
}

/** A destination that is pushed to, with how its platform takes templates. */
export interface PushTarget extends Target {
  readonly api: PushApi;
  readonly setting: PushSetting;
}

/** A destination as one that is pushed to. Null, and reported, where it is none. */
export function asPushTarget(target: Target, report: Report): PushTarget | null {
  const { destination, dialect } = target;
  if (dialect.push === null) {
    report(finding('push-undescribed', destination.dialectPlace, { dialect: dialect.name, name: destination.name }));
    return null;
  }
  if (destination.push === null) {
    const settings = Object.entries(dialect.push.settings).filter(([, { usual }]) => usual === null);
    const example = ['url: …', ...settings.map(([name, setting]) => exampleOf(destination.name, name, setting))];
    report(finding('push-address', destination.dialectPlace, { name: destination.name, example: example.join(', ') }));
    return null;
  }
  return { ...target, api: dialect.push, setting: destination.push };
}

/** What a push needs to know of a platform. Null, and reported, where anything of it is missing. */
export async function platformAccess(
  { destination, dialect, api, setting }: PushTarget,
  sources: SettingSources,
  given: Report,
): Promise<PlatformAccess | null> {
  const { report, hasFailed } = watched(given);
  const known = Object.keys(api.settings);
  const commands = [...setting.secretCommands].filter(([key]) => key !== '');
  for (const [key, { place }] of [...setting.settings, ...commands])
    if (!known.includes(key))
      report(
        finding('push-setting-unknown', place, {
          dialect: dialect.name,
          key,
          advice: adviceForName(nearestName(key, known), known, 'It asks for nothing but url.'),
        }),
      );
  const filled = filledSetting(setting.url, sources.environment, report, 'https://missing.invalid/') ?? '';
  const url = folderAddress(
    filled,
    refusing(report, (detail) => finding('address-wrong', null, { key: setting.url.key, detail })),
  );
  const values = new Map<string, string>();
  const secrets: string[] = [];
  for (const [name, asked] of Object.entries(api.settings)) {
    const value = await settingValue(name, asked, { destination: destination.name, setting, sources }, report);
    if (value === null) continue;
    values.set(`destination.${name}`, value);
    if (asked.secret && sources.needsSecrets) secrets.push(value);
  }
  if (hasFailed() || url === null) return null;
  const { milliseconds } = setting;
  return { destination: destination.name, dialect, api, url, settings: values, secrets, milliseconds };
}

async function settingValue(
  name: string,
  asked: ApiSetting,
  {
    destination,
    setting,
    sources,
  }: { readonly destination: string; readonly setting: PushSetting; readonly sources: SettingSources },
  report: Report,
): Promise<string | null> {
  const own = setting.settings.get(name) ?? null;
  const command = asked.secret ? (setting.secretCommands.get(name) ?? setting.secretCommands.get('') ?? null) : null;
  if (asked.secret && !sources.needsSecrets && (own !== null || command !== null)) return secretName(name);
  if (own !== null) return (asked.secret ? secretSetting : filledSetting)(own, sources.environment, report);
  if (command !== null)
    return secretOf(
      command.text,
      sources.projectFolder,
      refusing(report, (detail) => finding('secret-command', command.place, { key: command.key, detail })),
    );
  if (asked.usual === null)
    report(
      finding('push-setting-missing', setting.url.place, {
        name: destination,
        key: name,
        about: asked.about,
        example: exampleOf(destination, name, asked),
      }),
    );
  return asked.usual;
}

function exampleOf(destination: string, name: string, { secret }: ApiSetting): string {
  const variable = `${destination}_${name}`.toUpperCase().replace(/[^A-Z\d]+/g, '_');
  return secret ? `${name}: '\${env.${variable}}'` : `${name}: …`;
}
