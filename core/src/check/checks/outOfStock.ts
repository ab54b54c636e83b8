import { fieldOf } from '../../formula';
import { named, offered, offeringLoops, offeringNode } from '../offered';
import { defineCheck, products, type CheckContext, type Repair } from '../define';

/** The first list that says nothing of stock leaves out what there is none of. */
function leavingOut({ template }: CheckContext): { repair: Repair } | null {
  const open = offeringLoops(template).find(({ loop }) => !/\bin_stock\b/.test(loop.where ?? ''));
  if (!open) return null;
  const { node, path, loop } = open;
  const inStock = `${loop.as}.in_stock != false`;
  const value = loop.where === undefined ? inStock : `(${loop.where}) and ${inStock}`;
  return {
    repair: {
      label: 'Leave out what is out of stock',
      put: { node: node.id, path: `${path}.where`, value },
    },
  };
}

export const outOfStock = defineCheck({
  name: 'out_of_stock',
  label: 'Nothing is offered that is out of stock',
  find(context) {
    const found = offered(context, (product) => fieldOf(product, 'in_stock') === false);
    const [first] = found;
    if (!first) return [];
    return [
      {
        ...{ severity: 'warning' as const, ...offeringNode(context), person: first.person },
        people: Math.max(...found.map(({ people }) => people)),
        message: `${products(found.length)} that emails offer and that are out of stock: ${named(found)}.`,
        ...leavingOut(context),
      },
    ];
  },
});
