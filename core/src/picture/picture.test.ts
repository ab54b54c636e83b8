import fc from 'fast-check';
import { cropTo, libraryPicture, pictureAddress, picturesNamed, ratioOf, shownAt } from '.';

const size = fc.integer({ min: 1, max: 20_000 });
const share = fc.double({ min: 0, max: 1, noNaN: true });

describe('what of a picture is shown', () => {
  test('lies within the picture, whatever the focus', () => {
    fc.assert(
      fc.property(
        size,
        size,
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        fc.record({ x: share, y: share, zoom: fc.double({ min: 1, max: 8, noNaN: true }) }),
        (width, height, ratio, focus) => {
          const crop = cropTo({ width, height }, ratio, focus);
          expect(crop.left).toBeGreaterThanOrEqual(0);
          expect(crop.top).toBeGreaterThanOrEqual(0);
          expect(crop.width).toBeGreaterThanOrEqual(1);
          expect(crop.height).toBeGreaterThanOrEqual(1);
          expect(crop.left + crop.width).toBeLessThanOrEqual(width);
          expect(crop.top + crop.height).toBeLessThanOrEqual(height);
        },
      ),
    );
  });

  test('is all of it at its own ratio, and half of it looked at twice as near', () => {
    const all = { width: 600, height: 400 };
    expect(cropTo(all, 1.5)).toEqual({ left: 0, top: 0, ...all });
    expect(cropTo(all, 1.5, { x: 0.5, y: 0.5, zoom: 2 })).toEqual({
      ...{ left: 150, top: 100, width: 300, height: 200 },
    });
    expect(cropTo(all, 1, { x: 1, y: 0, zoom: 1 })).toEqual({
      ...{ left: 200, top: 0, width: 400, height: 400 },
    });
  });
});

describe('a picture of the library in a template', () => {
  test('is named by an address that is read back', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[\w-]{1,40}$/),
        fc.integer({ min: 1, max: 99_999 }),
        fc.integer({ min: 1, max: 99_999 }),
        (id, width, height) => {
          const picture = { id, width, height };
          expect(libraryPicture(pictureAddress(picture))).toEqual(picture);
          expect(picturesNamed(JSON.stringify({ src: pictureAddress(picture) }))).toEqual([id]);
        },
      ),
    );
    expect(libraryPicture('https://q.example/library/a/1x1')).toBeNull();
    expect(libraryPicture('{{ shop.pictures }}/library/a/0x1')).toBeNull();
  });

  test('is asked for at the size needed and at twice of it, never larger than it is', () => {
    const shown = shownAt({ id: 'p', width: 900, height: 600 }, 552);
    expect(shown).toMatchObject({ width: 552, height: 368 });
    expect(shown.once).toMatch(/\/p\/552x368$/);
    expect(shown.twice).toMatch(/\/p\/900x600$/);
    const square = shownAt({ id: 'p', width: 900, height: 600 }, 200, ratioOf('1:1'));
    expect(square).toMatchObject({ width: 200, height: 200 });
    expect(square.twice).toMatch(/\/p\/400x400$/);
    expect(shownAt({ id: 'p', width: 900, height: 600 }, 700, 1).once).toMatch(/\/p\/600x600$/);
  });
});
