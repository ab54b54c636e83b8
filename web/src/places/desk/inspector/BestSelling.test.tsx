/** @jest-environment jsdom */
import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { Rule, STEPS } from '@carafe/core/recommend';
import { blankTemplate } from '@carafe/core/template';
import { api } from '../../../app/api';
import { store } from '../../../app/store';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../../testing';
import { openTemplate } from '../../../testing/desk';
import { BestSelling } from './BestSelling';

const rule = (name: string, ...kinds: ('best_sellers' | 'newest')[]) => ({
  id: name,
  rule: { name, steps: kinds.map((kind) => ({ take: 4, step: STEPS[kind].make() })) },
});
let sent: Sent[];
const lists: string[] = [];
async function clicked(rules: object[], refused?: string): Promise<void> {
  lists.length = 0;
  store.dispatch(api.util.resetApiState());
  sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.listRules, one)) return { body: { rules } };
    return refused === undefined ? { body: {}, status: 201 } : refusal(422, refused);
  });
  openTemplate(blankTemplate('T', 's', []));
  renderPart(<BestSelling onList={(list) => lists.push(list)} />);
  const button = await screen.findByRole<HTMLButtonElement>('button', { name: 'Best selling' });
  await waitFor(() => expect(button.disabled).toBe(false));
  await userEvent.click(button);
}
const made = () => sent.filter((one) => isFor(ENDPOINTS.addRule, one));
afterEach(cleanup);

test('the rule that asks for what sells best alone is used, where there is one', async () => {
  await clicked([rule('new_for_you', 'newest', 'best_sellers'), rule('top', 'best_sellers')]);
  expect(lists).toEqual(['picks.top']);
  expect(made()).toEqual([]);
});

test('it is made where there is none, under a name that is free', async () => {
  await clicked([rule('best_selling', 'newest')]);
  await waitFor(() => expect(lists).toEqual(['picks.best_selling_2']));
  expect(made()[0]?.path).toBe('/shops/s/rules');
  expect(Rule.parse(made()[0]?.body)).toMatchObject({ name: 'best_selling_2', number: 12 });
});

test('where it cannot be made the list stays as it is', async () => {
  await clicked([], 'There are 200 rules already.');
  await waitFor(() => expect(made()).toHaveLength(1));
  expect(lists).toEqual([]);
});
