import { carriedAddress } from './address';

test.each([
  ['ann@post.example', 'ann@post.example'],
  ['Ann+news@Post.example', 'Ann+news@post.example'],
  ['info@müller.example', 'info@xn--mller-kva.example'],
  ['info@例え.example', 'info@xn--r8jz45g.example'],
  ['jürgen@post.example', null],
  ['a@b@c.example', null],
  ['a b@c.example', null],
  ['a@', null],
  ['a@\u0000.example', null],
  [`${'x'.repeat(250)}@c.example`, null],
])('%s is carried as %s', (address, carried) => {
  expect(carriedAddress(address)).toBe(carried);
});
