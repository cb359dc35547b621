import type { Finding } from '../findings/finding.js';
import type { SourceText } from '../text/source-text.js';
import { about, group, named, needed, oneOf, text, type Held } from '../yaml/keys.js';
import { readYaml } from '../yaml/read-yaml.js';
import { fallbacks, featureKinds, harms, supports, type Feature } from './engine.js';

const level = needed(oneOf(...supports));

const feature = group({
  support: about(
    'What each engine makes of it',
    needed(group({ word: level, 'strict-webmail': level, webmail: level, app: level, webkit: level })),
  ),
  harm: about('What readers lose where it does not work', needed(oneOf(...harms))),
  fallback: about('What makes up for it on the same element', oneOf(...fallbacks)),
  happens: about('What happens where it does not work', needed(text())),
  instead: about('What to write instead', needed(text())),
});

const features = needed(named(/\S/, feature));

/** The table of engines, as it is written. */
const schema = group({
  properties: features,
  'at-rules': features,
  selectors: features,
  elements: features,
  attributes: features,
  pictures: features,
});

export type RawEngines = NonNullable<Held<typeof schema>>;

/** Reads the table of what engines make of features. */
export function readEngines(source: SourceText): {
  readonly features: readonly Feature[] | null;
  readonly findings: readonly Finding[];
} {
  const { value, findings } = readYaml(source, schema);
  if (value === null || value === undefined) return { features: null, findings };
  const all = featureKinds.flatMap((kind) =>
    Object.entries(value[kind]).map(([name, raw]): Feature => {
      const { support, harm, fallback = null, happens, instead } = raw;
      return { kind, name, support, harm, fallback, happens, instead };
    }),
  );
  return { features: all, findings };
}
