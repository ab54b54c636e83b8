import { defineCheck } from '../define';
import { worstOffer } from '../offered';

export const shownTwice = defineCheck({
  name: 'shown_twice',
  label: 'No product is offered twice in one mail',
  find: (context) => worstOffer(context, 'twice', 'it stands in the same mail already'),
});
