import { Modal, TextInput } from '@mantine/core';
import { useForm } from '@mantine/form';
import { Shop } from '@carafe/contract';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { FormFoot } from '../../parts/FormFoot';
import { zodValidate } from '../../parts/zodValidate';

interface Props {
  onClose: () => void;
  onMade: (shop: Shop) => void;
}

const FIELDS: { name: keyof Shop; label: string; description?: string }[] = [
  { name: 'name', label: 'Name' },
  { name: 'id', label: 'Short name', description: 'In templates and events: my-shop' },
  { name: 'url', label: 'Web address of the shop' },
  { name: 'address', label: 'Postal address', description: 'Stands in the foot of mails' },
  { name: 'currency', label: 'Currency', description: 'Three letters: EUR' },
  { name: 'locale', label: 'Language and country', description: 'de-DE' },
  { name: 'timezone', label: 'Time zone', description: 'Europe/Berlin' },
];
const NEEDED = new Set<keyof Shop>(['id', 'name', 'url']);

/** Another shop that templates can be made for. */
export function NewShop({ onClose, onMade }: Props) {
  const [createShop, { error, isLoading }] = api.useCreateShopMutation();
  const form = useForm<Shop>({
    initialValues: {
      ...{ id: '', name: '', url: 'https://', address: '', logo: '' },
      ...{ currency: 'EUR', locale: 'en-GB', timezone: 'Europe/London' },
    },
    validate: zodValidate(Shop),
    validateInputOnBlur: true,
  });
  const create = async (shop: Shop) => {
    const { data } = await createShop(shop);
    if (data) onMade(data);
  };
  return (
    <Modal opened onClose={onClose} title="Add a shop" size={520}>
      <form noValidate onSubmit={form.onSubmit((shop) => void create(shop))}>
        {FIELDS.map(({ name, label, description }) => (
          <TextInput
            key={name}
            mb={10}
            label={label}
            {...(description && { description })}
            withAsterisk={NEEDED.has(name)}
            {...form.getInputProps(name)}
          />
        ))}
        <FormFoot
          problem={error ? messageOf(error) : null}
          submit="Create"
          busy={isLoading}
          onCancel={onClose}
        />
      </form>
    </Modal>
  );
}
