/** The icons that links can have, as strokes on a grid of 24 by 24, each with a colour of its own. */
export const ICONS = {
  shop: {
    name: 'Shop',
    colour: '#1f5f5b',
    path: 'M4 9l1.500-4h13L20 9 M4 9h16v1a2.700 2.700 0 0 1-5.300 0 2.700 2.700 0 0 1-5.400 0 2.700 2.700 0 0 1-5.300 0z M6 13v6h12v-6',
  },
  web: {
    name: 'Website',
    colour: '#3a5a8c',
    path: 'M12 4a8 8 0 1 0 0 16a8 8 0 0 0 0-16 M4 12h16 M12 4c3 2.500 3 13.500 0 16 M12 4c-3 2.500-3 13.500 0 16',
  },
  journal: {
    name: 'Journal',
    colour: '#7a5230',
    path: 'M5 5h9a2 2 0 0 1 2 2v12H7a2 2 0 0 1-2-2z M16 9h3v8a2 2 0 0 1-3 2 M8 9h5 M8 12h5 M8 15h3',
  },
  pictures: {
    name: 'Pictures',
    colour: '#8a3f63',
    path: 'M4 6h16v12H4z M4 15l4-4 4 4 3-3 5 4 M15.500 9.500h.01',
  },
  video: { name: 'Video', colour: '#a34821', path: 'M4 7h11v10H4z M15 11l5-3v8l-5-3' },
  talk: {
    name: 'Talk',
    colour: '#4d6b2f',
    path: 'M4 6h16v10h-8l-4 4v-4H4z M8 10h8 M8 13h5',
  },
  mail: { name: 'Mail', colour: '#2f5d75', path: 'M4 6h16v12H4z M4 7l8 6 8-6' },
  phone: {
    name: 'Telephone',
    colour: '#56704a',
    path: 'M6 4h3l1.500 4-2 1.500a10 10 0 0 0 5.500 5.500l1.500-2 4 1.500v3a1.500 1.500 0 0 1-1.600 1.500A15.500 15.500 0 0 1 4.500 5.600 1.500 1.500 0 0 1 6 4',
  },
  map: {
    name: 'Where we are',
    colour: '#95622a',
    path: 'M12 20c4-4.500 6-7.500 6-10a6 6 0 0 0-12 0c0 2.500 2 5.500 6 10z M12 8a2 2 0 1 0 0 4a2 2 0 0 0 0-4',
  },
  dates: {
    name: 'Dates',
    colour: '#5b4a86',
    path: 'M5 6h14v13H5z M5 10h14 M9 4v4 M15 4v4 M9 14h2 M14 14h1',
  },
  feed: {
    name: 'Feed',
    colour: '#b06f16',
    path: 'M6 18h.01 M5 12a7 7 0 0 1 7 7 M5 6a13 13 0 0 1 13 13',
  },
} as const;

export type IconKind = keyof typeof ICONS;
export const ICON_KINDS = Object.keys(ICONS) as IconKind[];
export const ICON_SHAPES = ['round', 'square', 'plain'] as const;
export type IconShape = (typeof ICON_SHAPES)[number];

/** Icons are drawn so large, in pixels: twice of what mails show. */
export const ICON_SIZE = 96;

/** The address of an icon as running text; `colour` is `#rrggbb`. */
export function iconAddress(kind: IconKind, shape: IconShape, colour: string): string {
  return `{{ shop.pictures }}/icons/${shape}/${colour.slice(1).toLowerCase()}/${kind}.png`;
}

/** An icon as SVG: light strokes on a coloured ground, or coloured strokes alone. */
export function iconSvg(kind: IconKind, shape: IconShape, colour: string): string {
  const isPlain = shape === 'plain';
  const ground = {
    round: `<circle cx="24" cy="24" r="24" fill="${colour}"/>`,
    square: `<rect width="48" height="48" rx="8" fill="${colour}"/>`,
    plain: '',
  }[shape];
  const place = isPlain ? 'scale(2)' : 'translate(10 10) scale(1.167)';
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${ICON_SIZE}" height="${ICON_SIZE}" viewBox="0 0 48 48">${ground}<g transform="${place}"><path d="${ICONS[kind].path}" fill="none" stroke="${isPlain ? colour : '#ffffff'}" stroke-width="1.7" stroke-linecap="round" stroke-linejoin="round"/></g></svg>`;
}

/** The mark that says that a picture leads to a video, for a picture of a size. */
export function playMarkSvg(width: number, height: number): string {
  const radius = Math.round(Math.min(width, height) * 0.14);
  const [x, y] = [width / 2, height / 2];
  const side = radius * 0.5;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><circle cx="${x}" cy="${y}" r="${radius}" fill="#10262b" fill-opacity="0.78" stroke="#ffffff" stroke-width="${Math.max(1, radius / 14)}"/><path d="M${x - side * 0.7} ${y - side}L${x + side} ${y}L${x - side * 0.7} ${y + side}z" fill="#ffffff"/></svg>`;
}
