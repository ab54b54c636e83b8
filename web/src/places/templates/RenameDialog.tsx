import { useEffect, useState } from 'react';
import { Button, Group, TextInput } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { wordsOf } from '../../words';

const t = wordsOf('templates');

interface Props {
  opened: boolean;
  name: string;
  onClose: () => void;
  onRename: (name: string) => Promise<void>;
}

export function RenameDialog({ opened, name, onClose, onRename }: Props) {
  const [value, setValue] = useState(name);
  useEffect(() => setValue(name), [name, opened]);
  const valid = value.trim() !== '' && value.length <= 200;
  return (
    <Dialog opened={opened} onClose={onClose} title={t('renameTheTemplate')} size="sm">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!valid) return;
          onClose();
          void onRename(value.trim());
        }}
      >
        <TextInput
          label={t('name')}
          data-autofocus
          value={value}
          error={!valid && t('aNameHas1To200')}
          onChange={({ currentTarget }) => setValue(currentTarget.value)}
        />
        <Group justify="flex-end" mt={12}>
          <Button type="submit" disabled={!valid}>
            {t('rename')}
          </Button>
        </Group>
      </form>
    </Dialog>
  );
}
