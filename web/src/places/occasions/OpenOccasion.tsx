import { useMemo, useState } from 'react';
import { ActionIcon, Button, TextInput, Tooltip } from '@mantine/core';
import { IconArrowBackUp } from '@tabler/icons-react';
import type { Recipient, StoredOccasion } from '@carafe/contract';
import type { ShopRules } from '@carafe/core/occasion';
import { withPast } from '@carafe/core/record';
import { ANY } from '@carafe/core/shape';
import { api } from '../../app/api';
import { occasionsApi } from '../../app/occasionsApi';
import { movedNow, useMoved } from '../../app/useNow';
import { InsideList } from './InsideList';
import { Replay } from './Replay';
import { StartForm } from './StartForm';
import { SwitchOff } from './SwitchOff';
import { SwitchOn } from './SwitchOn';
import { TimeLine } from './TimeLine';
import { useOccasion } from './useOccasion';
import { Walk } from './Walk';
import { WhomForm } from './WhomForm';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

interface Props {
  shop: string;
  stored: StoredOccasion;
  others: readonly StoredOccasion[];
  rules: ShopRules;
}

/** One occasion: its draft as a column, the person who walks through it, and what it comes to. */
export function OpenOccasion({ shop, stored, others, rules }: Props) {
  const edit = useOccasion(stored);
  const { occasion, put } = edit;
  const { data: ofShop = ANY } = api.useShapeQuery(shop);
  const shape = useMemo(() => withPast(ofShop), [ofShop]);
  const { data: listed } = api.useTemplatesQuery();
  const { data: known } = api.useSourcesQuery();
  const { data: shops } = api.useShopsQuery();
  const { data: named } = occasionsApi.useSegmentsQuery(shop);
  const [opened, setOpened] = useState<string | null>(null);
  const [person, setPerson] = useState<Recipient | null>(null);
  const first = useFirst(shop);
  const templates = (listed?.templates ?? []).filter((one) => one.shop === shop);
  const segments = (named?.segments ?? []).map(({ name }) => name);
  const feeds = (known?.sources ?? [])
    .filter((one) => one.target === 'feed' && (one.shop === null || one.shop === shop))
    .map(({ formula_name }) => formula_name);
  const zone = shops?.shops.find(({ id }) => id === shop)?.timezone ?? 'UTC';
  const moved = useMoved();
  const begin = useMemo(() => Math.floor(movedNow(moved).getTime() / 60_000) * 60_000, [moved]);
  const ofWhole = stored.problems.filter(({ step }) => step === null);
  return (
    <>
      <section className={classes.form} aria-label={t('occasion')}>
        <Head {...{ stored, edit }} />
        {edit.problem && (
          <p role="alert" className={classes.problem}>
            {edit.problem}
          </p>
        )}
        {ofWhole.map(({ message, severity }) => (
          <p key={message} className={severity === 'error' ? classes.problem : classes.warning}>
            {message}
          </p>
        ))}
        <StartForm
          shop={shop}
          start={occasion.start}
          {...{ zone, rules, segments, feeds, shape }}
          onChange={(start) => put({ ...occasion, start })}
        />
        <WhomForm {...{ shop, occasion, segments }} shape={shape} onChange={put} />
        <TimeLine
          {...{ occasion, rules, zone, begin, templates, opened }}
          shape={shape}
          problems={stored.problems}
          counts={stored.steps}
          person={(person ?? first)?.id}
          outbox={`/outbox?shop=${shop}&occasion=${stored.id}`}
          onOpen={setOpened}
          onChange={put}
        />
        <InsideList id={stored.id} occasion={occasion} count={stored.inside + stored.armed} />
      </section>
      <Walk
        {...{ shop, occasion }}
        id={stored.id}
        person={person ?? first}
        onPerson={setPerson}
        onStep={setOpened}
      />
      <Replay
        {...{ shop, zone, occasion, templates }}
        id={stored.id}
        others={others.filter(({ id }) => id !== stored.id)}
        onPerson={setPerson}
      />
    </>
  );
}

/** Somebody to begin with: the first who has a cart. Whoever is shown stays, whatever becomes of carts meanwhile. */
function useFirst(shop: string): Recipient | null {
  const { data } = occasionsApi.useRecipientsQuery({ shop, having: 'cart', limit: 1 });
  const found = data?.recipients[0] ?? null;
  const [first, setFirst] = useState<{ shop: string; person: Recipient } | null>(null);
  if (first?.shop === shop) return first.person;
  if (found) setFirst({ shop, person: found });
  return found;
}

function Head({ stored, edit }: { stored: StoredOccasion; edit: ReturnType<typeof useOccasion> }) {
  const { occasion, put, undo, saving, problem } = edit;
  const [asking, setAsking] = useState<'on' | 'off' | 'delete' | null>(null);
  const { on_since, differs } = stored;
  const isOn = on_since !== null;
  return (
    <div className={classes.head}>
      <TextInput
        aria-label={t('nameOfTheOccasion')}
        size="xs"
        className={classes.title}
        key={occasion.name}
        defaultValue={occasion.name}
        onBlur={({ currentTarget: { value } }) =>
          value.trim() !== '' && value !== occasion.name && put({ ...occasion, name: value.trim() })
        }
      />
      <span className={classes.saved} role="status">
        {saving
          ? t('saving')
          : isOn
            ? differs
              ? t('theDraftIsNotSwitchedOn')
              : t('onSameAsThisDraft')
            : t('off')}
      </span>
      <Tooltip label={t('undo')}>
        <ActionIcon
          variant="subtle"
          aria-label={t('undo')}
          disabled={!undo}
          onClick={() => undo?.()}
        >
          <IconArrowBackUp size={16} />
        </ActionIcon>
      </Tooltip>
      {isOn && (
        <Button variant="default" size="compact-sm" onClick={() => setAsking('off')}>
          {t('switchOff')}
        </Button>
      )}
      {(!isOn || differs) && (
        <Button
          variant="light"
          size="compact-sm"
          loading={saving}
          disabled={problem !== null}
          onClick={() => setAsking('on')}
        >
          {isOn ? t('publishTheDraft') : t('switchOn')}
        </Button>
      )}
      {!isOn && (
        <Button variant="subtle" color="clay" size="compact-sm" onClick={() => setAsking('delete')}>
          {t('delete')}
        </Button>
      )}
      {asking === 'on' && <SwitchOn stored={stored} onClose={() => setAsking(null)} />}
      {(asking === 'off' || asking === 'delete') && (
        <SwitchOff
          stored={stored}
          isDeleting={asking === 'delete'}
          onClose={() => setAsking(null)}
        />
      )}
    </div>
  );
}
