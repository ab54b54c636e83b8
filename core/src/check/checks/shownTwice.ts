import { offeringNode } from '../offered';
import { fieldOf } from '../../formula';
import { defineCheck, ofPeople, type Found } from '../define';

export const shownTwice = defineCheck({
  name: 'shown_twice',
  label: 'No product is offered twice in one mail',
  find(context) {
    const { survey, products } = context;
    const all = Object.entries(survey?.facts ?? {})
      .filter(([name]) => name.startsWith('twice:'))
      .sort((a, b) => b[1].people - a[1].people);
    const [worst] = all;
    if (!survey || !worst) return [];
    const [, { people, person, sample }] = worst;
    const product = products.get(sample);
    const name = product ? String(fieldOf(product, 'name') ?? sample) : sample;
    const more = all.length > 1 ? ` And ${all.length - 1} more so.` : '';
    const found: Found = {
      ...{ severity: 'warning', ...offeringNode(context), people, person },
      message: `“${name}” is offered though it stands in the same mail already, for ${ofPeople(people, survey.people)}.${more}`,
    };
    return [found];
  },
});
