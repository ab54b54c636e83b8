import { NEW_SHOPPER } from '@carafe/core/record';
import fc from 'fast-check';
import { testServer, TEST_SHOP } from '../testing';
import { LINK_KINDS, linkSigner, mailTokens } from './mailToken';

const tokens = mailTokens('ab'.repeat(32));
const who = fc.record({ shop: fc.string({ minLength: 1 }), email: fc.emailAddress() });

test('a token says who it is of to whoever made it, always the same, and to nobody else', () => {
  fc.assert(
    fc.property(who, (one) => {
      const token = tokens.make(one);
      expect(tokens.read(token)).toEqual(one);
      expect(tokens.make({ ...one })).toBe(token);
      expect(token).toMatch(/^[\w-]+$/);
      expect(Buffer.from(token, 'base64url').toString('latin1')).not.toContain(one.email);
      expect(mailTokens('cd'.repeat(32)).read(token)).toBeNull();
    }),
  );
});

test('one that was changed anywhere stands for nobody', () => {
  const token = tokens.make({ shop: 's', email: 'maud@q.example' });
  for (let i = 0; i < token.length; i++) {
    const other = token[i] === 'A' ? 'B' : 'A';
    expect(tokens.read(token.slice(0, i) + other + token.slice(i + 1))).toBeNull();
  }
  for (const made of ['', 'x', token.slice(0, 30), `${token}A`, '%00', 'maud@q.example'])
    expect(tokens.read(made)).toBeNull();
});

test('links of mails carry it instead of the address', async () => {
  const { tables, store } = await testServer();
  tables.shops.insert(TEST_SHOP);
  const person = { email: 'maud@q.example' };
  const id = tables.people.keep('s', person.email, person, NEW_SHOPPER);
  const [one] = tables.people.data('s', [id]);
  expect(tables.people.tokens.read(one?.data.token ?? '')).toEqual({
    shop: 's',
    email: 'maud@q.example',
  });
  store.close();
});

test('what one kind of link may do, no other may', () => {
  const signer = linkSigner('ab'.repeat(32));
  for (const kind of LINK_KINDS)
    for (const other of LINK_KINDS) {
      const signed = signer.make(kind, 'mail.1');
      expect(signer.read(other, signed)).toEqual(
        kind === other ? { text: 'mail.1', isOld: false } : null,
      );
      expect(linkSigner('cd'.repeat(32)).read(other, signed)).toBeNull();
      expect(signer.read(other, signed.replace('mail', 'mall'))).toBeNull();
    }
});
