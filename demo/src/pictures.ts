import { Resvg } from '@resvg/resvg-js';
import type { Category, DemoProduct } from './catalog';
import { seeded, type Random } from './random';

const GROUND: Record<Category, string[]> = {
  Seeds: ['#e8e3cf', '#dde6d3'],
  Bulbs: ['#efe1dc', '#e6e0ec'],
  Pots: ['#f0e6da', '#e4e8e3'],
  Tools: ['#e1e7e6', '#ebe6dc'],
  Books: ['#e9e4da', '#dfe5e9'],
  Workshops: ['#ece7d6', '#e3eae0'],
};
const PETALS = ['#b4532a', '#7b3f6b', '#c98a2b', '#3f6f8a', '#a8324a', '#7d8f3c'];

function leaf(x: number, y: number, length: number, angle: number, colour: string): string {
  return `<path d="M0 0 Q ${length / 2} ${-length / 3} ${length} 0 Q ${length / 2} ${length / 3} 0 0" fill="${colour}" transform="translate(${x} ${y}) rotate(${angle})"/>`;
}

function flower(r: Random): string {
  const petal = r.pick(PETALS);
  const count = r.whole(5, 9);
  const petals = Array.from(
    { length: count },
    (_, i) =>
      `<ellipse cx="200" cy="112" rx="22" ry="44" fill="${petal}" opacity="0.9" transform="rotate(${(360 / count) * i} 200 150)"/>`,
  );
  return `<path d="M200 150 Q ${190 + r.whole(0, 20)} 250 200 350" stroke="#3f6b4c" stroke-width="7" fill="none"/>${leaf(200, 290, 80, -35, '#4d7d5a')}${leaf(200, 310, 70, 210, '#5d8d66')}${petals.join('')}<circle cx="200" cy="150" r="20" fill="#e0b64b"/>`;
}

function bulb(r: Random): string {
  const colour = r.pick(['#b98a5a', '#a8734a', '#8f5f6f', '#c2a06b']);
  return `<path d="M200 90 C 250 180 310 210 300 270 C 290 330 110 330 100 270 C 90 210 150 180 200 90 Z" fill="${colour}"/><path d="M200 110 C 190 200 170 260 175 318 M200 110 C 215 200 235 260 228 318" stroke="#00000022" stroke-width="4" fill="none"/><path d="M150 322 q 10 30 -8 44 M200 326 q 0 24 6 44 M250 322 q -6 30 10 42" stroke="#9b8a6a" stroke-width="3" fill="none"/>`;
}

function pot(r: Random): string {
  const clay = r.pick(['#b5643c', '#c27a4e', '#9a8f84', '#7f8f86']);
  const wide = r.whole(70, 105);
  return `<path d="M${200 - wide} 150 H ${200 + wide} L ${200 + wide * 0.68} 330 H ${200 - wide * 0.68} Z" fill="${clay}"/><rect x="${190 - wide}" y="126" width="${2 * wide + 20}" height="34" rx="5" fill="${clay}"/><rect x="${190 - wide}" y="152" width="${2 * wide + 20}" height="8" fill="#00000022"/>${leaf(200, 128, 90, -70, '#54845c')}${leaf(196, 128, 80, -115, '#6b9a6a')}`;
}

function tool(r: Random): string {
  const tilt = r.whole(-24, 24);
  return `<g transform="rotate(${tilt} 200 200)"><rect x="189" y="70" width="22" height="150" rx="10" fill="${r.pick(['#b98d5b', '#a57a4a', '#c9a36e'])}"/><rect x="192" y="214" width="16" height="34" fill="#6d7678"/><path d="M160 246 H 240 L 226 326 Q 200 352 174 326 Z" fill="#87918f"/><path d="M200 250 V 336" stroke="#6d7678" stroke-width="4"/></g>`;
}

function book(r: Random): string {
  const cover = r.pick(PETALS);
  return `<rect x="118" y="84" width="164" height="232" rx="5" fill="${cover}"/><rect x="118" y="84" width="20" height="232" fill="#00000033"/><rect x="160" y="120" width="98" height="10" fill="#fff" opacity="0.8"/><rect x="160" y="142" width="66" height="7" fill="#fff" opacity="0.6"/>${leaf(178, 264, 86, -50, '#ffffffcc')}`;
}

function workshop(r: Random): string {
  return `<rect x="96" y="230" width="208" height="16" fill="#a57a4a"/><path d="M116 246 V 330 M284 246 V 330" stroke="#8a6239" stroke-width="12"/><rect x="130" y="180" width="46" height="50" fill="${r.pick(PETALS)}"/><path d="M220 230 q 24 -90 50 0" fill="#54845c"/><circle cx="200" cy="112" r="34" fill="#e0b64b"/>`;
}

const DRAW: Record<Category, (r: Random) => string> = {
  Seeds: flower,
  Bulbs: bulb,
  Pots: pot,
  Tools: tool,
  Books: book,
  Workshops: workshop,
};

/** Draws a product as a PNG of 320 by 320 pixels. */
export function drawProduct(product: Pick<DemoProduct, 'sku' | 'category'>): Uint8Array {
  const category = product.category as Category;
  const r = seeded(
    [...product.sku].reduce((sum, char) => sum * 31 + (char.codePointAt(0) ?? 0), 17),
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="320" height="320" viewBox="0 0 400 400"><rect width="400" height="400" fill="${r.pick(GROUND[category])}"/><ellipse cx="200" cy="348" rx="120" ry="14" fill="#00000014"/>${DRAW[category](r)}</svg>`;
  return new Resvg(svg, { font: { loadSystemFonts: false } }).render().asPng();
}

/** The mark of the house: a quill that is a sprig. */
export function drawLogo(): Uint8Array {
  const leaves = [0, 1, 2, 3].flatMap((i) => [
    leaf(70 + i * 34, 78 - i * 12, 34, -80, '#2f5d43'),
    leaf(70 + i * 34, 78 - i * 12, 30, 30, '#4d7d5a'),
  ]);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="240" height="120"><path d="M30 96 Q 110 66 214 20" stroke="#2f5d43" stroke-width="5" fill="none"/>${leaves.join('')}</svg>`;
  return new Resvg(svg, { font: { loadSystemFonts: false } }).render().asPng();
}

/** Pictures of the house for its library, each with what is said of it. */
export const SCENES = [
  { name: 'The long bed', alt: 'The long bed in June', tags: ['Garden'], category: 'Seeds' },
  { name: 'Pots on the shelf', alt: 'Clay pots on a shelf', tags: ['Shop'], category: 'Pots' },
  { name: 'The tool wall', alt: 'Tools hung on a wall', tags: ['Shop'], category: 'Tools' },
] as const satisfies readonly { name: string; alt: string; tags: string[]; category: Category }[];

/** A wide picture of several things of a category, 1200 by 600 pixels. */
export function drawScene(category: Category): Uint8Array {
  const r = seeded(category.length * 101);
  const things = [0, 1, 2, 3, 4].map(
    (i) =>
      `<g transform="translate(${i * 230 - 10} ${90 + (i % 2) * 50})">${DRAW[category](r)}</g>`,
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="600"><rect width="1200" height="600" fill="${GROUND[category][0]}"/><rect y="470" width="1200" height="130" fill="#00000012"/>${things.join('')}</svg>`;
  return new Resvg(svg, { font: { loadSystemFonts: false } }).render().asPng();
}
