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
import { cutOff } from './cutOff';
import { emptyLink } from './emptyLink';
import { emptyList } from './emptyList';
import { expectations } from './expectations';
import { fallbackForAll } from './fallbackForAll';
import { formulas } from './formulas';
import { hashLink } from './hashLink';
import { heavyPicture } from './heavyPicture';
import { heldForAll } from './heldForAll';
import { insecureLink } from './insecureLink';
import { language } from './language';
import { largePicture } from './largePicture';
import { leftoverWords } from './leftoverWords';
import { mailPrograms } from './mailPrograms';
import { missingPicture } from './missingPicture';
import { neverReached } from './neverReached';
import { otherTotal } from './otherTotal';
import { outOfStock } from './outOfStock';
import { personInAddress } from './personInAddress';
import { postalAddress } from './postalAddress';
import { previewBlank } from './previewBlank';
import { previewSame } from './previewSame';
import { priceHigher } from './priceHigher';
import { priceMissing } from './priceMissing';
import { sameLink } from './sameLink';
import { productGone } from './productGone';
import { serviceAdvert } from './serviceAdvert';
import { shownTwice } from './shownTwice';
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
  otherTotal,
  emptyLink,
  hashLink,
  testAddress,
  insecureLink,
  personInAddress,
  sameLink,
  altText,
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
  couponUnknown,
  couponEnds,
  priceMissing,
  priceHigher,
  productGone,
  changeUnseen,
  outOfStock,
  shownTwice,
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
