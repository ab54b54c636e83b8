import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import { storedText } from './usePublishState';

test('a draft is what is published, in whatever order edits put its fields', () => {
  const c = composer(countedIds());
  const { envelope, ...rest } = blankTemplate('News', 's', [c.section('One', [c.text('Hello')])]);
  const { subject, ...others } = envelope;
  const published = { envelope, ...rest };
  const edited = { ...rest, envelope: { ...others, subject } };
  expect(JSON.stringify(edited)).not.toBe(JSON.stringify(published));
  expect(storedText(edited)).toBe(storedText(published));
  expect(storedText({ ...rest, envelope: { ...envelope, subject: 'Other' } })).not.toBe(
    storedText(published),
  );
});
