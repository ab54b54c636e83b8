import { localise, lookedAt } from './localise';

const MAIL =
  '<!doctype html><html><head><title>T</title></head><body><a href="http://127.0.0.1:4600/go/x.go.y/0">Go</a>' +
  '<img src="https://pictures.quillmoss.example/s-101.png" alt="Pot">' +
  '<img src="http://127.0.0.1:4600/mail/open/x.y.gif" width="1" height="1" alt=""></body></html>';

test('a mail that its sender looks at tells nobody that it was opened, and its links open nothing', () => {
  const shown = lookedAt(MAIL);
  expect(shown).not.toContain('/mail/open/');
  // The frame lets no window be opened.
  expect(shown).toContain('<head><base target="_blank"><title>');
  expect(shown).toContain('<img src="/pictures/s-101.png" alt="Pot">');
});

test('a mail that its recipient opens is as it came, but for its pictures', () => {
  expect(localise(MAIL)).toContain('/mail/open/x.y.gif');
  expect(localise(MAIL)).not.toContain('<base');
});
