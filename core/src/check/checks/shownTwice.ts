import { defineCheck, type CheckContext, type Repair } from '../define';
import { offeringLoops, worstOffer } from '../offered';

/** The first list below another that shows what stands above it leaves that out. */
function leavingOut({ template }: CheckContext): { repair: Repair } | null {
  const below = offeringLoops(template)
    .slice(1)
    .find(({ loop }) => loop.once !== true);
  if (!below) return null;
  const { node, path } = below;
  const put = { node: node.id, path: `${path}.once`, value: true };
  return { repair: { label: 'Leave out what stands above', put } };
}

export const shownTwice = defineCheck({
  name: 'shown_twice',
  label: 'No product is offered twice in one email',
  find: (context) =>
    worstOffer(context, 'twice', 'it stands in the same email already').map((found) => ({
      ...found,
      ...leavingOut(context),
    })),
});
