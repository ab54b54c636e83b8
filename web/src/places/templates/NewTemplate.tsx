import { useEffect, useState } from 'react';
import { Button, Group, Modal, Radio, Select, Stack, TextInput } from '@mantine/core';
import { useNavigate } from 'react-router';
import type { Shop } from '@carafe/contract';
import { LAYOUTS, readTemplateText } from '@carafe/core/template';
import { api, messageOf } from '../../app/api';

/** A new template from a layout, or from a template file. */
export function NewTemplate({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const navigate = useNavigate();
  const [layout, setLayout] = useState(LAYOUTS[0]?.id ?? '');
  const [name, setName] = useState('');
  const [shops, setShops] = useState<Shop[]>([]);
  const [shop, setShop] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!opened) return;
    setProblem(null);
    api
      .shops()
      .then((found) => {
        setShops(found.shops);
        setShop((chosen) => chosen ?? found.shops[0]?.id ?? null);
      })
      .catch((error: unknown) => setProblem(messageOf(error)));
  }, [opened]);
  const open = async (make: () => ReturnType<typeof api.create>) => {
    try {
      const stored = await make();
      onClose();
      await navigate(`/templates/${stored.id}`);
    } catch (error) {
      setProblem(messageOf(error));
    }
  };
  const fromFile = async (file: File) => {
    const read = readTemplateText(await file.text());
    if (read.ok) await open(() => api.create({ template: read.template }));
    else
      setProblem(
        `${file.name}: ${read.problems.map((p) => `${p.path} ${p.message}`.trim()).join('; ')}`,
      );
  };
  const title = name.trim() || LAYOUTS.find(({ id }) => id === layout)?.name || '';
  return (
    <Modal opened={opened} onClose={onClose} title="New template" size="md">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (shop) void open(() => api.create({ layout, name: title, shop }));
        }}
      >
        <Stack gap={12}>
          <Radio.Group label="Start from" size="xs" value={layout} onChange={setLayout}>
            <Stack gap={8} mt={6}>
              {LAYOUTS.map(({ id, name: layoutName, says }) => (
                <Radio key={id} size="xs" value={id} label={layoutName} description={says} />
              ))}
            </Stack>
          </Radio.Group>
          <TextInput
            label="Name"
            placeholder={title}
            data-autofocus
            value={name}
            maxLength={200}
            onChange={({ currentTarget }) => setName(currentTarget.value)}
          />
          <Select
            label="Speaks for"
            data={shops.map(({ id, name: shopName }) => ({
              value: id,
              label: `${shopName} (${id})`,
            }))}
            value={shop}
            allowDeselect={false}
            onChange={setShop}
          />
          {problem && (
            <div role="alert" style={{ color: 'var(--attention)' }}>
              {problem}
            </div>
          )}
          <Group justify="space-between">
            <Button component="label" variant="default">
              Open a template file
              <input
                type="file"
                accept=".json,application/json"
                hidden
                onChange={({ currentTarget }) => {
                  const [file] = currentTarget.files ?? [];
                  if (file) void fromFile(file);
                }}
              />
            </Button>
            <Button type="submit" disabled={!shop}>
              Make it
            </Button>
          </Group>
        </Stack>
      </form>
    </Modal>
  );
}
