import { nameOf, shortened } from '../ask';
import { defineCheck, type Found } from '../define';
import { attributeOf, rawPictures } from '../written';

/** How wide a picture's tag says that it is, in pixels; null where it says nothing, or a share. */
function widthOf(tag: string): number | null {
  const style = attributeOf(tag, 'style') ?? '';
  const said =
    /(?:^|[;\s])width\s*:\s*(\d+)px/i.exec(style)?.[1] ??
    /^(\d+)(?:px)?$/.exec(attributeOf(tag, 'width') ?? '')?.[1];
  const isBound = /max-width\s*:/i.test(style);
  return said === undefined || isBound ? null : Number(said);
}

export const htmlPicture = defineCheck({
  name: 'html_picture',
  label: 'Pictures in HTML have alt text and fit',
  find: ({ template }) =>
    rawPictures(template).flatMap(({ node, path, tag }): Found[] => {
      const at = { severity: 'warning' as const, node, path };
      const name = nameOf(template, node);
      const src = shortened(attributeOf(tag, 'src') ?? tag, 40);
      const width = widthOf(tag);
      return [
        ...(attributeOf(tag, 'alt') === undefined
          ? [{ ...at, message: `A picture in “${name}” has no alt text (${src}).` }]
          : []),
        ...(width !== null && width > template.style.width
          ? [
              {
                ...at,
                message: `A picture in “${name}” is ${width} pixels wide, wider than the email (${template.style.width}).`,
              },
            ]
          : []),
      ];
    }),
});
