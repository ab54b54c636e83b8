export { CENTRE, cropTo, type Crop, type Focus } from './crop';
export {
  ICON_KINDS,
  ICON_SHAPES,
  ICONS,
  iconAddress,
  iconSvg,
  playMarkSvg,
  type IconKind,
  type IconShape,
} from './icons';
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
export { isSvg, svgProblem } from './svgBounds';
