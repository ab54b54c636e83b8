import { useMemo } from 'react';
import { Select, TextInput } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { useForm } from '@mantine/form';
import { Shop, type StoredShop } from '@carafe/contract';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { FormFoot } from '../../parts/FormFoot';
import { zodValidate } from '../../parts/zodValidate';
import { currencyChoices, languageChoices, timezoneChoices, withChosen } from './shopChoices';

interface Props {
  /** The shop that is changed; null for a new one. */
  shop: StoredShop | null;
  onClose: () => void;
  onSaved: (shop: StoredShop) => void;
}

const FIELDS: { name: keyof Shop; label: string; description?: string }[] = [
  { name: 'name', label: 'Name' },
  { name: 'id', label: 'Short name', description: 'In templates and events: my-shop' },
  { name: 'url', label: 'Web address of the shop' },
  { name: 'address', label: 'Postal address', description: 'Shown in the footer of emails' },
  { name: 'logo', label: 'Web address of the logo' },
  {
    name: 'pictures',
    label: 'Where recipients find pictures',
    description: 'A public address that leads to /pictures on this server',
  },
];
const CHOSEN = [
  { name: 'currency', label: 'Currency' },
  { name: 'locale', label: 'Language and country' },
  { name: 'timezone', label: 'Time zone' },
] as const;
const NEEDED = new Set<keyof Shop>(['id', 'name', 'url']);
/** Carafe's own address stands for pictures until another is given. */
const LATER = new Set<keyof Shop>(['pictures', 'logo']);

const BLANK: Shop = {
  ...{ id: '', name: '', url: 'https://', address: '', logo: '' },
  ...{ currency: 'EUR', locale: 'en-GB', timezone: 'Europe/London' },
};

/** A shop that templates can be made for: a new one, or what is said of one that there is. */
export function ShopForm({ shop, onClose, onSaved }: Props) {
  const [createShop, creating] = api.useCreateShopMutation();
  const [changeShop, changing] = api.useChangeShopMutation();
  const { error, isLoading } = shop ? changing : creating;
  const { version = '', ...said }: Shop & { version?: string } = shop ?? BLANK;
  const form = useForm<Shop>({
    // The form writes into its first values, and what is kept of shops is frozen.
    initialValues: { ...said },
    validate: zodValidate(Shop),
    validateInputOnBlur: true,
  });
  const choices = useMemo(
    () => ({
      currency: currencyChoices(),
      locale: languageChoices(),
      timezone: timezoneChoices(),
    }),
    [],
  );
  const save = async ({ pictures, ...rest }: Shop) => {
    const asked = { ...rest, ...(pictures?.trim() && { pictures }) };
    const { data } = await (shop ? changeShop({ version, shop: asked }) : createShop(asked));
    if (data) onSaved(data);
  };
  const shown = FIELDS.filter(({ name }) => (shop ? name !== 'id' : !LATER.has(name)));
  return (
    <Dialog opened onClose={onClose} title={shop ? shop.name : 'Add a shop'} size={520}>
      <form noValidate onSubmit={form.onSubmit((said) => void save(said))}>
        {shown.map(({ name, label, description }) => (
          <TextInput
            key={name}
            mb={10}
            label={label}
            {...(description && { description })}
            withAsterisk={NEEDED.has(name)}
            {...form.getInputProps(name)}
          />
        ))}
        {CHOSEN.map(({ name, label }) => (
          <Select
            key={name}
            mb={10}
            label={label}
            searchable
            allowDeselect={false}
            nothingFoundMessage="Nothing is called so."
            data={withChosen(choices[name], said[name])}
            {...form.getInputProps(name)}
          />
        ))}
        <FormFoot
          problem={error ? messageOf(error) : null}
          submit={shop ? 'Save' : 'Create'}
          busy={isLoading}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
