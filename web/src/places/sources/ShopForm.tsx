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
import { wordsOf } from '../../words';

const t = wordsOf('sources');

interface Props {
  /** The shop that is changed; null for a new one. */
  shop: StoredShop | null;
  onClose: () => void;
  onSaved: (shop: StoredShop) => void;
}

const FIELDS: { name: keyof Shop; label: string; description?: string }[] = [
  { name: 'name', label: t('name') },
  { name: 'id', label: t('shortName'), description: t('inTemplatesAndEventsMyShop') },
  { name: 'url', label: t('webAddressOfTheShop') },
  { name: 'address', label: t('postalAddress'), description: t('shownInTheFooterOfEmails') },
  { name: 'logo', label: t('webAddressOfTheLogo') },
  {
    name: 'pictures',
    label: t('whereRecipientsFindPictures'),
    description: t('aPublicAddressThatLeadsTo'),
  },
];
const CHOSEN = [
  { name: 'currency', label: t('currency') },
  { name: 'locale', label: t('languageAndCountry') },
  { name: 'timezone', label: t('timeZone') },
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
    <Dialog opened onClose={onClose} title={shop ? shop.name : t('addAShop2')} size={520}>
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
            nothingFoundMessage={t('nothingIsCalledSo')}
            data={withChosen(choices[name], said[name])}
            {...form.getInputProps(name)}
          />
        ))}
        <FormFoot
          problem={error ? messageOf(error) : null}
          submit={shop ? t('save') : t('create')}
          busy={isLoading}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
