import { children, parsedFormula, type Node } from '../../formula';
import { pickedLoop, picksOf } from '../../sentence';
import { nameOf } from '../ask';
import { offeringLoops } from '../offered';
import { defineCheck, products, type Found } from '../define';

const isSku = (node: Node): boolean =>
  (node.type === 'name' || node.type === 'field') && node.name === 'sku';

/** The SKUs that a filter lets through by name: `sku in ["A", "B"]`, `sku = "A"`; not those that it leaves out. */
function namedIn(node: Node): string[] {
  if (node.type === 'not') return [];
  if (node.type === 'binary' && isSku(node.left)) {
    const { op, right } = node;
    const named = op === 'in' && right.type === 'list' ? right.items : op === '=' ? [right] : [];
    return named.flatMap((one) => (one.type === 'text' ? [one.value] : []));
  }
  return children(node).flatMap(namedIn);
}

export const productGone = defineCheck({
  name: 'product_gone',
  label: 'Every product picked by hand is in the catalog',
  find({ template, hasProduct }) {
    if (!hasProduct) return [];
    return offeringLoops(template).flatMap(({ node, path, loop }): Found[] => {
      const parsed = parsedFormula(loop.where ?? '');
      const named = parsed.ok ? [...new Set(namedIn(parsed.value))] : [];
      const gone = named.filter((sku) => !hasProduct(sku));
      if (gone.length === 0) return [];
      const left = picksOf(loop)?.filter((sku) => !gone.includes(sku)) ?? [];
      const outcome = gone.length === 1 ? 'it is not shown' : 'they are not shown';
      return [
        {
          ...{ severity: 'warning', node: node.id, path: `${path}.where` },
          message: `“${nameOf(template, node.id)}” names ${products(gone.length)} that ${gone.length === 1 ? 'is' : 'are'} in no catalog any more: ${gone.map((sku) => `“${sku}”`).join(', ')}; ${outcome}.`,
          // Without any that is left, the list would show the whole catalog.
          ...(left.length > 0 && {
            repair: {
              label: 'Keep the others',
              put: { node: node.id, path, value: pickedLoop(loop, left) },
            },
          }),
        },
      ];
    });
  },
});
