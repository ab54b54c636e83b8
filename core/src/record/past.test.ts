import type { Fields } from '../formula';
import { asksPast, pastRecord } from '.';

const at = Date.parse('2026-11-20T12:00:00Z');
const products = new Map<string, Fields>([
  ['A', { sku: 'A', name: 'Trowel', category: 'Tools', price: 9 } as unknown as Fields],
]);

test('only what formulas ask of the past is asked', () => {
  expect(asksPast(['any(views, sku = "A")', 'person.reviews > 3'])).toEqual({
    ...{ views: true, emails: false },
  });
  expect(asksPast(['count(emails) = 0'])).toEqual({ views: false, emails: true });
});

test('what came after the instant is not there; a product that is gone leaves its SKU', () => {
  const email = { occasion: 'Cart left', subject: 'Hello', marketing: true };
  const past = {
    views: [
      { sku: 'A', at: '2026-11-19T12:00:00Z' },
      { sku: 'gone', at: '2026-11-20T11:00:00Z' },
      { sku: 'A', at: '2026-11-21T12:00:00Z' },
    ],
    emails: [
      {
        ...{ ...email, sent_at: '2026-11-18T09:00:00Z', opened_at: '2026-11-18T10:00:00Z' },
        clicked_at: '2026-11-22T10:00:00Z',
      },
      { ...email, sent_at: '2026-11-22T09:00:00Z', opened_at: null, clicked_at: null },
    ],
  };
  expect(pastRecord(past, products, at)).toMatchObject({
    views: [
      { sku: 'A', name: 'Trowel', category: 'Tools', viewed_at: new Date('2026-11-19T12:00:00Z') },
      { sku: 'gone', name: undefined },
    ],
    emails: [{ occasion: 'Cart left', opened: true, clicked: false, clicked_at: undefined }],
  });
  expect(pastRecord({}, products, at)).toEqual({});
});
