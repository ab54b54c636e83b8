import { useState } from 'react';
import { Button, Modal, Textarea, TextInput } from '@mantine/core';
import { IconPlus } from '@tabler/icons-react';
import type { SourceSummary } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';
import { api, messageOf } from '../../app/api';
import { FormFoot } from '../../parts/FormFoot';

const LONG = new Set(['words', 'description', 'content', 'summary']);

/** A row typed in by hand. With the key of one that there is, it takes its place. */
export function TypeRow({
  source,
  onChanged,
}: {
  source: SourceSummary;
  onChanged: () => Promise<void>;
}) {
  const [opened, setOpened] = useState(false);
  const [record, setRecord] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const target = targetOf(source.target);
  const fields = target.fields.filter((field) => field.kind !== 'any');
  const keep = async () => {
    const filled = Object.fromEntries(Object.entries(record).filter(([, v]) => v.trim() !== ''));
    try {
      await api.typeRows(source.id, [filled]);
      setRecord({});
      setProblem(null);
      setOpened(false);
      await onChanged();
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  return (
    <>
      <Button leftSection={<IconPlus size={15} />} onClick={() => setOpened(true)}>
        Add a {target.one}
      </Button>
      <Modal
        opened={opened}
        onClose={() => setOpened(false)}
        title={`Add a ${target.one}`}
        size={480}
      >
        <form
          onSubmit={(event) => {
            event.preventDefault();
            void keep();
          }}
        >
          {fields.map(({ name, label, required = false }) => {
            const props = {
              label,
              required,
              mb: 10,
              value: record[name] ?? '',
              onChange: (event: { currentTarget: { value: string } }) =>
                setRecord({ ...record, [name]: event.currentTarget.value }),
            };
            return LONG.has(name) ? (
              <Textarea key={name} autosize minRows={2} {...props} />
            ) : (
              <TextInput key={name} {...props} />
            );
          })}
          <FormFoot problem={problem} submit="Keep" onCancel={() => setOpened(false)} />
        </form>
      </Modal>
    </>
  );
}
