import { useState } from 'react';
import { Modal, TextInput } from '@mantine/core';
import type { Shop } from '@carafe/contract';
import { api, messageOf } from '../../app/api';
import { FormFoot } from '../../parts/FormFoot';

interface Props {
  onClose: () => void;
  onMade: (shop: Shop) => void;
}

const FIELDS: { name: keyof Shop; label: string; description?: string }[] = [
  { name: 'name', label: 'Name' },
  { name: 'id', label: 'Short name', description: 'In templates and events: my-shop' },
  { name: 'url', label: 'Address of the shop' },
  { name: 'address', label: 'Postal address', description: 'Stands in the foot of mails' },
  { name: 'currency', label: 'Currency', description: 'Three letters: EUR' },
  { name: 'locale', label: 'Language and country', description: 'de-DE' },
  { name: 'timezone', label: 'Time zone', description: 'Europe/Berlin' },
];

/** Another shop that templates can speak for. */
export function NewShop({ onClose, onMade }: Props) {
  const [shop, setShop] = useState<Shop>({
    ...{ id: '', name: '', url: 'https://', address: '', logo: '' },
    ...{ currency: 'EUR', locale: 'en-GB', timezone: 'Europe/London' },
  });
  const [problem, setProblem] = useState<string | null>(null);
  const make = async () => {
    try {
      onMade(await api.addShop(shop));
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  return (
    <Modal opened onClose={onClose} title="Another shop" size={520}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        {FIELDS.map(({ name, label, description }) => (
          <TextInput
            key={name}
            mb={10}
            label={label}
            {...(description && { description })}
            required={name === 'id' || name === 'name' || name === 'url'}
            value={shop[name]}
            onChange={({ currentTarget: { value } }) => setShop({ ...shop, [name]: value })}
          />
        ))}
        <FormFoot problem={problem} submit="Add the shop" onCancel={onClose} />
      </form>
    </Modal>
  );
}
