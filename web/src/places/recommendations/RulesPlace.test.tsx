/** @jest-environment jsdom */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { Rule } from '@carafe/core/recommend';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, type Sent } from '../../testing';
import { RulesPlace } from './RulesPlace';

const measure = (mean: number) => ({ mean, low: mean - 0.02, high: mean + 0.02 });
const tried = (mean: number, more: number) => ({
  ...{ hits: measure(mean), recall: measure(mean), rank: measure(mean), more: measure(more) },
  products: 12,
});
const RULE = Rule.parse({
  ...{ name: 'best', label: 'Best', number: 3, mixed: true },
  steps: [
    { take: 2, weight: 2, step: { kind: 'bought_together', seed: 'cart' } },
    { take: 3, step: { kind: 'best_sellers', days: 90, by: 'units' } },
  ],
  exclude: { out_of_stock: true, in_cart: true, bought_days: 'ever' },
});
const USED = [{ id: 't1', name: 'The letter' }];

/** A server with one rule, which keeps what it is changed to. */
function server(more: (sent: Sent) => ReturnType<typeof refusal> | null = () => null) {
  let rule = RULE;
  let published = RULE;
  return fakeServer((sent) => {
    const own = more(sent);
    if (own) return own;
    const is = (name: keyof typeof ENDPOINTS) => isFor(ENDPOINTS[name], sent);
    if (is('listShops')) return { body: { shops: [{ id: 's', name: 'S' }] } };
    if (is('listRules'))
      return { body: { rules: [{ id: 'r1', version: 'v', rule, published, used_by: USED }] } };
    if (is('changeRule')) {
      rule = sent.body as Rule;
      return { body: { id: 'r1', version: 'v', rule, published, used_by: USED } };
    }
    if (is('publishRule')) {
      published = rule;
      return { body: { id: 'r1', version: 'v', rule, published, used_by: USED } };
    }
    if (is('shape')) return { body: { kind: 'any' } };
    if (is('listRecipients')) {
      const recipient = { id: 1, email: 'ann@q.example', name: 'Ann', lines: 0, orders: 1 };
      return { body: { total: 3, recipients: [recipient] } };
    }
    if (is('picks'))
      return {
        body: {
          as_of: new Date().toISOString(),
          picks: [
            { sku: 'a', name: 'Pot', step: 1, figure: 'sold 3 times', reason: 'Much bought' },
          ],
          passed: [{ sku: 'b', name: 'Pan', step: 0, why: 'in the cart' }],
          sieve: {
            ...{ products: 240, pool: 120 },
            steps: [
              { offered: 9, through: 2, room: 3 },
              { offered: 80, through: 0, room: 0 },
            ],
          },
        },
      };
    if (is('ruleFigures')) {
      const isFirst = sent.path.endsWith('after=0');
      const figures = {
        ...{ people: 2, picks: 5, steps: [1, 4], fewer: 1, none: 0, last_only: 1 },
        who: { fewer: ['few@q.example'], none: [], last_only: [], steps: [['ann@q.example'], []] },
        shown: { a: 3, b: 2 },
      };
      const pool = ['a', 'b', 'c'].map((sku) => ({ sku, name: `The ${sku}`, category: 'Pots' }));
      return { body: { figures, people: 4, next: isFirst ? 2 : null, ...(isFirst && { pool }) } };
    }
    if (is('tryRule'))
      return {
        body: {
          ...{ of: 40, weights: [3, 1], left_out: ['what lay in the cart'] },
          result: {
            ...{ people: 40, rules: [tried(0.1, 0.01), tried(0.3, 0.2)] },
            ...{ best_sellers: tried(0.09, 0), at_random: tried(0.02, -0.07) },
          },
        },
      };
    return {};
  });
}
const changes = (sent: Sent[]) =>
  sent.filter((one) => isFor(ENDPOINTS.changeRule, one)).map(({ body }) => body as Rule);

beforeEach(() => {
  store.dispatch(api.util.resetApiState());
  globalThis.EventSource = class {
    close() {}
  } as never;
});
afterEach(cleanup);

async function shown(more?: Parameters<typeof server>[0]) {
  const sent = server(more);
  renderPart(<RulesPlace />);
  await screen.findByText('Much bought');
  return sent;
}

test('a rule shows what each step draws from, what is picked and passed over, and where it is used', async () => {
  await shown();
  expect(screen.getByText('120 of 240 products')).toBeTruthy();
  expect(screen.getByText('7 to choose from, 2 left out')).toBeTruthy();
  expect(screen.getByText('80 to choose from')).toBeTruthy();
  expect(screen.getByText('in the cart')).toBeTruthy();
  expect(screen.getByText(/^1 of 3. Add a step/)).toBeTruthy();
  expect(screen.getByRole('link', { name: 'The letter' })).toBeTruthy();
});

test('each change is kept at once, and can be gone back from', async () => {
  const sent = await shown();
  await userEvent.click(screen.getByLabelText('In the cart'));
  await waitFor(() => expect(changes(sent)).toHaveLength(1));
  expect(changes(sent)[0]?.exclude.in_cart).toBe(false);
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  await waitFor(() => expect(changes(sent)).toHaveLength(2));
  expect(changes(sent)[1]).toEqual(RULE);
  await waitFor(() =>
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Undo' }).disabled).toBe(true),
  );
});

test('steps are moved and taken out; what a kind asks comes with it', async () => {
  const sent = await shown();
  await userEvent.click(screen.getByRole('button', { name: 'Step 2 up' }));
  await waitFor(() => expect(changes(sent)).toHaveLength(1));
  expect(changes(sent)[0]?.steps.map(({ step }) => step.kind)).toEqual([
    'best_sellers',
    'bought_together',
  ]);
  await userEvent.click(screen.getByRole('combobox', { name: 'Step 2' }));
  await userEvent.click(await screen.findByRole('option', { name: 'Picked by hand' }));
  await waitFor(() => expect(changes(sent).at(-1)?.steps[1]?.step.kind).toBe('by_hand'));
  await userEvent.type(await screen.findByRole('combobox', { name: 'Step 2: SKUs' }), 'P-1{Enter}');
  await waitFor(() =>
    expect(changes(sent).at(-1)?.steps[1]?.step).toEqual({ kind: 'by_hand', skus: ['P-1'] }),
  );
  await userEvent.click(screen.getByRole('button', { name: 'Remove step 1' }));
  await waitFor(() => expect(changes(sent).at(-1)?.steps).toHaveLength(1));
});

test('what is refused is told beside the rule, and nothing is changed', async () => {
  await shown((sent) =>
    isFor(ENDPOINTS.changeRule, sent) ? refusal(409, 'There is a rule “x” already.') : null,
  );
  const name = screen.getByLabelText<HTMLInputElement>('Used in formulas as');
  await userEvent.clear(name);
  await userEvent.type(name, 'x');
  await userEvent.tab();
  expect((await screen.findByRole('alert')).textContent).toMatch(/already\. Nothing was changed/);
  await waitFor(() => expect(name.value).toBe('best'));
});

test('what cannot be read is told without the place in the request, and once', async () => {
  const message =
    'This request cannot be read. number: How many products is at most 50. Nothing was changed.';
  const problems = [{ path: 'number', message: 'How many products is at most 50.' }];
  await shown((sent) =>
    isFor(ENDPOINTS.changeRule, sent)
      ? { status: 400, body: { error: { message, problems } } }
      : null,
  );
  const name = screen.getByLabelText<HTMLInputElement>('Used in formulas as');
  await userEvent.type(name, 'x');
  await userEvent.tab();
  expect((await screen.findByRole('alert')).textContent).toBe(
    'How many products is at most 50. Nothing was changed.',
  );
});

test('everybody is counted some at a time, and added up', async () => {
  const sent = await shown();
  const everybody = screen.getByRole('region', { name: 'Everybody' });
  await userEvent.click(within(everybody).getByRole('button', { name: 'Count' }));
  await within(everybody).findByText('4 of 4 people');
  expect(sent.filter((one) => isFor(ENDPOINTS.ruleFigures, one))).toHaveLength(2);
  // Of ten picks two are of the first step; a is shown to six, c to nobody.
  expect(within(everybody).getByText('20 %')).toBeTruthy();
  expect(within(everybody).getByText('80 %')).toBeTruthy();
  expect(within(everybody).getByText('6 people')).toBeTruthy();
  expect(within(everybody).getByRole('row', { name: 'Pots 2 of 3 100 %' })).toBeTruthy();
  expect(within(everybody).getByText('The c')).toBeTruthy();
  expect(within(everybody).getByRole('img').getAttribute('aria-label')).toMatch(/shown: 0\.\d\d/);
});

test('weights that did better on the past are told and can be used', async () => {
  const sent = await shown();
  const past = screen.getByRole('region', { name: 'Test on past orders' });
  await userEvent.click(within(past).getByRole('button', { name: 'Find weights' }));
  expect(
    await within(past).findByRole('row', { name: /^Best 10\.0 % .*perhaps chance/ }),
  ).toBeTruthy();
  expect(
    within(past).getByRole('row', { name: /^With other weights 30\.0 % .*: more/ }),
  ).toBeTruthy();
  expect(within(past).getByRole('row', { name: /^At random/ })).toBeTruthy();
  await userEvent.click(within(past).getByRole('button', { name: 'Use these weights' }));
  await waitFor(() => expect(changes(sent)[0]?.steps.map(({ weight }) => weight)).toEqual([3, 1]));
});

test('a trial that is stopped says nothing, and can be begun again', async () => {
  const sent = await shown((one) =>
    isFor(ENDPOINTS.tryRule, one)
      ? (new Promise(() => undefined) as unknown as ReturnType<typeof refusal>)
      : null,
  );
  const past = screen.getByRole('region', { name: 'Test on past orders' });
  await userEvent.click(within(past).getByRole('button', { name: 'Try' }));
  await userEvent.click(await within(past).findByRole('button', { name: 'Stop' }));
  expect(await within(past).findByRole('button', { name: 'Try' })).toBeTruthy();
  expect(within(past).queryByRole('table')).toBeNull();
  expect(sent.filter((one) => isFor(ENDPOINTS.tryRule, one))).toHaveLength(1);
});

test('a changed rule is published, or put back; what no step needs is said; figures open to their people', async () => {
  const sent = await shown();
  expect(await screen.findByText('Published. Emails use the rule as it is here.')).toBeTruthy();
  expect(
    await screen.findByText('Not asked for this person: the steps before it fill the whole list.'),
  ).toBeTruthy();
  const number = screen.getByRole('textbox', { name: 'How many products' });
  await userEvent.clear(number);
  await userEvent.type(number, '5');
  await userEvent.click(await screen.findByRole('button', { name: 'Put back what is published' }));
  await screen.findByText('Published. Emails use the rule as it is here.');
  expect(changes(sent).at(-1)?.number).toBe(3);
  await userEvent.type(number, '{Backspace}4');
  await userEvent.click(await screen.findByRole('button', { name: 'Publish' }));
  await screen.findByText('Published. Emails use the rule as it is here.');
  expect(sent.filter((one) => isFor(ENDPOINTS.publishRule, one))).toHaveLength(1);

  await userEvent.click(screen.getByRole('button', { name: 'Count' }));
  const fewer = await screen.findByRole('button', { name: /^2 get fewer than/ });
  await userEvent.click(fewer);
  await userEvent.click(screen.getAllByRole('button', { name: 'few@q.example' })[0] as Element);
  expect(screen.getByLabelText<HTMLInputElement>('Picks for').value).toBe('few@q.example');
});
