import { alreadyOrdered } from './alreadyOrdered';
import { altText } from './altText';
import { blankTag } from './blankTag';
import { changeUnseen } from './changeUnseen';
import { conditionAlways } from './conditionAlways';
import { conditionNever } from './conditionNever';
import { contrast } from './contrast';
import { contrastDark } from './contrastDark';
import { couponEnds } from './couponEnds';
import { couponUnknown } from './couponUnknown';
import { currencyMissing } from './currencyMissing';
import { cutOff } from './cutOff';
import { emptyBlock } from './emptyBlock';
import { emptyLink } from './emptyLink';
import { emptyList } from './emptyList';
import { expectations } from './expectations';
import { fallbackForAll } from './fallbackForAll';
import { fewPicks } from './fewPicks';
import { formulas } from './formulas';
import { hashLink } from './hashLink';
import { headingLevels } from './headingLevels';
import { heavyPicture } from './heavyPicture';
import { heldForAll } from './heldForAll';
import { htmlPicture } from './htmlPicture';
import { insecureLink } from './insecureLink';
import { language } from './language';
import { largePicture } from './largePicture';
import { leftoverWords } from './leftoverWords';
import { mailPrograms } from './mailPrograms';
import { missingPicture } from './missingPicture';
import { neverReached } from './neverReached';
import { oddLink } from './oddLink';
import { onlyPictures } from './onlyPictures';
import { otherTags } from './otherTags';
import { otherTotal } from './otherTotal';
import { outOfStock } from './outOfStock';
import { personInAddress } from './personInAddress';
import { pictureGone } from './pictureGone';
import { postalAddress } from './postalAddress';
import { previewBlank } from './previewBlank';
import { previewSame } from './previewSame';
import { priceHigher } from './priceHigher';
import { priceMissing } from './priceMissing';
import { productGone } from './productGone';
import { sameLink } from './sameLink';
import { serviceAdvert } from './serviceAdvert';
import { shownTwice } from './shownTwice';
import { smallText } from './smallText';
import { staleSource } from './staleSource';
import { subjectBlank } from './subjectBlank';
import { subjectCapitals } from './subjectCapitals';
import { subjectCut } from './subjectCut';
import { subjectLong } from './subjectLong';
import { subjectRepeats } from './subjectRepeats';
import { testAddress } from './testAddress';
import { unboundedList } from './unboundedList';
import { unequalPictures } from './unequalPictures';
import { unsubscribe } from './unsubscribe';
import { vagueLink } from './vagueLink';
import { weight } from './weight';
import type { Check } from '../define';

/** Everything that can be wrong with a template, in the order in which it is told. Adding one touches its file and this list. */
export const CHECKS: readonly Check[] = [
  formulas,
  expectations,
  heldForAll,
  cutOff,
  blankTag,
  fallbackForAll,
  emptyList,
  missingPicture,
  leftoverWords,
  otherTags,
  otherTotal,
  emptyLink,
  emptyBlock,
  oddLink,
  hashLink,
  testAddress,
  insecureLink,
  personInAddress,
  sameLink,
  vagueLink,
  altText,
  onlyPictures,
  pictureGone,
  htmlPicture,
  heavyPicture,
  largePicture,
  unequalPictures,
  subjectBlank,
  subjectLong,
  subjectCut,
  subjectCapitals,
  subjectRepeats,
  previewBlank,
  previewSame,
  weight,
  contrast,
  contrastDark,
  headingLevels,
  smallText,
  couponUnknown,
  couponEnds,
  priceMissing,
  currencyMissing,
  priceHigher,
  productGone,
  changeUnseen,
  outOfStock,
  shownTwice,
  fewPicks,
  alreadyOrdered,
  unsubscribe,
  postalAddress,
  serviceAdvert,
  conditionNever,
  conditionAlways,
  neverReached,
  language,
  unboundedList,
  staleSource,
  mailPrograms,
];
