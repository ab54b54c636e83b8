/** @jest-environment jsdom */
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ImportCounts, ImportSummary, SourceSummary } from '@carafe/contract';
import { api } from '../../app/api';
import { store } from '../../app/store';
import { fakeServer, refusal, renderPart, settled } from '../../testing';
import { Review } from './Review';

const source = { id: 's', name: 'Garden', kind: 'file', target: 'catalog' } as SourceSummary;
const none: ImportCounts = {
  ...{ read: 0, new: 0, changed: 0, unchanged: 0, gone: 0, rejected: 0 },
  ...{ left_out: 0, consent_kept: 0 },
};
const ROWS: Record<string, object[]> = {
  new: [{ line: 2, key: 'A', record: { name: 'Aster', tags: '' }, problems: [] }],
  changed: [
    {
      line: 3,
      key: 'B',
      before: { name: 'Beet', price: 2 },
      record: { name: 'Beet', price: 3 },
      problems: [],
    },
  ],
  rejected: [
    {
      line: 4,
      key: null,
      cells: ['', 'x'],
      problems: [{ column: 'sku', message: 'It is blank.' }],
    },
  ],
};
async function shown(counts: Partial<ImportCounts>, more: Partial<ImportSummary> = {}) {
  const calls: string[] = [];
  store.dispatch(api.util.resetApiState());
  fakeServer(({ path }) => ({
    body: { rows: ROWS[new URLSearchParams(path.split('?')[1]).get('outcome') ?? ''] ?? [] },
  }));
  const one = { id: 'i', source: 's', state: 'checked', counts: { ...none, ...counts }, ...more };
  renderPart(
    <Review
      source={source}
      one={one as ImportSummary}
      onBack={() => calls.push('back')}
      onApply={() => Promise.resolve(void calls.push('apply'))}
      onDiscard={() => calls.push('discard')}
    />,
  );
  await settled();
  return calls;
}
const tab = (name: string) => screen.getByRole('tab', { name: new RegExp(`^[\\d,]+ ?${name}`) });
afterEach(cleanup);

describe('what a file changes', () => {
  it('is counted by what becomes of rows, and nothing has changed yet', async () => {
    await shown({ read: 1234, new: 1200, changed: 34 });
    expect(screen.getByText(/1,234 rows were read/).textContent).toContain(
      'nothing has changed yet',
    );
    expect(tab('New').textContent).toContain('1,200');
    expect(tab('Removed').textContent).toContain('missing from the file');
  });

  it('shows first what cannot be imported, with the reason and the cells', async () => {
    await shown({ read: 2, new: 1, rejected: 1 });
    expect(tab('Rejected').getAttribute('aria-selected')).toBe('true');
    const cell = await screen.findByText('It is blank.', { exact: false });
    expect(cell.textContent).toContain('sku: It is blank.');
    expect(screen.getByRole('link', { name: /Download/ }).getAttribute('href')).toBe(
      '/api/imports/i/rejected.csv',
    );
  });

  it('shows of a changed row what it was and what it will be', async () => {
    await shown({ read: 2, new: 1, changed: 1 });
    await userEvent.click(tab('Changed'));
    const row = (await screen.findByText('B')).closest('tr') as HTMLElement;
    expect(within(row).getByText('price').parentElement?.textContent).toBe('price 2 → 3');
    expect(row.textContent).not.toContain('Beet');
  });

  it.each([
    [{ new: 2, changed: 1 }, 'Import 3 rows'],
    [{ new: 1 }, 'Import 1 row'],
    [{ changed: 1, gone: 1500 }, 'Import 1 row, remove 1,500'],
    [{ unchanged: 5 }, 'Import: nothing changes'],
  ])('the button says what it does: %j', async (counts, name) => {
    await shown(counts);
    expect(screen.getByRole('button', { name })).toBeDefined();
  });

  it('is done once, and can be turned down', async () => {
    const calls = await shown({ new: 1 });
    for (const name of ['Import 1 row', 'Back to the columns', 'Discard file'])
      await userEvent.click(screen.getByRole('button', { name }));
    expect(calls).toEqual(['apply', 'back', 'discard']);
  });

  it('asks nothing more of a file that was imported', async () => {
    await shown({ new: 1 }, { state: 'applied' });
    expect(screen.queryByRole('button', { name: /Import/ })).toBeNull();
  });

  it('says who was left out, and whose consent stands', async () => {
    await shown({ new: 1, left_out: 1, consent_kept: 2 });
    expect(screen.getByText(/1 person without consent is left out/)).toBeDefined();
    expect(
      screen.getByText(/2 people of the file with consent are known here without/),
    ).toBeDefined();
  });

  it('says why rows cannot be shown', async () => {
    await shown({ new: 1 });
    fakeServer(() => refusal(404, 'This file is not kept any more.'));
    await userEvent.click(tab('Unchanged'));
    await waitFor(() => expect(screen.getByText('This file is not kept any more.')).toBeDefined());
  });
});
