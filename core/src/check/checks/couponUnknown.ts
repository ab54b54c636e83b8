import { fieldOf, isRecord } from '../../formula';
import { pathsRead } from '../paths';
import { nameOf, positions, wordsOfNode } from '../ask';
import { defineCheck, type Found } from '../define';

/** What looks like a code in running words: capitals with digits behind. */
const CODE = /\b[A-Z]{3,}\d{1,4}\b/g;

export const couponUnknown = defineCheck({
  name: 'coupon_unknown',
  label: 'The shop knows every code',
  find({ template, sites, coupons }) {
    if (!coupons) return [];
    const known = new Set(
      Object.values(coupons).flatMap((one) =>
        isRecord(one) ? [String(fieldOf(one, 'code'))] : [],
      ),
    );
    const asked: Found[] = sites.flatMap((site) =>
      [...pathsRead([site])].flatMap((path): Found[] => {
        const [root, policy, more] = path.split('.');
        if (root !== 'coupon' || policy === undefined || more !== undefined) return [];
        return Object.hasOwn(coupons, policy)
          ? []
          : [
              {
                ...{ severity: 'error', node: site.node, path: site.path },
                message: `“${nameOf(template, site.node)}” asks for the coupon “${policy}”, and the shop has no code of it that is still good.`,
              },
            ];
      }),
    );
    const written: Found[] = positions(template).flatMap(({ node }) =>
      wordsOfNode(node)
        .flatMap((words) => words.match(CODE) ?? [])
        .filter((code) => !known.has(code))
        .map((code) => ({
          ...{ severity: 'warning', node: node.id, path: 'text' },
          message: `“${code}” looks like a code, but the shop does not know it.`,
        })),
    );
    const seen = new Set<string>();
    return [...asked, ...written].filter(({ node, message }) => {
      const key = `${node} ${message}`;
      return !seen.has(key) && seen.add(key);
    });
  },
});
