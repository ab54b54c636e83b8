import { takeCatalog, takeEvents, takeFeed, takePeople, foldShop, IntakeError } from './intake';
import { testServer } from './testing';

const shop = {
  id: 's',
  name: 'S',
  url: 'https://s.example',
  address: '',
  logo: '',
  currency: 'GBP',
  timezone: 'UTC',
  locale: 'en-GB',
};

function store() {
  const made = testServer().store;
  made.shops.insert(shop);
  return made;
}
const count = (s: ReturnType<typeof store>, table: string) =>
  s.db.prepare<[], { n: number }>(`SELECT COUNT(*) AS n FROM ${table}`).get()?.n;

test('a catalog is taken whole, stock says what is in stock, other columns become fields', () => {
  const s = store();
  takeCatalog(s, 's', 'garden', 'sku,name,price,stock,height\nA,Aster,1.50,0,30\nB,Bean,2,4,\n');
  expect(s.shops.world('s')?.catalog['garden']).toMatchObject([
    { sku: 'A', price: 1.5, in_stock: false, height: 30 },
    { sku: 'B', in_stock: true },
  ]);
});

test.each([
  ['a cell that is no number', 'sku,price\nA,1\nB,dear\n', /row 3, column “price”/],
  ['a row without its key', 'sku,price\nA,1\n,2\n', /row 3: “sku” is empty/],
  ['a key that comes twice', 'sku,price\nA,1\nA,2\n', /UNIQUE/],
  ['a quote that is never closed', 'sku,name\nA,"x\n', /quote/i],
])('%s takes nothing in', (_, csv, says) => {
  const s = store();
  expect(() => takeCatalog(s, 's', 'garden', csv)).toThrow(says);
  expect(count(s, 'products')).toBe(0);
});

test('people and their events become carts; an event that comes again changes nothing', () => {
  const s = store();
  takePeople(s, 'shop,email,first_name,consent\ns,a@b.example,Ada,yes\n');
  const event = {
    id: 'e1',
    kind: 'cart_added',
    at: '2026-11-01T09:00:00Z',
    shop: 's',
    email: 'a@b.example',
    currency: 'GBP',
    sku: 'A',
    name: 'Aster',
    price: 2,
    quantity: 3,
  };
  takeEvents(s, `${JSON.stringify(event)}\n${JSON.stringify(event)}\n`);
  takeEvents(s, JSON.stringify(event));
  foldShop(s, 's');
  expect(count(s, 'events')).toBe(1);
  const [person] = [...s.people.all('s')];
  expect(person).toMatchObject({
    person: { first_name: 'Ada', consent: true },
    shopper: { cart: { lines: [{ quantity: 3, total: 6 }] } },
  });
});

test('an event that is none refuses the file, with its line', () => {
  const s = store();
  expect(() => takeEvents(s, '{"id":"1","kind":"danced"}')).toThrow(IntakeError);
  expect(() => takeEvents(s, '{"id":')).toThrow(/Line 1 is not JSON/);
  expect(count(s, 'events')).toBe(0);
});

test('a feed that is none is refused', () => {
  expect(() => takeFeed(store(), 'f', '{"title":"x"}')).toThrow();
});
