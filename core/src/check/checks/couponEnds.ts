import { dayIn, fieldOf, isRecord, toDate } from '../../formula';
import { isOver } from '../../record';
import { pathsRead } from '../paths';
import { defineCheck, type Found } from '../define';

const DAY = 86_400_000;
/** A code that ends within so many days is told: the mail is read later than it is sent. */
const SOON = 3;

export const couponEnds = defineCheck({
  name: 'coupon_ends',
  label: 'No code ends before the email is read',
  find({ sites, coupons, now, zone = 'UTC' }) {
    if (!coupons) return [];
    const policies = new Set(
      [...pathsRead(sites)].flatMap((path) => {
        const [root, policy] = path.split('.');
        return root === 'coupon' && policy !== undefined ? [policy] : [];
      }),
    );
    return [...policies].flatMap((policy): Found[] => {
      const coupon = coupons[policy];
      const ends = isRecord(coupon) ? toDate(fieldOf(coupon, 'expires_at')) : undefined;
      if (!ends || ends.getTime() - now.getTime() > SOON * DAY) return [];
      const hasEnded = isOver(ends, now, zone);
      const day = dayIn(ends, zone).toJSON();
      const site = sites.find(({ source }) => source.includes(`coupon.${policy}`));
      return [
        {
          ...{
            severity: hasEnded ? 'error' : 'warning',
            node: site?.node ?? '',
            path: site?.path ?? '',
          },
          message: hasEnded
            ? `The code of “${policy}” ended on ${day}: it has expired.`
            : `The code of “${policy}” ends on ${day}: some people will read about it after it has expired.`,
        },
      ];
    });
  },
});
