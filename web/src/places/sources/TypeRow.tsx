import { useState } from 'react';
import { Button, Textarea, TextInput } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { useForm } from '@mantine/form';
import { IconPlus } from '@tabler/icons-react';
import type { SourceSummary } from '@carafe/contract';
import { targetOf } from '@carafe/core/intake';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { FormFoot } from '../../parts/FormFoot';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const LONG = new Set(['words', 'description', 'content', 'summary']);

/** A row typed in by hand. With the key of one that there is, it takes its place. */
export function TypeRow({ source }: { source: SourceSummary }) {
  const [typeRows, { isLoading }] = api.useTypeRowsMutation();
  const [opened, setOpened] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const target = targetOf(source.target);
  const fields = target.fields.filter((field) => field.kind !== 'any');
  const form = useForm<Record<string, string>>({
    initialValues: Object.fromEntries(fields.map(({ name }) => [name, ''])),
    validate: Object.fromEntries(
      fields
        .filter(({ required }) => required)
        .map(({ name, label }) => [
          name,
          (value: string) => (value.trim() === '' ? t('labelIsNeeded', { label }) : null),
        ]),
    ),
  });
  const keep = async (record: Record<string, string>) => {
    const filled = Object.fromEntries(Object.entries(record).filter(([, v]) => v.trim() !== ''));
    try {
      await typeRows({ id: source.id, records: [filled] }).unwrap();
      form.reset();
      setProblem(null);
      setOpened(false);
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  return (
    <>
      <Button leftSection={<IconPlus size={15} />} onClick={() => setOpened(true)}>
        {t('addAOne', { one: target.one })}
      </Button>
      <Dialog
        opened={opened}
        onClose={() => setOpened(false)}
        title={t('addAOne', { one: target.one })}
        size={480}
      >
        <form noValidate onSubmit={form.onSubmit((record) => void keep(record))}>
          {fields.map(({ name, label, required = false }) => {
            const props = {
              label,
              withAsterisk: required,
              mb: 10,
              ...form.getInputProps(name),
            };
            return LONG.has(name) ? (
              <Textarea key={name} autosize minRows={2} {...props} />
            ) : (
              <TextInput key={name} {...props} />
            );
          })}
          <FormFoot
            problem={problem}
            submit={t('create')}
            busy={isLoading}
            onCancel={() => setOpened(false)}
          />
        </form>
      </Dialog>
    </>
  );
}
