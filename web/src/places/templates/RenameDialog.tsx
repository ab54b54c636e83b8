import { useEffect, useState } from 'react';
import { Button, Group, TextInput } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';

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
    <Dialog opened={opened} onClose={onClose} title="Rename the template" size="sm">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!valid) return;
          onClose();
          void onRename(value.trim());
        }}
      >
        <TextInput
          label="Name"
          data-autofocus
          value={value}
          error={!valid && 'A name has 1 to 200 characters.'}
          onChange={({ currentTarget }) => setValue(currentTarget.value)}
        />
        <Group justify="flex-end" mt={12}>
          <Button type="submit" disabled={!valid}>
            Rename
          </Button>
        </Group>
      </form>
    </Dialog>
  );
}
