/** @jest-environment jsdom */
import { useEffect } from 'react';
import { Notifications } from '@mantine/notifications';
import { act, cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ENDPOINTS } from '@carafe/contract';
import type { CheckFinding } from '@carafe/core/checks';
import { blankTemplate, composer, countedIds } from '@carafe/core/template';
import type { Survey } from '@carafe/core/variant';
import { api } from '../../../app/api';
import { store } from '../../../app/store';
import { fakeServer, isFor, refusal, type Sent } from '../../../testing';
import { desk, fakeWorker, openTemplate, renderOnDesk, somePeople } from '../../../testing/desk';
import { deskActions } from '../deskSlice';
import { Everyone } from './Everyone';
import { EveryoneProvider, useEveryone } from './useSurvey';

const c = composer(countedIds());
const template = blankTemplate('T', 's', [
  c.section('Words', [
    c.heading('Hello {{ person.first_name }}', { id: 'hello' }),
    c.text('A gift', { id: 'gift', when: 'cart.total > 50' }),
  ]),
]);
/** 35 and the bits: held is 1, not held 2; given is 1, blank 2. */
const key = (...bits: number[]) => String.fromCharCode(...bits.map((one) => one + 35));
const survey: Survey = {
  decisions: [
    { kind: 'value', node: 'hello', path: 'text', formula: 'person.first_name' },
    { kind: 'condition', node: 'gift', path: 'when', formula: 'cart.total > 50' },
  ],
  ...{ people: 10, addresses: [], products: {}, broken: [] },
  facts: { held: { people: 4, person: 1, sample: '' } },
  variants: [
    { key: key(1, 1), people: 7, person: 1 },
    { key: key(2, 2), people: 3, person: 2 },
  ],
};
const FINDINGS: CheckFinding[] = [
  {
    ...{
      check: 'blank_tag',
      severity: 'warning',
      node: 'hello',
      path: 'text',
      people: 3,
      person: 2,
    },
    message: '“first name” is blank for 3 of 10 people.',
    repair: {
      label: 'Add a fallback',
      replace: { node: 'hello', path: 'text', start: 26, end: 26, text: ' otherwise "…"' },
    },
  },
  {
    ...{ check: 'condition_never', severity: 'hint', node: 'gift', path: 'when' },
    message: 'The condition of “A gift” never holds.',
  },
  {
    ...{ check: 'unsubscribe', severity: 'error', node: '', path: 'unsubscribe' },
    message: 'This email has no unsubscribe link.',
    repair: { label: 'Add “Footer”', add: 'foot' },
  },
  {
    ...{ check: 'leftover_words', severity: 'error', node: 'gift', path: 'text' },
    message: '“A gift” is left over.',
    repair: { label: 'Delete the block', take: 'gift' },
  },
];

/** What the server keeps of what was looked at. */
let marks: Record<string, string> = {};
let refused = false;

function server(): Sent[] {
  return fakeServer((sent) => {
    const is = (name: keyof typeof ENDPOINTS) => isFor(ENDPOINTS[name], sent);
    if (is('survey')) return { body: { survey, looked: 10, people: 10, next: null } };
    if (is('checkTemplate'))
      return { body: { findings: FINDINGS, labels: { blank_tag: 'No tag is blank' } } };
    if (is('fillDraft'))
      return {
        body: {
          ...{ from: 'House', subject: `Mail ${JSON.stringify(sent.body).length}` },
          ...{ preview_text: '', html: '<p>Words</p>', text: 'Words', held: false },
        },
      };
    if (is('lookedVariants')) return { body: { marks } };
    if (is('lookAtVariant')) {
      if (refused) return refusal(507, 'The disk is full.');
      const { variant, mark } = sent.body as { variant: string; mark: string | null };
      marks = { ...marks, ...(mark !== null && { [variant]: mark }) };
      if (mark === null) delete marks[variant];
      return { body: { marks } };
    }
    if (is('someRecipients')) return { body: { recipients: somePeople(2).slice(1) } };
    if (is('listSegments')) return { body: { segments: [] } };
    if (is('mailSettings'))
      return { body: { settings: { test_addresses: ['me@house.example'] }, password: false } };
    if (is('sendTest'))
      return { body: { message_id: '<a@b>', to: 'me@house.example', mailbox: true } };
    if (is('makeOne'))
      return {
        body: { recipient: { ...somePeople(1)[0], id: -1, made_up: true }, changes: ['cart 60'] },
      };
    if (is('listRecipients')) return { body: { recipients: somePeople(2), total: 2 } };
    return {};
  });
}

function Opened() {
  const { open, setOpen } = useEveryone();
  useEffect(() => setOpen(true), [setOpen]);
  return open ? <Everyone /> : null;
}
let sent: Sent[];
beforeEach(() => {
  marks = {};
  refused = false;
  store.dispatch(api.util.resetApiState());
  globalThis.EventSource = class {
    close() {}
  } as never;
  sent = server();
  fakeWorker();
  openTemplate(template);
  renderOnDesk(
    <EveryoneProvider>
      <Notifications />
      <Opened />
    </EveryoneProvider>,
  );
});
afterEach(cleanup);

const user = userEvent.setup({ delay: null });
const variants = async () =>
  within(await screen.findByRole('region', { name: 'Variants' })).findAllByRole('listitem');

test('each different mail is a row, with its share and what sets it apart; one that is looked at is ticked', async () => {
  const [usual, other] = await variants();
  expect(usual?.textContent).toContain('The usual in every part7 people, 70 %');
  expect(other?.textContent).toContain('Without “A gift” · no first name3 people, 30 %');
  const tick = within(other as HTMLElement).getByRole<HTMLInputElement>('checkbox');
  await waitFor(() => expect(other?.querySelector('iframe')).toBeTruthy());
  await user.click(within(other as HTMLElement).getByRole('button'));
  await waitFor(() => expect(desk().recipients[desk().index]?.id).toBe(2));
  await waitFor(() => expect(tick.checked).toBe(true));
  expect(Object.keys(marks)).toEqual([key(2, 2)]);
  await user.click(tick);
  await waitFor(() => expect(tick.checked).toBe(false));
  expect(marks).toEqual({});
});

test('a tick that somebody made stands, and lapses where the mail is another by now', async () => {
  marks = { [key(1, 1)]: 'another', [key(2, 2)]: 'gone' };
  store.dispatch(api.util.invalidateTags([{ type: 'looked', id: 't1' }]));
  const [usual] = await variants();
  await waitFor(() => expect(usual?.querySelector('iframe')).toBeTruthy());
  await waitFor(() => expect(marks).toEqual({}));
  for (const tick of screen.getAllByRole<HTMLInputElement>('checkbox', { name: 'Looked at' }))
    await waitFor(() => expect(tick.checked).toBe(false));
});

test('a tick that is not kept goes again, and it is said', async () => {
  refused = true;
  const [, other] = await variants();
  const tick = within(other as HTMLElement).getByRole<HTMLInputElement>('checkbox');
  await waitFor(() => expect(other?.querySelector('iframe')).toBeTruthy());
  await user.click(tick);
  expect(await screen.findByText('The disk is full.')).toBeTruthy();
  expect(tick.checked).toBe(false);
});

test('fewer kinds of decisions make fewer rows', async () => {
  await variants();
  await user.click(screen.getByRole('button', { name: 'What makes them different' }));
  for (const name of ['Conditions', 'Blanks and fallbacks'])
    await user.click(await screen.findByRole('checkbox', { name }));
  expect(screen.getByText(/^1 different email/)).toBeTruthy();
});

test('it is told of how many mails do not go out', async () => {
  await variants();
  expect(
    screen.getByText(/^4 of them are not sent: the condition under “Send only if”/),
  ).toBeTruthy();
});

test('a block is added or taken out in one click, and back by undo', async () => {
  await user.click(await screen.findByRole('tab', { name: /Checks/ }));
  const before = desk().template;
  const kinds = () => JSON.stringify(desk().template).match(/"kind":"(?:foot|text)"/g);
  await user.click(await screen.findByRole('button', { name: 'Add “Footer”' }));
  expect(kinds()).toEqual(['"kind":"text"', '"kind":"foot"']);
  await user.click(await screen.findByRole('button', { name: 'Delete the block' }));
  expect(kinds()).toEqual(['"kind":"foot"']);
  for (const _ of [1, 2]) act(() => void store.dispatch(deskActions.undone()));
  expect(desk().template).toEqual(before);
});

test('an expectation is named; one that cannot be read is not judged', async () => {
  await user.click(await screen.findByRole('tab', { name: 'Expected' }));
  await user.click(screen.getByRole('button', { name: 'Add an expectation' }));
  await user.type(screen.getByRole('textbox', { name: 'Name of expectation 1' }), 'Short');
  expect(desk().template?.expectations).toEqual([
    { formula: 'length(mail.subject) <= 60', name: 'Short' },
  ]);
  expect(screen.getByText(/^Not checked yet\./)).toBeTruthy();
  const broken = { ...template, expectations: [{ formula: 'mail.subject contains (' }] };
  act(() => void openTemplate(broken));
  expect(await screen.findByText(/^Not checked: the formula cannot be read\./)).toBeTruthy();
});

test('a finding is repaired in one click, looked at, and switched off with a reason', async () => {
  await user.click(await screen.findByRole('tab', { name: /Checks/ }));
  await user.click(await screen.findByRole('button', { name: 'Add a fallback' }));
  expect(JSON.stringify(desk().template)).toContain('person.first_name otherwise \\"…\\"');
  await user.click(
    (await screen.findAllByRole('button', { name: 'Switch this check off' }))[0] as HTMLElement,
  );
  await user.type(screen.getByLabelText('Why it does not apply here'), 'Few');
  await user.click(screen.getByRole('button', { name: 'Switch off' }));
  expect(desk().template?.checks_off).toEqual([{ check: 'blank_tag', reason: 'Few' }]);
  await user.click(await screen.findByRole('button', { name: 'Switch on' }));
  expect(desk().template?.checks_off).toBeUndefined();
});

test('where nobody reaches a branch, somebody is made and shown', async () => {
  await user.click(await screen.findByRole('tab', { name: /Checks/ }));
  await user.click(await screen.findByRole('button', { name: 'Make one' }));
  await waitFor(() => expect(desk().recipients[desk().index]?.id).toBe(-1));
  const asked = sent.find((one) => isFor(ENDPOINTS.makeOne, one));
  expect(asked?.body).toMatchObject({
    target: { decision: { kind: 'condition', node: 'gift', path: 'when' }, outcome: 'held' },
  });
});

test('tests go one after the other, as those who differ most', async () => {
  await user.click(await screen.findByRole('tab', { name: 'Tests' }));
  await user.click(await screen.findByRole('button', { name: 'Send the 2 most different' }));
  expect(await screen.findByText('2 tests went to me@house.example.')).toBeTruthy();
  const tests = sent.filter((one) => isFor(ENDPOINTS.sendTest, one));
  expect(tests.map(({ body }) => (body as { person: number }).person)).toEqual([1, 2]);
});

test('tests go to those of whose mail most is missing', async () => {
  await user.click(await screen.findByRole('tab', { name: 'Tests' }));
  await user.click(await screen.findByRole('button', { name: 'Send the 1 with most missing' }));
  expect(await screen.findByText('1 test went to me@house.example.')).toBeTruthy();
  const tests = sent.filter((one) => isFor(ENDPOINTS.sendTest, one));
  expect(tests.map(({ body }) => (body as { person: number }).person)).toEqual([2]);
});
