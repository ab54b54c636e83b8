import { useState } from 'react';
import { Button, Group, NumberInput, Select, TextInput } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useNavigate } from 'react-router';
import type { ChangeSource, SourceSummary } from '@carafe/contract';
import { readingInWords } from '@carafe/core/formats';
import type { FileSettings } from '@carafe/core/intake';
import { EVENT_KIND_NAMES } from '@carafe/core/record';
import { api } from '../../app/api';
import { tellFailure, tellUndoable } from '../../parts/tell';
import { SCHEDULES } from './names';
import table from '../../parts/table.module.css';
import classes from './Source.module.css';

/** What a source is called, when it is fetched, when it grows stale, and how its files are read. */
export function SettingsView({
  source,
  onChanged,
}: {
  source: SourceSummary;
  onChanged: () => Promise<void>;
}) {
  const navigate = useNavigate();
  const [wanted, setWanted] = useState<ChangeSource>({});
  const { name, slot, address, every_minutes, fresh_hours } = { ...source, ...wanted };
  const isNamed = source.target === 'catalog' || source.target === 'feed';
  const mapping = (source.settings as FileSettings | null)?.mapping.columns ?? [];
  const save = async () => {
    try {
      await api.changeSource(source.id, wanted);
      setWanted({});
      notifications.show({ message: 'Saved.' });
    } catch (error) {
      tellFailure(error, 'Not saved');
    }
    await onChanged();
  };
  const remove = async () => {
    try {
      await api.removeSource(source.id);
    } catch (error) {
      tellFailure(error);
      return;
    }
    tellUndoable(`“${source.name}” was deleted`, async () => {
      await api.restoreSource(source.id);
      await navigate(`/sources/${source.id}`);
    });
    await navigate('/sources');
  };
  return (
    <div className={classes.form}>
      <TextInput
        label="Name"
        mb={10}
        value={name}
        onChange={({ currentTarget: { value } }) => setWanted({ ...wanted, name: value })}
      />
      {isNamed && (
        <TextInput
          label="In formulas"
          description="Templates that name it otherwise no longer find it."
          mb={10}
          value={slot}
          onChange={({ currentTarget: { value } }) => setWanted({ ...wanted, slot: value })}
        />
      )}
      {source.kind === 'address' && (
        <>
          <TextInput
            label="Address"
            mb={10}
            value={address ?? ''}
            onChange={({ currentTarget: { value } }) => setWanted({ ...wanted, address: value })}
          />
          <Select
            label="Fetched"
            mb={10}
            value={every_minutes === null ? '' : String(every_minutes)}
            allowDeselect={false}
            data={SCHEDULES}
            onChange={(value) =>
              setWanted({ ...wanted, every_minutes: value ? Number(value) : null })
            }
          />
        </>
      )}
      <NumberInput
        label="Stale after so many hours"
        description="From then on the source asks for attention."
        mb={16}
        min={1}
        max={100_000}
        value={fresh_hours}
        onChange={(value) => setWanted({ ...wanted, fresh_hours: Number(value) || 1 })}
      />
      <Group>
        <Button disabled={Object.keys(wanted).length === 0} onClick={() => void save()}>
          Save
        </Button>
        <Button variant="default" onClick={() => void remove()}>
          Delete this source
        </Button>
      </Group>
      {source.kind === 'events' && <HowToPost shop={source.shop ?? 'your-shop'} />}
      {mapping.length > 0 && source.target !== 'events' && (
        <section>
          <h2 style={{ fontSize: 14, margin: '24px 0 4px' }}>How its files are read</h2>
          <p className="quiet" style={{ marginTop: 0 }}>
            Kept from the last file, and used again for the next. It can be changed when one comes.
          </p>
          <div className={classes.list}>
            <table className={table.table}>
              <tbody>
                {mapping.map(({ column, to, reading, list }) => (
                  <tr key={column}>
                    <td>{column}</td>
                    <td className={classes.data}>
                      {to === null ? 'left out' : list ? `${list.name}: ${to}` : to}
                    </td>
                    <td className="quiet">{to !== null && readingInWords(reading)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
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
      <h2 style={{ fontSize: 14, margin: '24px 0 4px' }}>How the shop posts events</h2>
      <p className="quiet" style={{ marginTop: 0 }}>
        One event, a list or NDJSON, to <code>{location.origin}/api/events</code>. The same id twice
        changes nothing. The shape of each, as JSON Schema:{' '}
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
