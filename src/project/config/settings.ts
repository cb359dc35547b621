import { finding, type Place, type Report } from '../../core/findings/finding.js';
import type { PlaceOf } from '../../core/yaml/yaml-places.js';
import { spanAt } from '../../core/text/span.js';

/** A text of the configuration that may name variables of the environment. */
export interface Setting {
  /** Where it stands in the configuration, in words: `destinations.partners.images.base_url`. */
  readonly key: string;
  readonly text: string;
  readonly place: Place;
}

/** A text at a path of the configuration; null where it is not there. */
export function settingAt(path: readonly string[], text: string | undefined, placeOf: PlaceOf): Setting | null {
  return text === undefined ? null : { key: path.join('.'), text, place: placeOf(path) };
}

/** The variables of the environment. */
export type Environment = Readonly<Record<string, string | undefined>>;

/**
 * A setting with the variables that it names; one that is missing is reported.
 * @param standIn what stands in for a missing variable at the beginning of the text, so that the rest can still be read
 */
export function filledSetting(
  setting: Setting | null,
  environment: Environment,
  report: Report,
  standIn = '',
): string | null {
  if (setting === null) return null;
  return setting.text.replace(/\$\{env\.(\w+)\}/g, (whole, name: string, at: number) => {
    const value = environment[name];
    if (value !== undefined && value !== '') return value;
    const start = setting.place.source.text.indexOf(whole, setting.place.span.start);
    const span = start < 0 ? setting.place.span : spanAt(start, whole.length);
    report(finding('environment-missing', { source: setting.place.source, span }, { name }));
    return at === 0 ? standIn : '';
  });
}

/** A secret: it has to come from the environment, so that no file holds it. */
export function secretSetting(setting: Setting | null, environment: Environment, report: Report): string | null {
  if (setting !== null && !/\$\{env\.\w+\}/.test(setting.text))
    report(finding('secret-in-file', null, { key: setting.key }));
  return filledSetting(setting, environment, report);
}
