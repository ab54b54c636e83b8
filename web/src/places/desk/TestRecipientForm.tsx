import { useState } from 'react';
import { Button, Checkbox, NumberInput, SimpleGrid, Textarea, TextInput } from '@mantine/core';
import type { TestRecipientData } from '@carafe/contract';
import type { Cart } from '@carafe/core/record';
import { fieldLabel } from '@carafe/core/shape';
import { messageOf } from '../../app/ask';
import { testRecipientsApi } from '../../app/testRecipientsApi';
import { FormFoot } from '../../parts/FormFoot';
import { notifyUndoable } from '../../parts/notify';
import { TestCart } from './TestCart';
import { useDesk } from './useDesk';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** What stands in the JSON, as far as the form edits it. */
interface Written {
  person: Record<string, unknown>;
  shopper?: { cart?: Cart | null };
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What the form edits of a text; null where it is no JSON, or has no person. */
function written(text: string): Written | null {
  try {
    const given: unknown = JSON.parse(text);
    return isRecord(given) && isRecord(given['person']) ? (given as unknown as Written) : null;
  } catch {
    return null;
  }
}

/** Whether the form can edit the cart: what was written by hand may be anything. */
function hasReadableCart({ shopper }: { shopper?: unknown }): boolean {
  if (shopper === undefined) return true;
  if (!isRecord(shopper)) return false;
  const cart = shopper['cart'] ?? null;
  if (cart === null) return true;
  return isRecord(cart) && Array.isArray(cart['lines']) && cart['lines'].every(isRecord);
}

/** A form over what people of the shop have and over the cart, and the whole of it as JSON. */
export function TestRecipientForm({
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
  const document = written(text);
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
      setProblem(t('theJSONCannotBeReadA'));
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
      notifyUndoable(t('nameIsDeleted', { name: recipient.name }), () =>
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
        label={t('called')}
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
            ) : of.kind === 'number' ? (
              <NumberInput
                key={field}
                label={fieldLabel(field)}
                hideControls
                value={(document.person[field] as number | undefined) ?? ''}
                onChange={(value) => put(field, value)}
              />
            ) : of.kind === 'text' || of.kind === 'date' ? (
              <TextInput
                key={field}
                label={fieldLabel(field)}
                value={String((document.person[field] as string | number | undefined) ?? '')}
                onChange={({ currentTarget: { value } }) => put(field, value)}
              />
            ) : null,
          )}
        </SimpleGrid>
      )}
      {document && hasReadableCart(document) && (
        <TestCart
          shop={shop}
          cart={document.shopper?.cart ?? null}
          onChange={(cart) => {
            const shopper = { ...document.shopper, cart };
            setText(JSON.stringify({ ...document, shopper }, null, 2));
          }}
        />
      )}
      {gone.length > 0 && (
        <p className="quiet">{t('peopleInThisShopHaveNo', { gone: gone.join(', ') })}</p>
      )}
      <Textarea
        label={t('everythingAsJSON')}
        description={t('personAndShopperWithCartAnd')}
        mt={10}
        autosize
        minRows={8}
        maxRows={20}
        value={text}
        styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 12 } }}
        onChange={({ currentTarget: { value } }) => setText(value)}
      />
      <Button variant="subtle" color="clay" mt={6} onClick={() => void drop()}>
        {t('deleteThisTestRecipient')}
      </Button>
      <FormFoot problem={problem} submit={t('save')} busy={changing.isLoading} onCancel={onDone} />
    </form>
  );
}
