import { Button, Group, NumberInput, Select, Table, TextInput } from '@mantine/core';
import { useForm } from '@mantine/form';
import { notifications } from '@mantine/notifications';
import { useNavigate } from 'react-router';
import { ChangeSource, type SourceSummary } from '@carafe/contract';
import { readingInWords } from '@carafe/core/formats';
import { targetOf, type FileSettings } from '@carafe/core/intake';
import { EVENT_KIND_NAMES } from '@carafe/core/record';
import { api } from '../../app/api';
import { notifyFailure, notifyUndoable } from '../../parts/notify';
import { zodValidate } from '../../parts/zodValidate';
import { SCHEDULES } from './names';
import table from '../../parts/table.module.css';
import classes from './Source.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

/** What the form says, as the server is asked; what this kind of source does not have is left out. */
function askedOf(
  values: {
    name: string;
    formula_name: string;
    fresh_hours: number | string;
    address: string;
    every: string;
  },
  { kind, target }: SourceSummary,
): ChangeSource {
  const { name, formula_name, fresh_hours, address, every } = values;
  return {
    name,
    fresh_hours: Number(fresh_hours),
    ...(targetOf(target).isNamed && { formula_name }),
    ...(kind === 'address' && { address, every_minutes: every ? Number(every) : null }),
  };
}

/** What a source is called, when it is fetched, when it grows stale, and how its files are read. */
export function SettingsView({ source }: { source: SourceSummary }) {
  const navigate = useNavigate();
  const [changeSource, { isLoading }] = api.useChangeSourceMutation();
  const [deleteSource] = api.useDeleteSourceMutation();
  const [restoreSource] = api.useRestoreSourceMutation();
  const { name, formula_name, address, every_minutes, fresh_hours } = source;
  const form = useForm({
    initialValues: {
      ...{ name, formula_name, fresh_hours },
      address: address ?? '',
      every: every_minutes === null ? '' : String(every_minutes),
    },
    validate: (values) => zodValidate(ChangeSource)(askedOf(values, source)),
  });
  const mapping = (source.settings as FileSettings | null)?.mapping.columns ?? [];
  const save = async () => {
    try {
      await changeSource({ id: source.id, asked: askedOf(form.values, source) }).unwrap();
      form.resetDirty();
      notifications.show({ message: t('saved') });
    } catch (error) {
      notifyFailure(error, t('notSaved'));
    }
  };
  const remove = async () => {
    try {
      await deleteSource(source.id).unwrap();
    } catch (error) {
      notifyFailure(error);
      return;
    }
    notifyUndoable(t('nameWasDeleted', { name: source.name }), async () => {
      await restoreSource(source.id).unwrap();
      await navigate(`/sources/${source.id}`);
    });
    await navigate('/sources');
  };
  return (
    <div className={classes.form}>
      <form noValidate onSubmit={form.onSubmit(() => void save())}>
        <TextInput label={t('name')} mb={10} {...form.getInputProps('name')} />
        {targetOf(source.target).isNamed && (
          <TextInput
            label={t('usedInFormulasAs')}
            description={t('templatesThatUseTheOldName')}
            mb={10}
            {...form.getInputProps('formula_name')}
          />
        )}
        {source.kind === 'address' && (
          <>
            <TextInput label={t('address')} mb={10} {...form.getInputProps('address')} />
            <Select
              label={t('fetched')}
              mb={10}
              allowDeselect={false}
              data={SCHEDULES}
              {...form.getInputProps('every')}
            />
          </>
        )}
        <NumberInput
          label={t('outOfDateAfterHours')}
          description={t('afterThatTheSourceAsksFor')}
          mb={16}
          min={1}
          max={100_000}
          {...form.getInputProps('fresh_hours')}
        />
        <Group>
          <Button type="submit" disabled={!form.isDirty()} loading={isLoading}>
            {t('save')}
          </Button>
          <Button variant="default" onClick={() => void remove()}>
            {t('deleteThisSource')}
          </Button>
        </Group>
      </form>
      {source.kind === 'events' && <HowToPost shop={source.shop ?? 'your-shop'} />}
      {mapping.length > 0 && source.target !== 'events' && (
        <section>
          <h2 style={{ fontSize: 14, margin: '24px 0 4px' }}>{t('howItsFilesAreRead')}</h2>
          <p className="quiet" style={{ marginTop: 0 }}>
            {t('rememberedFromTheLastFileAnd')}
          </p>
          <div className={classes.list}>
            <Table className={table.table ?? ''}>
              <Table.Tbody>
                {mapping.map(({ column, to, reading, list }) => (
                  <Table.Tr key={column}>
                    <Table.Td>{column}</Table.Td>
                    <Table.Td className={classes.data}>
                      {to === null ? t('leftOut') : list ? `${list.name}: ${to}` : to}
                    </Table.Td>
                    <Table.Td className="quiet">{to !== null && readingInWords(reading)}</Table.Td>
                  </Table.Tr>
                ))}
              </Table.Tbody>
            </Table>
          </div>
        </section>
      )}
    </div>
  );
}

/** What the shop's developer needs to know. */
function HowToPost({ shop }: { shop: string }) {
  const example = {
    id: 'e-1',
    at: '2026-03-31T09:00:00Z',
    shop,
    email: 'ann@post.example',
    kind: 'viewed',
    sku: 'S-101',
  };
  return (
    <section>
      <h2 style={{ fontSize: 14, margin: '24px 0 4px' }}>{t('howTheShopPostsEvents')}</h2>
      <p className="quiet" style={{ marginTop: 0 }}>
        {t('oneEventAListOrNDJSON')} <code>{location.origin}/api/events</code>
        {t('sendingTheSameIdTwiceChanges')}{' '}
        {EVENT_KIND_NAMES.map((kind, i) => (
          <span key={kind}>
            {i > 0 && ', '}
            <a href={`/api/schema/events/${kind}.json`}>{kind}</a>
          </span>
        ))}
        .
      </p>
      <pre className={classes.mono}>{JSON.stringify(example, null, 2)}</pre>
    </section>
  );
}
