import { useEffect, useRef, useState } from 'react';
import { Button, FileButton, Group, Radio, Select, Stack, TextInput } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { useForm } from '@mantine/form';
import { useNavigate } from 'react-router';
import type { CreateTemplate } from '@carafe/contract';
import { LAYOUTS, readTemplateText } from '@carafe/core/template';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { wordsOf } from '../../words';

const t = wordsOf('templates');

/** A new template from a layout, or from a template file. */
export function NewTemplate({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const { data, error } = api.useShopsQuery();
  const [createTemplate, { isLoading }] = api.useCreateTemplateMutation();
  const shops = data?.shops ?? [];
  const [problem, setProblem] = useState<string | null>(null);
  const form = useForm({
    initialValues: { layout: LAYOUTS[0]?.id ?? '', name: '', shop: '' },
    validate: {
      name: (name) => (name.trim().length > 200 ? t('aNameHasAtMost200') : null),
    },
  });
  const { layout, name } = form.values;
  const shop = form.values.shop || shops[0]?.id;
  const title = name.trim() || LAYOUTS.find(({ id }) => id === layout)?.name || '';
  const create = async (asked: CreateTemplate) => {
    try {
      const stored = await createTemplate(asked).unwrap();
      onClose();
      await navigate(`/templates/${stored.id}`);
    } catch (failure) {
      setProblem(messageOf(failure));
    }
  };
  const fromFile = async (file: File | null) => {
    if (!file) return;
    if (!/json/i.test(`${file.type} ${file.name}`)) {
      setProblem(t('nameIsNoTemplateFileCarafe', { name: file.name }));
      return;
    }
    const read = readTemplateText(await file.text());
    if (read.ok) await create({ template: read.template });
    else
      setProblem(
        `${file.name}: ${read.problems.map((p) => `${p.path} ${p.message}`.trim()).join(' ')}`,
      );
  };
  // Asked for before the shops were there: it is made when they are.
  const [isAsked, setIsAsked] = useState(false);
  const latest = useRef(create);
  latest.current = create;
  useEffect(() => {
    if (!isAsked || !shop) return;
    setIsAsked(false);
    void latest.current({ layout, name: title, shop });
  }, [isAsked, shop, layout, title]);
  const told = problem ?? (error ? messageOf(error) : null);
  return (
    <Dialog opened onClose={onClose} title={t('newTemplate')} size="md">
      <form
        noValidate
        onSubmit={form.onSubmit(() => {
          if (shop) void create({ layout, name: title, shop });
          else setIsAsked(true);
        })}
      >
        <Stack gap={12}>
          <Radio.Group label={t('startFrom')} size="xs" {...form.getInputProps('layout')}>
            <Stack gap={8} mt={6}>
              {LAYOUTS.map(({ id, name: label, description }) => (
                <Radio key={id} size="xs" value={id} label={label} description={description} />
              ))}
            </Stack>
          </Radio.Group>
          <TextInput
            label={t('name')}
            placeholder={title}
            data-autofocus
            {...form.getInputProps('name')}
          />
          <Select
            label={t('shop')}
            data={shops.map(({ id, name: label }) => ({ value: id, label: `${label} (${id})` }))}
            allowDeselect={false}
            {...form.getInputProps('shop')}
            value={shop ?? null}
          />
          {told && (
            <div role="alert" style={{ color: 'var(--attention)' }}>
              {told}
            </div>
          )}
          <Group justify="space-between">
            <FileButton
              accept=".json,application/json"
              onChange={(file) => void fromFile(file)}
              inputProps={{ 'aria-label': t('templateFile') }}
            >
              {(props) => (
                <Button variant="default" {...props}>
                  {t('openATemplateFile')}
                </Button>
              )}
            </FileButton>
            <Button type="submit" loading={isLoading || (isAsked && !error)}>
              {t('create')}
            </Button>
          </Group>
        </Stack>
      </form>
    </Dialog>
  );
}
