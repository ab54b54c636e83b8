/** @jest-environment jsdom */
import { useState } from 'react';
import { act, cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { inferShape } from '@carafe/core/shape';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, isFor, refusal, renderPart, settled } from '../../testing';
import { AudienceBar } from './AudienceBar';
import { ConditionField } from './ConditionField';

const shape = inferShape([
  {
    person: { country: 'FR', consent: true, joined: new Date('2026-01-01') },
    cart: { total: 12, lines: [{ name: 'Pot', category: 'Pots', price: 4 }] },
  },
]);
let formula = '';
let setFromElsewhere: (to: string) => void = () => undefined;
function shown(first = '') {
  formula = first;
  function Page() {
    const [value, setValue] = useState(first);
    formula = value;
    setFromElsewhere = setValue;
    return (
      <ConditionField
        label="Show only if"
        now="yes, it shows"
        {...{ value, shape }}
        frames={[]}
        onChange={setValue}
      />
    );
  }
  renderPart(<Page />);
}
const press = (name: string | RegExp) => userEvent.click(screen.getByRole('button', { name }));
async function pick(field: string) {
  // A new condition asks for its field at once.
  if (!screen.queryByRole('textbox', { name: 'Search fields' })) await press('Choose a field');
  await userEvent.type(await screen.findByRole('textbox', { name: 'Search fields' }), field);
  await userEvent.keyboard('{Enter}');
}
afterEach(cleanup);

it('a sentence is built slot by slot, and is a formula as soon as it is whole', async () => {
  shown();
  await press('Add a condition');
  await pick('cart total');
  expect(formula).toBe('');
  await userEvent.selectOptions(screen.getByLabelText('How Cart total is compared'), 'at_least');
  await userEvent.type(screen.getByLabelText('Value for Cart total'), '50');
  expect(formula).toBe('cart.total >= 50');
  await press('Add another');
  await pick('country');
  await userEvent.selectOptions(screen.getByLabelText('How Country is compared'), 'one_of');
  await userEvent.type(
    screen.getByLabelText('Value for Country', { selector: 'input' }),
    'FR{Enter}DE{Enter}',
  );
  expect(formula).toBe('cart.total >= 50 and person.country in ["FR", "DE"]');
  await userEvent.selectOptions(screen.getByLabelText('How the conditions are combined'), 'any');
  expect(formula).toBe('cart.total >= 50 or person.country in ["FR", "DE"]');
  await press('Remove the condition on Cart total');
  expect(formula).toBe('person.country in ["FR", "DE"]');
});

it('a formula that comes back late takes nothing away from what was added meanwhile', async () => {
  const sent: string[] = [];
  let comesBack: (value: string) => void = () => undefined;
  function Page() {
    const [value, setValue] = useState('');
    comesBack = setValue;
    const onChange = (next: string) => void sent.push(next);
    return (
      <ConditionField label="Show only if" now={null} {...{ value, shape, onChange }} frames={[]} />
    );
  }
  renderPart(<Page />);
  await press('Add a condition');
  await pick('cart total');
  await userEvent.type(screen.getByLabelText('Value for Cart total'), '50');
  await press('Add another');
  await userEvent.keyboard('{Escape}');
  expect(sent).toHaveLength(2);
  for (const late of sent) act(() => comesBack(late));
  expect(screen.getByRole('button', { name: 'Choose a field' })).toBeTruthy();
  // An earlier one that comes again after the last was undone: it is shown.
  act(() => comesBack(sent[0] ?? ''));
  expect(screen.queryByRole('button', { name: 'Choose a field' })).toBeNull();
  expect(screen.getByLabelText<HTMLInputElement>('Value for Cart total').value).toBe('5');
});

it('what is new since the last mail is a sentence, and its unit stands behind the value alone', async () => {
  shown('person.joined > (occasion.last_mail_at otherwise add_days(now, -31))');
  const compared = screen.getByLabelText<HTMLSelectElement>('How Joined is compared');
  expect(compared.selectedOptions[0]?.textContent).toBe(
    'is since the last email, or within the last',
  );
  expect([...compared.options].map(({ text }) => text)).toContain('is within the last … days');
  expect(compared.closest('div[class*="clause"]')?.textContent?.match(/days$/)).toBeTruthy();
  await userEvent.selectOptions(compared, 'within_last');
  expect(formula).toBe('person.joined >= add_days(today, -31)');
  expect(compared.selectedOptions[0]?.textContent).toBe('is within the last');
});

it('another kind of field gets the comparisons that fit it', async () => {
  shown('cart.total >= 50');
  await press('Field: Cart total');
  await userEvent.type(await screen.findByRole('textbox', { name: 'Search fields' }), 'consent');
  await userEvent.keyboard('{Enter}');
  expect(formula).toBe('person.consent');
  await userEvent.selectOptions(screen.getByLabelText('How Consent is compared'), 'no');
  expect(formula).toBe('not person.consent');
});

it('groups stand in groups, and what was undone elsewhere is shown', async () => {
  shown('cart.total >= 50 and (person.country = "FR" or person.consent)');
  expect(screen.getAllByLabelText('How the conditions are combined')).toHaveLength(2);
  await press('Remove the group');
  expect(formula).toBe('cart.total >= 50');
  act(() => setFromElsewhere('count(cart.lines) > 2'));
  expect(screen.getByRole('button', { name: 'Field: How many cart lines' })).toBeTruthy();
});

it('what no sentence says stays a formula, and either way can be turned to', async () => {
  shown('cart.total + 1 > 3');
  expect(screen.getByText(/too complex to show as a sentence/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'As a sentence' })).toBeNull();
  cleanup();
  shown('cart.total > 3');
  await press('As a formula');
  expect(screen.queryByRole('button', { name: 'Add a condition' })).toBeNull();
  await press('As a sentence');
  expect(screen.getByRole('button', { name: 'Field: Cart total' })).toBeTruthy();
  expect(formula).toBe('cart.total > 3');
});

describe('the audience of a condition', () => {
  const ann = { id: 1, email: 'ann@q.example', name: 'Ann', lines: 1, orders: 0 };
  it('is told in people, with one of each kind to look at', async () => {
    store.dispatch(api.util.resetApiState());
    const looked: string[] = [];
    fakeServer((one) =>
      isFor(ENDPOINTS.audience, one)
        ? { body: { of: 1250, holds: 412, yes: ann, no: null } }
        : { body: {} },
    );
    renderPart(
      <AudienceBar shop="s" formula="cart.total > 3" onLook={({ email }) => looked.push(email)} />,
    );
    expect(await screen.findByText('412 of 1,250 people')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'View one who does not match' })).toBeNull();
    await press('View one');
    expect(looked).toEqual(['ann@q.example']);
  });
  it('says what went wrong, and asks nothing of what cannot be read', async () => {
    store.dispatch(api.util.resetApiState());
    const sent = fakeServer(() => refusal(404, 'There is no shop “s”.'));
    renderPart(<AudienceBar shop="s" formula="cart.total > 3" onLook={() => undefined} />);
    expect((await screen.findByRole('alert')).textContent).toBe('There is no shop “s”.');
    cleanup();
    renderPart(<AudienceBar shop="s" formula="cart.total >" onLook={() => undefined} />);
    await settled();
    expect(sent).toHaveLength(1);
  });
});

describe('what is in a list', () => {
  const lines = () => screen.getByRole('group', { name: 'Of cart lines' });
  const ask = async (field: string) => {
    await userEvent.type(await screen.findByRole('textbox', { name: 'Search fields' }), field);
    await userEvent.keyboard('{Enter}');
  };

  it('is asked of at least one, every one, or none of its members', async () => {
    shown();
    await press('Add a list condition');
    await ask('cart lines');
    expect(formula).toBe('');
    await ask('category');
    await userEvent.selectOptions(screen.getByLabelText('How Category is compared'), 'is');
    await userEvent.type(
      screen.getByLabelText('Value for Category', { selector: 'input' }),
      'Pots',
    );
    expect(formula).toBe('any(cart.lines, category is "Pots")');
    await userEvent.click(within(lines()).getByRole('button', { name: 'Add another' }));
    await ask('price');
    await userEvent.selectOptions(screen.getByLabelText('How Price is compared'), 'over');
    await userEvent.type(screen.getByLabelText('Value for Price'), '3');
    expect(formula).toBe('any(cart.lines, category is "Pots" and price > 3)');
    await userEvent.selectOptions(screen.getByLabelText('For how many of cart lines'), 'none');
    expect(formula).toBe('not any(cart.lines, category is "Pots" and price > 3)');
    await press('Remove the condition on cart lines');
    expect(formula).toBe('');
  });

  it('is shown as it stands in a formula, also of a list that is not there any more', () => {
    shown('every(cart.lines, price > 3) and any(gone.things, colour = "red")');
    expect(screen.getByLabelText<HTMLSelectElement>('For how many of cart lines').value).toBe(
      'every',
    );
    expect(screen.getByRole('group', { name: 'Of gone things' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Field: Colour' })).toBeTruthy();
  });
});
