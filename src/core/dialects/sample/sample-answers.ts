import type { LossAnswers } from '../write/tag-texts.js';
import type { Expression } from '../../expressions/expression.js';
import { evaluate } from '../../expressions/evaluate.js';
import { Scope } from '../../expressions/scope.js';
import { isPresent, textOf, type BuildValue } from '../../expressions/values.js';
import { SourceText } from '../../text/source-text.js';
import type { SampleRecipient } from './fill-sample.js';

/** What a sample recipient makes of expressions: it stands in for what a dialect cannot say. */
export function sampleAnswers({ values, language }: SampleRecipient): LossAnswers {
  const scope = new Scope(values, null);
  const source = new SourceText('sample', '');
  const value = (expression: Expression): BuildValue | undefined =>
    evaluate(expression, {
      scope,
      source,
      language,
      fields: new Set(),
      keepTags: (text) => text,
      // What has no sample counts as missing.
      report: () => undefined,
    });
  return {
    holds: (condition) => isPresent(value(condition)),
    sample: (expression) => textOf(value(expression)) ?? '',
  };
}
