import { defineCheck, type Found } from '../define';
import { libraryPictures } from '../libraryPictures';

/** Ratios that differ by less look the same. */
const NEAR = 1.08;

export const unequalPictures = defineCheck({
  name: 'unequal_pictures',
  label: 'Pictures in one row have one shape',
  find(context) {
    const rows = new Map<string, { ratio: number; node: string; path: string }[]>();
    const sections = new Map(context.template.sections.map((one) => [one.id, one]));
    for (const { node, path, picture, section } of libraryPictures(context)) {
      if ((sections.get(section)?.columns.length ?? 1) < 2) continue;
      rows.set(section, [
        ...(rows.get(section) ?? []),
        { ratio: picture.width / picture.height, node, path },
      ]);
    }
    return [...rows.values()].flatMap((row): Found[] => {
      const ratios = row.map(({ ratio }) => ratio);
      const [first] = row;
      if (!first || Math.max(...ratios) / Math.min(...ratios) < NEAR) return [];
      return [
        {
          ...{ severity: 'warning', node: first.node, path: first.path },
          message: `${row.length} pictures stand in one row and have different shapes: the row will be uneven. Crop them to one ratio.`,
        },
      ];
    });
  },
});
