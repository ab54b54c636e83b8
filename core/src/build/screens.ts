/** Phones are narrower than this, in pixels. */
const WIDE = 480;

/** Cards: side by side on wide screens, two or one beside each other on phones. */
function cards(): { everywhere: string; wide: string } {
  const widths = [1, 2, 3, 4].map(
    (n) => `.carafe-card-${n}{width:${Math.floor(10000 / n) / 100}% !important}`,
  );
  return {
    everywhere:
      '.carafe-card-2,.carafe-card-4{width:50% !important}.carafe-phone-1{width:100% !important}.carafe-phone-2{width:50% !important}',
    wide: widths.join(''),
  };
}

/** Pictures of a long row stand two in a row on phones. */
const GALLERY =
  '.carafe-pictures{display:inline-block !important;width:50% !important;box-sizing:border-box !important}.carafe-pictures img{max-width:none !important}';
/** Where two cards stand beside each other on a phone, each has its picture over its words. */
const STACKED =
  '.carafe-stacked{display:block !important;width:100% !important;padding:0 !important}';
/** Tables of lines show quantity and unit price under the name, in place of their columns. */
const LINES =
  '.carafe-wide{display:none !important}.carafe-narrow{display:block !important;max-height:none !important;overflow:visible !important}';

/** The style sheet of every email: what stands otherwise on a narrow screen. Programs without it show the wide one. */
export function screenStyles(): string {
  const { everywhere, wide } = cards();
  return `${everywhere}@media only screen and (min-width:${WIDE}px){${wide}}@media only screen and (max-width:${WIDE - 1}px){${GALLERY}${STACKED}${LINES}}`;
}
