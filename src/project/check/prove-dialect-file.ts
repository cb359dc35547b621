import { failedExchanges } from '../../core/delivery/prove-exchanges.js';
import { failedMappings, failedSamples } from '../../core/dialects/file/prove-dialect.js';
import type { ReadDialect } from '../../core/dialects/file/read-dialect.js';
import { finding, type Finding } from '../../core/findings/finding.js';

/**
 * What of a dialect file its own samples and exchanges prove wrong. What is wrong with the mapping of names comes before the
 * samples, which fail for its sake.
 */
export function proofFindings({ dialect, placeOf }: ReadDialect): Finding[] {
  const mappings = failedMappings(dialect).map(({ name, found }) =>
    finding('mapping-read', placeOf(['fields', name]), { name, found }),
  );
  if (mappings.length > 0) return mappings;
  const exchanges = failedExchanges(dialect).map(({ index, part, detail }) =>
    finding(
      part === 'request' ? 'exchange-request' : 'exchange-taken',
      placeOf(['exchanges', index, part === 'request' ? 'request' : 'answer']),
      { detail },
    ),
  );
  const samples = failedSamples(dialect).map(({ sample, direction, found }) => {
    const index = dialect.samples.indexOf(sample);
    const place = placeOf(['samples', index, direction === 'written' ? 'written' : 'neutral']);
    return finding(direction === 'written' ? 'sample-written' : 'sample-read', place, { found });
  });
  return [...samples, ...exchanges];
}
