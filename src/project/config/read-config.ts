import type { SourceText } from '../../core/text/source-text.js';
import type { YamlResult } from '../../core/yaml/read-yaml.js';
import { placesIn } from '../../core/yaml/yaml-places.js';
import { keep, readKept } from '../files/kept.js';
import type { RawConfig } from './config-schema.js';

/** What the text of a configuration came to. */
type KeptConfig = Pick<YamlResult<RawConfig>, 'value' | 'tree'>;

/** Reads and validates a configuration, or takes what its text came to before. */
export async function readConfig(path: string, source: SourceText): Promise<YamlResult<RawConfig>> {
  const kept = await readKept<KeptConfig>('config', path, source.text);
  if (kept !== null) return { ...kept, findings: [], placeOf: placesIn(source, kept.tree) };
  const [{ readYaml }, { configSchema }] = await Promise.all([
    import('../../core/yaml/read-yaml.js'),
    import('./config-schema.js'),
  ]);
  const result = readYaml(source, configSchema);
  const { value, tree } = result;
  if (value !== null) await keep('config', path, source.text, { value, tree });
  return result;
}
