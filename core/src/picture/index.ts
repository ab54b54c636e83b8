export { CENTRE, cropTo, type Crop, type Focus } from './crop';
export {
  libraryPicture,
  MAX_DRAWN,
  pictureAddress,
  picturesNamed,
  RATIOS,
  ratioOf,
  shownAt,
  type LibraryPicture,
  type Ratio,
  type Shown,
} from './reference';
