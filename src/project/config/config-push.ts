import type { PlaceOf } from '../../core/yaml/yaml-places.js';
import type { RawPushSetting } from './config-schema.js';
import { settingAt, type Setting } from './settings.js';

/** How messages are pushed to a destination. What the environment adds is not known yet. */
export interface PushSetting {
  readonly url: Setting;
  /** What the dialect asks for, by its name there. */
  readonly settings: ReadonlyMap<string, Setting>;
  /** Commands that print secrets, by the names of the settings; one for the only secret that there is under ''. */
  readonly secretCommands: ReadonlyMap<string, Setting>;
  /** What one request may take. */
  readonly milliseconds: number;
}

const USUAL_SECONDS = 30;

/** What is no setting that a dialect asks for. */
const ownKeys = ['url', 'timeout', 'secret_command'];

/** Reads `push` of a destination. */
export function readPushSetting(
  raw: RawPushSetting | undefined,
  destination: string,
  placeOf: PlaceOf,
): PushSetting | null {
  if (raw === undefined) return null;
  const path = ['destinations', destination, 'push'];
  const setting = (key: string, value: unknown): (readonly [string, Setting])[] => {
    const own = [...path, ...key.split('.')];
    const { source, span } = placeOf(own);
    // The number of an account is what is written: it may begin with zeros.
    const text = typeof value === 'number' ? source.slice(span) : value;
    const at = settingAt(own, typeof text === 'string' ? text : undefined, placeOf);
    return at === null ? [] : [[key, at]];
  };
  const [url] = setting('url', raw.url);
  if (url === undefined) return null;
  const commands = raw.secret_command ?? {};
  const single = typeof commands === 'string' ? setting('secret_command', commands) : [];
  const several = Object.entries(typeof commands === 'string' ? {} : commands).flatMap(([name, command]) =>
    setting(`secret_command.${name}`, command),
  );
  return {
    url: url[1],
    settings: new Map(
      Object.entries(raw).flatMap(([key, value]) => (ownKeys.includes(key) ? [] : setting(key, value))),
    ),
    secretCommands: new Map(
      [...single, ...several].map(([key, command]) => [key.replace(/^secret_command\.?/, ''), command] as const),
    ),
    milliseconds: (raw.timeout ?? USUAL_SECONDS) * 1000,
  };
}
