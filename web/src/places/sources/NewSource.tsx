import { useState } from 'react';
import {
  Button,
  FileButton,
  Group,
  Modal,
  SegmentedControl,
  Select,
  TextInput,
} from '@mantine/core';
import { useNavigate } from 'react-router';
import type { Shop, SourceKind, SourceSummary, SourceTarget } from '@carafe/contract';
import { TARGETS } from '@carafe/core/intake';
import { api, messageOf } from '../../app/api';
import { FormFoot } from '../../parts/FormFoot';
import { KIND_NAMES, SCHEDULES, slotFrom, targetName } from './names';
import { NewShop } from './NewShop';

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

/** What a file or address is, for a source of its own or one that there is. */
export function NewSource({ shops: known, sources, file: dropped, onClose, onSend }: Props) {
  const navigate = useNavigate();
  const [shops, setShops] = useState(known);
  const [into, setInto] = useState(NEW_SOURCE);
  const [file, setFile] = useState(dropped);
  const [kind, setKind] = useState<SourceKind>('file');
  const [target, setTarget] = useState<SourceTarget>('catalog');
  const [shop, setShop] = useState(known[0]?.id ?? EVERY_SHOP);
  const [name, setName] = useState(dropped?.name.replace(/\.[^.]*$/, '') ?? '');
  const [slot, setSlot] = useState<string | null>(null);
  const [address, setAddress] = useState('');
  const [every, setEvery] = useState('1440');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  /** The source that a first try made: the next one goes on with it. */
  const [made, setMade] = useState<string | null>(null);
  const [makingShop, setMakingShop] = useState(false);
  const isNew = into === NEW_SOURCE;
  const isNamed = target === 'catalog' || target === 'feed';
  const shownSlot = slot ?? slotFrom(name);
  const choose = (chosen: File | null) => {
    setFile(chosen);
    if (chosen && name === '') setName(chosen.name.replace(/\.[^.]*$/, ''));
  };
  const ensureSource = async (): Promise<string> => {
    const said = {
      name: name.trim(),
      slot: isNamed ? shownSlot : target,
      ...(kind === 'address' && { address, every_minutes: every ? Number(every) : null }),
    };
    if (made !== null) {
      await api.changeSource(made, said);
      return made;
    }
    const asked = { ...said, shop: shop === EVERY_SHOP ? null : shop, kind, target };
    const { id } = await api.addSource(asked);
    setMade(id);
    return id;
  };
  const go = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const id = isNew ? await ensureSource() : into;
      if (file && (kind === 'file' || !isNew)) await onSend(id, file);
      else if (kind === 'address') {
        const { look } = await api.fetchSource(id);
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
      <NewShop
        onClose={() => setMakingShop(false)}
        onMade={(made) => {
          setShops([...shops, made]);
          setShop(made.id);
          setMakingShop(false);
        }}
      />
    );
  const takers = sources.filter((s) => s.kind === 'file' || s.kind === 'events');
  return (
    <Modal
      opened
      onClose={onClose}
      title={dropped ? `Bring in ${dropped.name}` : 'Add a source'}
      size={520}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        {dropped && takers.length > 0 && (
          <Select
            label="Into"
            mb={12}
            value={into}
            onChange={(value) => setInto(value ?? NEW_SOURCE)}
            allowDeselect={false}
            data={[
              { value: NEW_SOURCE, label: 'A new source' },
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
                aria-label="How the data comes"
                disabled={made !== null}
                value={kind}
                onChange={(value) => {
                  setKind(value as SourceKind);
                  if (value === 'events') setTarget('events');
                }}
                data={(Object.keys(KIND_NAMES) as SourceKind[]).map((value) => ({
                  value,
                  label: KIND_NAMES[value],
                }))}
              />
            )}
            <Group grow gap={12} mb={12} align="flex-start">
              <Select
                label="What it feeds"
                value={target}
                onChange={(value) => setTarget((value as SourceTarget | null) ?? 'catalog')}
                allowDeselect={false}
                disabled={kind === 'events' || made !== null}
                data={TARGETS.map((value) => ({ value, label: targetName(value) }))}
              />
              <Select
                label="For which shop"
                disabled={made !== null}
                value={shop}
                onChange={(value) => {
                  if (value === NEW_SHOP) setMakingShop(true);
                  else setShop(value ?? EVERY_SHOP);
                }}
                allowDeselect={false}
                data={[
                  ...shops.map(({ id, name: label }) => ({ value: id, label })),
                  { value: EVERY_SHOP, label: 'Every shop' },
                  { value: NEW_SHOP, label: 'Another shop …' },
                ]}
              />
            </Group>
            <TextInput
              label="Name"
              required
              mb={12}
              value={name}
              data-autofocus
              placeholder="Spring catalog"
              onChange={({ currentTarget: { value } }) => setName(value)}
            />
            {isNamed && (
              <TextInput
                label="In formulas"
                description={`Templates reach it as ${target === 'feed' ? 'feeds' : 'catalog'}.${shownSlot}`}
                mb={12}
                value={shownSlot}
                onChange={({ currentTarget: { value } }) => setSlot(value)}
                styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)' } }}
              />
            )}
            {kind === 'address' && (
              <Group grow gap={12} mb={12} align="flex-start">
                <TextInput
                  label="Address"
                  required
                  value={address}
                  placeholder="https://…"
                  onChange={({ currentTarget: { value } }) => setAddress(value)}
                />
                <Select
                  label="Fetched"
                  value={every}
                  onChange={(value) => setEvery(value ?? '')}
                  allowDeselect={false}
                  data={SCHEDULES}
                />
              </Group>
            )}
          </>
        )}
        {!dropped && kind === 'file' && (
          <Group gap={12} mb={12}>
            <FileButton onChange={choose} inputProps={{ 'aria-label': 'File' }}>
              {(props) => (
                <Button variant="default" {...props}>
                  Choose a file
                </Button>
              )}
            </FileButton>
            <span className="quiet">
              {file?.name ?? 'CSV, TSV, JSON, NDJSON, JSON-LD or a feed'}
            </span>
          </Group>
        )}
        <FormFoot
          problem={problem}
          submit={file || kind === 'address' ? 'Look at it' : 'Add'}
          busy={busy}
          onCancel={onClose}
        />
      </form>
    </Modal>
  );
}
