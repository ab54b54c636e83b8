import { useState } from 'react';
import { Button, FileButton, Group, SegmentedControl, Select, TextInput } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { useForm } from '@mantine/form';
import { useNavigate } from 'react-router';
import {
  CreateSource,
  type Shop,
  type SourceKind,
  type SourceSummary,
  type SourceTarget,
} from '@carafe/contract';
import { TARGETS, targetOf } from '@carafe/core/intake';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import { FormFoot } from '../../parts/FormFoot';
import { zodValidate } from '../../parts/zodValidate';
import { formulaNameFrom, KIND_NAMES, SCHEDULES, targetName } from './names';
import { ShopForm } from './ShopForm';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

interface Props {
  shops: Shop[];
  sources: SourceSummary[];
  /** A file that was dropped. */
  file: File | null;
  onClose: () => void;
  onSend: (source: string, file: File) => Promise<void>;
}

const EVERY_SHOP = '*';
const NEW_SHOP = '+';
const NEW_SOURCE = '+';
const MONO = { input: { fontFamily: 'var(--mantine-font-family-monospace)' } };

interface Values {
  kind: SourceKind;
  target: SourceTarget;
  shop: string;
  name: string;
  /** Empty as long as it follows the name. */
  formula_name: string;
  address: string;
  every: string;
}

/** What the form says, as the server is asked. */
function askedOf({ kind, target, shop, name, formula_name, address, every }: Values): CreateSource {
  const { isNamed } = targetOf(target);
  return {
    kind,
    target,
    name: name.trim(),
    shop: shop === EVERY_SHOP ? null : shop,
    formula_name: isNamed ? formula_name || formulaNameFrom(name) : target,
    ...(kind === 'address' && { address, every_minutes: every ? Number(every) : null }),
  };
}

const bareName = (file: File | null) => file?.name.replace(/\.[^.]*$/, '') ?? '';

/** What a file or address is, for a source of its own or one that there is. */
export function NewSource({ shops, sources, file: dropped, onClose, onSend }: Props) {
  const navigate = useNavigate();
  const [createSource] = api.useCreateSourceMutation();
  const [changeSource] = api.useChangeSourceMutation();
  const [fetchSource] = api.useFetchSourceMutation();
  const [into, setInto] = useState(NEW_SOURCE);
  const [file, setFile] = useState(dropped);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  /** The source that a first try made: the next one goes on with it. */
  const [made, setMade] = useState<string | null>(null);
  const [makingShop, setMakingShop] = useState(false);
  const form = useForm<Values>({
    initialValues: {
      ...{ kind: 'file', target: 'catalog', shop: shops[0]?.id ?? EVERY_SHOP },
      ...{ name: bareName(dropped), formula_name: '', address: '', every: '1440' },
    },
    validate: (values) => (into === NEW_SOURCE ? zodValidate(CreateSource)(askedOf(values)) : {}),
  });
  const { values } = form;
  const { kind, target } = values;
  const isNew = into === NEW_SOURCE;
  const { isNamed, formula } = targetOf(target);
  const name = values.formula_name || formulaNameFrom(values.name);
  const choose = (chosen: File | null) => {
    setFile(chosen);
    if (chosen && values.name === '') form.setFieldValue('name', bareName(chosen));
  };
  const ensureSource = async (): Promise<string> => {
    const asked = askedOf(values);
    if (made === null) {
      const { id } = await createSource(asked).unwrap();
      setMade(id);
      return id;
    }
    const { kind: _kind, target: _target, shop: _shop, ...said } = asked;
    await changeSource({ id: made, asked: said }).unwrap();
    return made;
  };
  const go = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const id = isNew ? await ensureSource() : into;
      if (file && (kind === 'file' || !isNew)) await onSend(id, file);
      else if (kind === 'address') {
        const { look } = await fetchSource(id).unwrap();
        await navigate(look ? `/sources/${id}/files/${look.import.id}` : `/sources/${id}`);
      } else await navigate(`/sources/${id}`);
      onClose();
    } catch (error) {
      setProblem(messageOf(error));
    } finally {
      setBusy(false);
    }
  };
  if (makingShop)
    return (
      <ShopForm
        shop={null}
        onClose={() => setMakingShop(false)}
        onSaved={({ id }) => {
          form.setFieldValue('shop', id);
          setMakingShop(false);
        }}
      />
    );
  const takers = sources.filter((s) => s.kind === 'file' || s.kind === 'events');
  return (
    <Dialog
      opened
      onClose={onClose}
      title={dropped ? t('importName', { name: dropped.name }) : t('addASource')}
      size={520}
    >
      <form noValidate onSubmit={form.onSubmit(() => void go())}>
        {dropped && takers.length > 0 && (
          <Select
            label={t('addTo')}
            mb={12}
            value={into}
            onChange={(value) => setInto(value ?? NEW_SOURCE)}
            allowDeselect={false}
            data={[
              { value: NEW_SOURCE, label: t('aNewSource') },
              ...takers.map(({ id, name: label }) => ({ value: id, label })),
            ]}
          />
        )}
        {isNew && (
          <>
            {!dropped && (
              <SegmentedControl
                fullWidth
                size="xs"
                mb={12}
                aria-label={t('howTheDataComes')}
                disabled={made !== null}
                value={kind}
                onChange={(value) => {
                  form.setFieldValue('kind', value as SourceKind);
                  if (value === 'events') form.setFieldValue('target', 'events');
                }}
                data={(Object.keys(KIND_NAMES) as SourceKind[]).map((value) => ({
                  value,
                  label: KIND_NAMES[value],
                }))}
              />
            )}
            <Group grow gap={12} mb={12} align="flex-start">
              <Select
                label={t('contains')}
                allowDeselect={false}
                disabled={kind === 'events' || made !== null}
                data={TARGETS.map((value) => ({ value, label: targetName(value) }))}
                {...form.getInputProps('target')}
              />
              <Select
                label={t('shop')}
                disabled={made !== null}
                allowDeselect={false}
                data={[
                  ...shops.map(({ id, name: label }) => ({ value: id, label })),
                  { value: EVERY_SHOP, label: t('everyShop') },
                  { value: NEW_SHOP, label: t('addAShop') },
                ]}
                value={values.shop}
                onChange={(value) => {
                  if (value === NEW_SHOP) setMakingShop(true);
                  else form.setFieldValue('shop', value ?? EVERY_SHOP);
                }}
              />
            </Group>
            <TextInput
              label={t('name')}
              withAsterisk
              mb={12}
              data-autofocus
              placeholder={t('springCatalog')}
              {...form.getInputProps('name')}
            />
            {isNamed && (
              <TextInput
                label={t('usedInFormulasAs')}
                description={t('templatesReachItAsValue', { value: formula(name) ?? name })}
                mb={12}
                styles={MONO}
                {...form.getInputProps('formula_name')}
                value={name}
              />
            )}
            {kind === 'address' && (
              <Group grow gap={12} mb={12} align="flex-start">
                <TextInput
                  label={t('address')}
                  withAsterisk
                  placeholder={t('https')}
                  {...form.getInputProps('address')}
                />
                <Select
                  label={t('fetched')}
                  allowDeselect={false}
                  data={SCHEDULES}
                  {...form.getInputProps('every')}
                />
              </Group>
            )}
          </>
        )}
        {!dropped && kind === 'file' && (
          <Group gap={12} mb={12}>
            <FileButton onChange={choose} inputProps={{ 'aria-label': t('file') }}>
              {(props) => (
                <Button variant="default" {...props}>
                  {t('chooseAFile')}
                </Button>
              )}
            </FileButton>
            <span className="quiet">{file?.name ?? t('cSVTSVJSONNDJSONJSONLD')}</span>
          </Group>
        )}
        <FormFoot
          problem={problem}
          submit={file || kind === 'address' ? t('continue') : t('create')}
          busy={busy}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
