import { useState } from 'react';
import { Button, Checkbox, SimpleGrid, Textarea, TextInput, UnstyledButton } from '@mantine/core';
import { ENDPOINTS, type TestRecipientData } from '@carafe/contract';
import { fieldLabel } from '@carafe/core/shape';
import { ask, messageOf } from '../../app/ask';
import { testRecipientsApi } from '../../app/testRecipientsApi';
import { useAppDispatch, useDeskState } from '../../app/store';
import { counted } from '../../parts/counted';
import { FormFoot } from '../../parts/FormFoot';
import { notifyFailure, notifyUndoable } from '../../parts/notify';
import { SideSheet } from '../../parts/SideSheet';
import { deskActions } from './deskSlice';
import { useDesk } from './useDesk';
import classes from './Desk.module.css';

/** Recipients made up to look at the mail with: copied from real ones, made for a branch, or written by hand. */
export function TestRecipients({ onClose }: { onClose: () => void }) {
  const { template, recipients, index } = useDeskState('template', 'recipients', 'index');
  const shop = template?.shop ?? '';
  const { data, error } = testRecipientsApi.useTestRecipientsQuery(shop);
  const [add, adding] = testRecipientsApi.useAddTestRecipientMutation();
  const [open, setOpen] = useState<number | null>(null);
  const dispatch = useAppDispatch();
  const shown = recipients[index];
  const all = data?.recipients ?? [];
  const copy = async () => {
    if (!shown) return;
    const name = `Like ${shown.name || shown.email || 'this recipient'}`.slice(0, 120);
    const { data: made, error: refused } = await add({ shop, name, like: shown.id });
    if (made) setOpen(made.id);
    else notifyFailure(refused);
  };
  const look = (id: number) =>
    ask(ENDPOINTS.someRecipients, { params: { shop }, query: { ids: String(id) } })
      .then(({ recipients: [found] }) => {
        if (found) dispatch(deskActions.lookedAt(found));
        onClose();
      })
      .catch(notifyFailure);
  const opened = all.find(({ id }) => id === open);
  return (
    <SideSheet title="Test recipients" width={520} onClose={onClose}>
      {error && <p role="alert">{messageOf(error)}</p>}
      {opened ? (
        <Edit key={opened.id} shop={shop} recipient={opened} onDone={() => setOpen(null)} />
      ) : (
        <>
          <p className="quiet">
            Made up: they stand in no audience, and nothing is ever sent to them but your tests to
            yourself.
          </p>
          <Button
            variant="default"
            disabled={!shown}
            loading={adding.isLoading}
            onClick={() => void copy()}
          >
            Copy {shown?.name || 'the recipient shown'} to change
          </Button>
          <ul className={classes.made} aria-label="Test recipients">
            {all.map(({ id, name, data: { shopper } }) => (
              <li key={id}>
                <UnstyledButton onClick={() => setOpen(id)}>{name}</UnstyledButton>
                <span className="quiet">
                  {counted(shopper.cart?.lines.length ?? 0, 'line')} in the cart,{' '}
                  {counted(shopper.orders.length, 'order')}
                </span>
                <Button size="compact-xs" variant="subtle" onClick={() => void look(id)}>
                  Show
                </Button>
              </li>
            ))}
          </ul>
          {data && all.length === 0 && <p>There are none yet.</p>}
        </>
      )}
    </SideSheet>
  );
}

/** A form over what people of the shop have, and the whole of it as JSON. */
function Edit({
  shop,
  recipient,
  onDone,
}: {
  shop: string;
  recipient: TestRecipientData;
  onDone: () => void;
}) {
  const { shape } = useDesk();
  const { id } = recipient;
  const [name, setName] = useState(recipient.name);
  const [text, setText] = useState(() => JSON.stringify(recipient.data, null, 2));
  const [problem, setProblem] = useState<string | null>(null);
  const [change, changing] = testRecipientsApi.useChangeTestRecipientMutation();
  const [remove] = testRecipientsApi.useDeleteTestRecipientMutation();
  const [add] = testRecipientsApi.useAddTestRecipientMutation();
  const read = (): { person: Record<string, unknown> } | null => {
    try {
      const given: unknown = JSON.parse(text);
      return typeof given === 'object' && given !== null && 'person' in given
        ? (given as { person: Record<string, unknown> })
        : null;
    } catch {
      return null;
    }
  };
  const document = read();
  const fields = shape.kind === 'record' ? shape.fields['person']?.shape : undefined;
  const known = fields?.kind === 'record' ? Object.entries(fields.fields) : [];
  const own = known.filter(
    ([field]) => !/^(?:orders_|last_|first_order|rank)/.test(field) || field === 'last_name',
  );
  // What the shape no longer has stays, and can be seen.
  const gone = Object.keys(document?.person ?? {}).filter(
    (field) => !known.some(([one]) => one === field),
  );
  const put = (field: string, value: unknown) => {
    if (!document) return;
    const person = { ...document.person };
    if (value === '' || value === undefined) delete person[field];
    else person[field] = value;
    setText(JSON.stringify({ ...document, person }, null, 2));
  };
  const save = async () => {
    let data: unknown;
    try {
      data = JSON.parse(text);
    } catch {
      setProblem('The JSON cannot be read: a quote, a comma or a bracket is missing somewhere.');
      return;
    }
    const { error } = await change({ shop, id, name, data });
    if (error) setProblem(messageOf(error));
    else onDone();
  };
  const drop = async () => {
    const { error } = await remove({ shop, id });
    if (error) setProblem(messageOf(error));
    else {
      notifyUndoable(`${recipient.name} is deleted`, () =>
        add({ shop, name: recipient.name, data: recipient.data }).unwrap(),
      );
      onDone();
    }
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <TextInput
        label="Called"
        value={name}
        maxLength={120}
        onChange={({ currentTarget: { value } }) => setName(value)}
      />
      {document && (
        <SimpleGrid cols={2} spacing={8} mt={10}>
          {own.map(([field, { shape: of }]) =>
            of.kind === 'boolean' ? (
              <Checkbox
                key={field}
                mt={26}
                label={fieldLabel(field)}
                checked={document.person[field] === true}
                onChange={({ currentTarget: { checked } }) => put(field, checked)}
              />
            ) : of.kind === 'text' || of.kind === 'number' || of.kind === 'date' ? (
              <TextInput
                key={field}
                label={fieldLabel(field)}
                value={String((document.person[field] as string | number | undefined) ?? '')}
                onChange={({ currentTarget: { value } }) =>
                  put(field, of.kind === 'number' && value !== '' ? Number(value) : value)
                }
              />
            ) : null,
          )}
        </SimpleGrid>
      )}
      {gone.length > 0 && (
        <p className="quiet">
          People of this shop have no {gone.join(', ')} any more; it is kept, and formulas that ask
          for it see it.
        </p>
      )}
      <Textarea
        label="All of it, as JSON"
        description="person, and shopper with cart and orders"
        mt={10}
        autosize
        minRows={8}
        maxRows={20}
        value={text}
        styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 12 } }}
        onChange={({ currentTarget: { value } }) => setText(value)}
      />
      <Button variant="subtle" color="clay" mt={6} onClick={() => void drop()}>
        Delete this test recipient
      </Button>
      <FormFoot problem={problem} submit="Save" busy={changing.isLoading} onCancel={onDone} />
    </form>
  );
}
