import { CreateSource, Shop } from '@carafe/contract';
import { zodValidate } from './zodValidate';

const shop = {
  ...{ id: 'moss', name: 'Moss', url: 'https://moss.example', address: '', logo: '' },
  ...{ currency: 'EUR', timezone: 'Europe/Berlin', locale: 'de-DE' },
};

describe('a form that is checked by what the server asks', () => {
  it('has nothing to say of what is right', () => {
    expect(zodValidate(Shop)(shop)).toEqual({});
  });

  it.each([
    ['id', 'Moss'],
    ['url', 'moss'],
    ['currency', 'XXQ'],
    ['timezone', 'Europe/Nowhere'],
    ['locale', 'not a locale'],
  ])('says in a sentence what is wrong with %s, at its place', (name, value) => {
    const errors = zodValidate(Shop)({ ...shop, [name]: value });
    expect(Object.keys(errors)).toEqual([name]);
    expect(errors[name]).toMatch(/^[A-Z].*\.$/);
  });

  it('says one thing of each field, the first', () => {
    const errors = zodValidate(CreateSource)({
      kind: 'file',
      target: 'feed',
      name: '',
      shop: null,
    });
    expect(Object.values(errors).every((one) => typeof one === 'string')).toBe(true);
    expect(errors['name']).toMatch(/\w/);
  });
});
