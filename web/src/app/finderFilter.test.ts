import { finderFilter } from './finderFilter';

const ACTIONS = [
  { label: 'To publish', description: 'Template, fills from cart' },
  { label: 'Republish the feed', description: 'Template' },
  { label: 'Publish later', description: 'Template' },
  { label: 'Publish', description: 'Action: what occasions send from now on' },
  { label: 'Send', description: 'Action: before you publish' },
  { label: 'Undo' },
];
const WORDS = [
  { label: 'Outbox', keywords: 'report results' },
  { label: 'Write a report', description: 'Template' },
  { label: 'Segments', description: 'Groups, with a report', keywords: 'audience' },
];
const found = (query: string) => finderFilter(query, ACTIONS).map(({ label }) => label);

test('the very name comes before names that hold it, and those before descriptions', () => {
  expect(found('publish')).toEqual([
    ...['Publish', 'Publish later', 'To publish', 'Republish the feed', 'Send'],
  ]);
  expect(found('  PUBLISH l')).toEqual(['Publish later']);
  expect(found('cart')).toEqual(['To publish']);
  expect(found('nothing of it')).toEqual([]);
});

test('what people call a thing finds it: after its name, before what is said of it', () => {
  const names = (query: string) => finderFilter(query, WORDS).map(({ label }) => label);
  expect(names('report')).toEqual(['Write a report', 'Outbox', 'Segments']);
  expect(names('audience')).toEqual(['Segments']);
  expect(names('segments audience')).toEqual(['Segments']);
  expect(names('segments outbox')).toEqual([]);
});

test('what is equally near stays in its order; nothing typed shows all', () => {
  expect(found('')).toEqual(ACTIONS.map(({ label }) => label));
  expect(found('template')).toEqual(['To publish', 'Republish the feed', 'Publish later']);
});
