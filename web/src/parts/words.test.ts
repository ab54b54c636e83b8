import { ago, ahead } from './ago';
import { counted, figure } from '@carafe/core/words';
import { localise } from './localise';

const now = new Date('2026-11-24T09:00:00Z');

test.each([
  ['2026-11-24T09:00:10Z', 'just now'],
  ['2026-11-24T08:58:00Z', '2 minutes ago'],
  ['2026-11-24T06:00:00Z', '3 hours ago'],
  ['2026-11-23T08:00:00Z', 'yesterday'],
  ['2026-11-24T10:00:00Z', 'in 1 hour'],
])('%s is said as %s', (iso, words) => expect(ago(iso, now)).toBe(words));

test('what should have come by now is due', () => {
  expect([ahead('2026-11-24T08:00:00Z', now), ahead('2026-11-24T09:30:00Z', now)]).toEqual([
    'due now',
    'in 30 minutes',
  ]);
});

test('counts are said with what is counted', () => {
  expect([
    figure(16542),
    counted(1, 'row'),
    counted(0, 'row'),
    counted(2000, 'person', 'people'),
  ]).toEqual(['16,542', '1 row', '0 rows', '2,000 people']);
});

test('pictures of the stand-in host are shown from this server, all of them and no others', () => {
  const html =
    '<img src="https://pictures.quillmoss.example/a.png"><img src="https://x.example/b.png"><img src="https://pictures.quillmoss.example/c.png">';
  expect(localise(html)).toBe(
    '<img src="/pictures/a.png"><img src="https://x.example/b.png"><img src="/pictures/c.png">',
  );
});
