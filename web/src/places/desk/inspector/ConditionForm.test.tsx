/** @jest-environment jsdom */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import { withNamed, type NamedFormula } from '@carafe/core/library';
import { inferShape, type Shape } from '@carafe/core/shape';
import { blankTemplate, composer, countedIds, findNode } from '@carafe/core/template';
import { api } from '../../../app/api';
import { useAppSelector, store } from '../../../app/store';
import { fakeServer, isFor, refusal, renderPart, settled, type Sent } from '../../../testing';
import { desk, fakeWorker, openTemplate } from '../../../testing/desk';
import { ConditionForm } from './ConditionForm';

const named: NamedFormula = {
  ...{ name: 'regular', label: 'Regular customer', description: '', group: '' },
  ...{ use: 'condition', formula: 'person.orders_count >= 3' },
};
const shape: Shape = withNamed(
  inferShape([{ person: { orders_count: 3 }, cart: { total: 2, lines: [] } }]),
  [named],
);
const c = composer(countedIds());
let sent: Sent[];
let refused: string | null;

/** A text with a condition, and what its inspector offers for it. */
async function shown(when?: string, frames: { shape: Shape; as: string | null }[] = []) {
  store.dispatch(api.util.resetApiState());
  refused = null;
  globalThis.EventSource = class {
    close() {}
  } as never;
  fakeWorker();
  sent = fakeServer((one) => {
    if (isFor(ENDPOINTS.addFormula, one))
      return refused === null
        ? { status: 201, body: { id: 'f1', formula: one.body, used_by: [] } }
        : refusal(409, refused);
    if (isFor(ENDPOINTS.listFormulas, one)) return { body: { formulas: [] } };
    if (isFor(ENDPOINTS.shape, one)) return { body: shape };
    return { body: { of: 10, holds: 4, yes: null, no: null } };
  });
  const text = { ...c.text('Here.'), ...(when !== undefined && { when }) };
  openTemplate(blankTemplate('T', 's', [c.section('All', [text])]));
  function Page() {
    const node = useAppSelector((s) => s.desk.template && findNode(s.desk.template, text.id)?.node);
    return node ? (
      <ConditionForm node={node} scope={{ shape, frames, context: null, shop: 's' } as never} />
    ) : null;
  }
  renderPart(<Page />);
  await settled();
  return () => {
    const { template } = desk();
    return template && findNode(template, text.id)?.node.when;
  };
}
const user = userEvent.setup({ delay: null });
const keep = () => screen.queryByRole('button', { name: 'Save as a named formula' });
afterEach(cleanup);

test('a condition gets a name, by which the template uses it from then on; the work goes on at it', async () => {
  const when = await shown('cart.total >= 50');
  await user.click(keep() as HTMLElement);
  const sheet = within(await screen.findByRole('dialog', { name: 'Save as a named formula' }));
  expect(sheet.queryByText('Merge tag')).toBeNull();
  await user.type(sheet.getByLabelText('Name'), 'Free postage');
  await user.click(sheet.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(when()).toBe('own.free_postage'));
  expect(sent.find((one) => isFor(ENDPOINTS.addFormula, one))?.body).toMatchObject({
    ...{ name: 'free_postage', label: 'Free postage', use: 'condition' },
    formula: 'cart.total >= 50',
  });
  expect(screen.queryByRole('dialog')).toBeNull();
  expect(document.activeElement?.closest('[data-condition]')).not.toBeNull();
  expect(keep()).toBeNull();
});

test('a name that is taken is told in the sheet, and the condition stays as it was', async () => {
  const when = await shown('cart.total >= 50');
  await user.click(keep() as HTMLElement);
  refused = 'There is a formula of this name.';
  const sheet = within(await screen.findByRole('dialog'));
  await user.type(sheet.getByLabelText('Name'), 'Regular');
  await user.click(sheet.getByRole('button', { name: 'Save' }));
  expect((await sheet.findByRole('alert')).textContent).toBe(refused);
  expect(when()).toBe('cart.total >= 50');
});

test.each([
  ['has a name', 'own.regular', []],
  ['cannot be read', 'cart.total >=', []],
  ['reads the member of a loop', 'line.price > 1', [{ shape, as: 'line' }]],
  ['is not there', undefined, []],
])('what %s is not kept', async (_, when, frames) => {
  await shown(when, frames);
  expect(keep()).toBeNull();
});

test('a named condition stands in the sentence by what it is called', async () => {
  await shown('own.regular');
  expect(screen.getByRole('button', { name: 'Field: Regular customer' })).not.toBeNull();
});
