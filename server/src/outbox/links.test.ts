import { DEMO_SHOPS } from '@carafe/demo';
import { linkMeant, standInOf } from './links';

// What leads to a stand-in shop, and which link of a mail is meant.

const [demo] = DEMO_SHOPS;
const url = demo?.url ?? '';

test.each([
  ['', '/'],
  ['/', '/'],
  ['/p/pot', '/p/pot'],
  ['/cart/1?source=mail', '/cart/1?source=mail'],
  // Link tags stand right behind the host.
  ['?source=mail', '/?source=mail'],
  ['#top', '/#top'],
])('the shop’s address with %j behind it is the stand-in’s %j', (behind, path) => {
  expect(standInOf(`${url}${behind}`)).toEqual({ shop: demo?.id, path });
});

test.each([`${url}.evil.example/`, `${url}:99/`, `${url}@evil.example/`, 'https://else.example/'])(
  '%s is none of the stand-ins',
  (address) => {
    expect(standInOf(address)).toBeNull();
  },
);

test.each([
  [{ text: 'm1', isOld: false }, '3', { mail: 'm1', number: '3' }],
  [{ text: 'm1', isOld: false }, undefined, null],
  // Links of before had one signature for all, and said in words what they may do.
  [{ text: 'm1.go', isOld: true }, '3', { mail: 'm1', number: '3' }],
  [{ text: 'm1', isOld: true }, '3', null],
  [{ text: 'm1.3', isOld: true }, '3', null],
  [{ text: 'm1.3', isOld: true }, undefined, { mail: 'm1', number: '3' }],
  [{ text: 'm1', isOld: true }, undefined, null],
  [null, '3', null],
  [null, undefined, null],
])('signed %j with the number %j means %j', (signed, number, meant) => {
  expect(linkMeant(signed, number)).toEqual(meant);
});
