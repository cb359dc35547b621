import type { Dialect } from '../../core/dialects/dialect.js';
import type { EngineName, Feature } from '../../core/engines/engine.js';
import type { Rule } from '../../core/check/facts/rule.js';
import type { CheckSettings } from '../../core/check/settings.js';
import type { Report } from '../../core/findings/finding.js';
import type { Config, Destination } from '../config/config.js';
import { shippedDialects } from '../config/dialects.js';
import { engineFeatures } from '../config/engines.js';

/** What pages are checked with. */
export interface CheckBench {
  readonly rules: readonly Rule[];
  readonly features: readonly Feature[];
  /** What platforms write, which in a message is written otherwise. */
  readonly dialects: readonly Dialect[];
  /** The engines that are asked for; null for all. */
  readonly engines: readonly EngineName[] | null;
  /** The subjects of the messages that have been checked, by their names. */
  readonly subjects: Map<string, string>;
}

/** Loads the rules and the table of engines. Null, and reported, where that cannot be read. */
export async function checkBench(engines: readonly EngineName[] | null, report: Report): Promise<CheckBench | null> {
  const [{ allRules }, features, shipped] = await Promise.all([
    import('../../core/check/all-rules.js'),
    engineFeatures(report),
    shippedDialects(),
  ]);
  const dialects = shipped.filter(({ verbatim }) => !verbatim);
  return features === null ? null : { rules: allRules, features, dialects, engines, subjects: new Map() };
}

/** What a project, and one of its destinations, make of findings. */
export function settingsFor({ checks }: Config, destination: Destination | null): CheckSettings {
  return { ...checks, ...destination?.checks };
}
