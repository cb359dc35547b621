/**
 * The library: few functions, each from text and options to `{ value, findings }`. All of it is pure: no files, network,
 * process, clock or terminal. See docs/library.md.
 */
export { compile, type CompileFiles, type CompileOptions } from './library/compile.js';
export { convert, type ConvertOptions } from './library/convert.js';
export { readDialect } from './library/dialect.js';
export { inline, type InlineOptions } from './library/inline.js';
export { plainText, type PlainTextOptions } from './library/plain-text.js';
export { proposeSlices, type ProposedCut, type ProposeSlicesOptions } from './library/propose-slices.js';
export type { Result, Text } from './library/result.js';

// What their results are made of.
export { fixOf, isError, reasonOf, severityOf, type Finding, type Place } from './findings/finding.js';
export { catalogue, type FindingCode, type Severity } from './findings/catalogue.js';
export { plainPaint, renderFinding, type FindingView, type Paint } from './findings/code-frame.js';
export { neutralDialect, type Dialect, type FooterTexts } from './dialects/dialect.js';
export type { Conversion, ConvertedTag, ConversionVerdict } from './dialects/convert/convert-tags.js';
export type { FooterMode } from './dialects/convert/footer.js';
export type { MergeField, MergeFields } from './dialects/model.js';
export { sampleRecipient, type SampleRecipient } from './dialects/sample/fill-sample.js';
export { sampleAnswers } from './dialects/sample/sample-answers.js';
export type { LossAnswers } from './dialects/write/tag-texts.js';
export type { TagDelimiters } from './html/tags.js';
export type { PictureSize } from './layout/content/room.js';
export type { LinkParameter } from './message/link-parameters.js';
export type { RenderedMessage } from './message/render-message.js';
export type { LinkStyle } from './plaintext/options.js';
export type { Noise } from './slices/find-cuts.js';
export type { Pixels, Region } from './slices/pixels.js';
export type { SourceText } from './text/source-text.js';
export type { Span } from './text/span.js';
