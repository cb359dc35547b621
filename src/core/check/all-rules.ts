// Written by scripts/checks.mjs from the files of rules/.
import type { Rule } from './facts/rule.js';
import { altFileName } from './rules/alt-file-name.js';
import { altLong } from './rules/alt-long.js';
import { altMissing } from './rules/alt-missing.js';
import { altRepeats } from './rules/alt-repeats.js';
import { anchorCase } from './rules/anchor-case.js';
import { anchorMissing } from './rules/anchor-missing.js';
import { anchorTwice } from './rules/anchor-twice.js';
import { capitalsLong } from './rules/capitals-long.js';
import { cellStray } from './rules/cell-stray.js';
import { charsetLate } from './rules/charset-late.js';
import { charsetMissing } from './rules/charset-missing.js';
import { charsetOther } from './rules/charset-other.js';
import { commentNested } from './rules/comment-nested.js';
import { conditionalOpen } from './rules/conditional-open.js';
import { conditionalStray } from './rules/conditional-stray.js';
import { contrastDark } from './rules/contrast-dark.js';
import { contrastInverted } from './rules/contrast-inverted.js';
import { contrastLow } from './rules/contrast-low.js';
import { doctypeMissing } from './rules/doctype-missing.js';
import { elementRemoved } from './rules/element-removed.js';
import { engineAtRule } from './rules/engine-at-rule.js';
import { engineAttribute } from './rules/engine-attribute.js';
import { engineElement } from './rules/engine-element.js';
import { enginePicture } from './rules/engine-picture.js';
import { engineProperty } from './rules/engine-property.js';
import { engineSelector } from './rules/engine-selector.js';
import { entityOpen } from './rules/entity-open.js';
import { fontGenericMissing } from './rules/font-generic-missing.js';
import { fontUnused } from './rules/font-unused.js';
import { headHeavy } from './rules/head-heavy.js';
import { headingNone } from './rules/heading-none.js';
import { headingSkipped } from './rules/heading-skipped.js';
import { htmlHeavy } from './rules/html-heavy.js';
import { idTwice } from './rules/id-twice.js';
import { langMissing } from './rules/lang-missing.js';
import { lineLong } from './rules/line-long.js';
import { linkByColor } from './rules/link-by-color.js';
import { linkEmpty } from './rules/link-empty.js';
import { linkHostWrong } from './rules/link-host-wrong.js';
import { linkInsecure } from './rules/link-insecure.js';
import { linkLong } from './rules/link-long.js';
import { linkPlaceholder } from './rules/link-placeholder.js';
import { linkRelative } from './rules/link-relative.js';
import { linkSchemeMissing } from './rules/link-scheme-missing.js';
import { linkSchemeUnknown } from './rules/link-scheme-unknown.js';
import { linkScript } from './rules/link-script.js';
import { linkSilent } from './rules/link-silent.js';
import { linkUser } from './rules/link-user.js';
import { linkWordsAddress } from './rules/link-words-address.js';
import { linkWordsSame } from './rules/link-words-same.js';
import { linkWordsVague } from './rules/link-words-vague.js';
import { mailAddressMalformed } from './rules/mail-address-malformed.js';
import { mostlyPicture } from './rules/mostly-picture.js';
import { pageInPage } from './rules/page-in-page.js';
import { parameterTwice } from './rules/parameter-twice.js';
import { phoneMalformed } from './rules/phone-malformed.js';
import { pictureAddress } from './rules/picture-address.js';
import { pictureBlurred } from './rules/picture-blurred.js';
import { pictureDark } from './rules/picture-dark.js';
import { pictureInsecure } from './rules/picture-insecure.js';
import { pictureKind } from './rules/picture-kind.js';
import { pictureOversized } from './rules/picture-oversized.js';
import { pictureWeighty } from './rules/picture-weighty.js';
import { picturesWeight } from './rules/pictures-weight.js';
import { postalMissing } from './rules/postal-missing.js';
import { preheaderLong } from './rules/preheader-long.js';
import { preheaderMissing } from './rules/preheader-missing.js';
import { preheaderRepeats } from './rules/preheader-repeats.js';
import { preheaderShort } from './rules/preheader-short.js';
import { quoteCurly } from './rules/quote-curly.js';
import { regionEmpty } from './rules/region-empty.js';
import { regionInTable } from './rules/region-in-table.js';
import { regionNested } from './rules/region-nested.js';
import { scrollSideways } from './rules/scroll-sideways.js';
import { senderDeaf } from './rules/sender-deaf.js';
import { senderUnfilled } from './rules/sender-unfilled.js';
import { sizeMissing } from './rules/size-missing.js';
import { starterAddress } from './rules/starter-address.js';
import { styleAttributeHeavy } from './rules/style-attribute-heavy.js';
import { styleSheetLinked } from './rules/style-sheet-linked.js';
import { subjectCapitals } from './rules/subject-capitals.js';
import { subjectLong } from './rules/subject-long.js';
import { subjectNoFallback } from './rules/subject-no-fallback.js';
import { subjectSame } from './rules/subject-same.js';
import { tableContentStray } from './rules/table-content-stray.js';
import { tableHeadersMissing } from './rules/table-headers-missing.js';
import { tableInLink } from './rules/table-in-link.js';
import { tableRoleMissing } from './rules/table-role-missing.js';
import { tablesDeep } from './rules/tables-deep.js';
import { tagAddress } from './rules/tag-address.js';
import { tagFileName } from './rules/tag-file-name.js';
import { tagNoFallback } from './rules/tag-no-fallback.js';
import { tagOfPlatform } from './rules/tag-of-platform.js';
import { tagPlace } from './rules/tag-place.js';
import { targetSmall } from './rules/target-small.js';
import { targetsClose } from './rules/targets-close.js';
import { textGarbled } from './rules/text-garbled.js';
import { textJustified } from './rules/text-justified.js';
import { textLinksDiffer } from './rules/text-links-differ.js';
import { textMissing } from './rules/text-missing.js';
import { textNearEmpty } from './rules/text-near-empty.js';
import { textSmall } from './rules/text-small.js';
import { titleMissing } from './rules/title-missing.js';
import { unsubscribeHidden } from './rules/unsubscribe-hidden.js';
import { unsubscribePicture } from './rules/unsubscribe-picture.js';
import { unsubscribePlaceholder } from './rules/unsubscribe-placeholder.js';

/** Every rule of the check, by its code. */
export const allRules: readonly Rule[] = [
  altFileName,
  altLong,
  altMissing,
  altRepeats,
  anchorCase,
  anchorMissing,
  anchorTwice,
  capitalsLong,
  cellStray,
  charsetLate,
  charsetMissing,
  charsetOther,
  commentNested,
  conditionalOpen,
  conditionalStray,
  contrastDark,
  contrastInverted,
  contrastLow,
  doctypeMissing,
  elementRemoved,
  engineAtRule,
  engineAttribute,
  engineElement,
  enginePicture,
  engineProperty,
  engineSelector,
  entityOpen,
  fontGenericMissing,
  fontUnused,
  headHeavy,
  headingNone,
  headingSkipped,
  htmlHeavy,
  idTwice,
  langMissing,
  lineLong,
  linkByColor,
  linkEmpty,
  linkHostWrong,
  linkInsecure,
  linkLong,
  linkPlaceholder,
  linkRelative,
  linkSchemeMissing,
  linkSchemeUnknown,
  linkScript,
  linkSilent,
  linkUser,
  linkWordsAddress,
  linkWordsSame,
  linkWordsVague,
  mailAddressMalformed,
  mostlyPicture,
  pageInPage,
  parameterTwice,
  phoneMalformed,
  pictureAddress,
  pictureBlurred,
  pictureDark,
  pictureInsecure,
  pictureKind,
  pictureOversized,
  pictureWeighty,
  picturesWeight,
  postalMissing,
  preheaderLong,
  preheaderMissing,
  preheaderRepeats,
  preheaderShort,
  quoteCurly,
  regionEmpty,
  regionInTable,
  regionNested,
  scrollSideways,
  senderDeaf,
  senderUnfilled,
  sizeMissing,
  starterAddress,
  styleAttributeHeavy,
  styleSheetLinked,
  subjectCapitals,
  subjectLong,
  subjectNoFallback,
  subjectSame,
  tableContentStray,
  tableHeadersMissing,
  tableInLink,
  tableRoleMissing,
  tablesDeep,
  tagAddress,
  tagFileName,
  tagNoFallback,
  tagOfPlatform,
  tagPlace,
  targetSmall,
  targetsClose,
  textGarbled,
  textJustified,
  textLinksDiffer,
  textMissing,
  textNearEmpty,
  textSmall,
  titleMissing,
  unsubscribeHidden,
  unsubscribePicture,
  unsubscribePlaceholder,
];
