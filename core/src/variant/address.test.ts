import * as fc from 'fast-check';
import { AddressJudge } from './address';

const record = {
  shop: { url: 'https://shop.quillmoss.example' },
  person: { email: 'Maud@post.example' },
};

const HOSTS = [
  ['shop.quillmoss.example', 'own'],
  ['pictures.quillmoss.example', 'own'],
  ['other.example', 'test'],
  ['sale.test', 'test'],
  ['localhost', 'test'],
  ['127.0.0.1', 'test'],
  ['testing.org', 'real'],
  ['my-localhost.org', 'real'],
  ['a', 'real'],
] as const;

const address = fc.record({
  scheme: fc.constantFrom('https://', 'http://', 'HTTP://'),
  who: fc.constantFrom('', 'me@', 'sale.test:1@'),
  host: fc.constantFrom(...HOSTS),
  port: fc.constantFrom('', ':8080'),
  rest: fc.constantFrom(
    '',
    '/',
    '/p/1',
    '?q=sale.test',
    '#part',
    '/p//x.test/#',
    '?to=/a',
    '/#',
    '#',
  ),
});

test('what is wrong with an address hangs on its own host, whatever was judged before and whatever stands behind', () => {
  fc.assert(
    fc.property(fc.array(address, { minLength: 1, maxLength: 30 }), (all) => {
      const judge = new AddressJudge().of(record);
      for (const { scheme, who, host, port, rest } of all) {
        const [name, kind] = host;
        const expected = () => {
          if (rest === '#' || rest === '/#') return 'hash';
          if (kind === 'test') return 'example';
          // Of the shop’s own demo host nothing is said.
          return kind === 'own' || scheme.startsWith('https') ? null : 'http';
        };
        expect(judge(`${scheme}${who}${name}${port}${rest}`)).toBe(expected());
      }
    }),
    { numRuns: 300 },
  );
});

test('an address of the person who reads the mail is told wherever it stands, but as one to write to', () => {
  const judge = new AddressJudge().of(record);
  expect(judge('https://shop.quillmoss.example/?for=maud@post.example')).toBe('person');
  expect(judge('https://real.org/?for=MAUD%40post.example#x')).toBe('person');
  expect(judge('mailto:maud@post.example')).toBeNull();
  expect(judge('https://real.org/?for=somebody@else.example')).toBeNull();
});

test('what was known of one shop’s hosts is not said of another’s', () => {
  const judge = new AddressJudge();
  const own = 'https://shop.quillmoss.example/p/1';
  expect(judge.of(record)(own)).toBeNull();
  expect(judge.of({ ...record, shop: { url: 'https://elsewhere.org' } })(own)).toBe('example');
});
