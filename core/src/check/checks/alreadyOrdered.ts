import { defineCheck } from '../define';
import { worstOffer } from '../offered';

export const alreadyOrdered = defineCheck({
  name: 'already_ordered',
  label: 'Nothing is offered that was just ordered',
  find: (context) => worstOffer(context, 'ordered', 'it is in the latest order'),
});
