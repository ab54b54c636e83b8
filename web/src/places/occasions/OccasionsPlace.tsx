import { useEffect, useState } from 'react';
import { Button } from '@mantine/core';
import { Dialog } from '../../parts/Dialog';
import { skipToken } from '@reduxjs/toolkit/query';
import { useSearchParams } from 'react-router';
import type { StoredOccasion } from '@carafe/contract';
import {
  FIRST_RULES,
  sayStart,
  STARTS,
  type Occasion,
  type ShopRules,
} from '@carafe/core/occasion';
import { occasionsApi } from '../../app/occasionsApi';
import { messageOf } from '../../app/ask';
import { useNow } from '../../app/useNow';
import { ahead } from '../../parts/ago';
import { counted } from '@carafe/core/words';
import { notifyFailure } from '../../parts/notify';
import { PlaceHead } from '../../parts/PlaceHead';
import { useShop } from '../../parts/useShop';
import { HandLists } from './HandLists';
import { OpenOccasion } from './OpenOccasion';
import { RulesSheet } from './RulesSheet';
import { SegmentsSheet } from './SegmentsSheet';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

const BLANK: Occasion = {
  name: 'New occasion',
  start: STARTS.cart_left.make(0),
  whom: { guests: true },
  priority: 5,
  steps: [],
};
const SHEETS = ['segments', 'rules', 'hand'] as const;
type Sheet = (typeof SHEETS)[number];

/** When templates go out: each occasion from what starts it to its last mail. */
export function OccasionsPlace() {
  const { shop, choice } = useShop();
  const [params, setParams] = useSearchParams();
  const { data, error, isFetching } = occasionsApi.useOccasionsQuery(shop ?? skipToken);
  const { data: shipped } = occasionsApi.usePresetsQuery(shop ?? skipToken);
  const [addOccasion, adding] = occasionsApi.useAddOccasionMutation();
  const [choosing, setChoosing] = useState(false);
  const all = data?.occasions ?? [];
  const sheet = SHEETS.find((one) => one === params.get('sheet')) ?? null;
  const setSheet = (to: Sheet | null) =>
    setParams(
      (now) => {
        if (to === null) now.delete('sheet');
        else now.set('sheet', to);
        return now;
      },
      { replace: true },
    );
  const asked = params.get('open');
  // What was asked for and is not there yet, or no longer, is not answered with another one.
  const open = asked === null ? all[0] : all.find(({ id }) => id === asked);
  useEffect(() => {
    document.title = t('occasionsCarafe');
  }, []);
  const show = (id: string) => setParams({ ...(shop && { shop }), open: id });
  const add = async (occasion: Occasion) => {
    if (shop === undefined) return;
    const { data: made, error: refused } = await addOccasion({ shop, occasion });
    setChoosing(false);
    if (refused) notifyFailure(refused);
    else if (made) show(made.id);
  };
  return (
    <main className={classes.place}>
      <PlaceHead
        title={t('occasions')}
        beside={choice}
        hint={t('whatStartsAnEmailWhoGets')}
        add={t('addAnOccasion')}
        onAdd={() => setChoosing(true)}
        waits={shop === undefined}
      />
      <div className={classes.tools}>
        <Button variant="default" size="compact-sm" onClick={() => setSheet('segments')}>
          {t('segments')}
        </Button>
        <Button variant="default" size="compact-sm" onClick={() => setSheet('hand')}>
          {t('sendByHand')}
        </Button>
        <Button variant="default" size="compact-sm" onClick={() => setSheet('rules')}>
          {t('forAllOccasions')}
        </Button>
      </div>
      {choosing && (
        <Dialog opened onClose={() => setChoosing(false)} title={t('addAnOccasion')} size={520}>
          <ul className={classes.shipped}>
            {[...(shipped?.presets ?? []), BLANK].map((occasion) => (
              <li key={occasion.name}>
                <button
                  type="button"
                  disabled={adding.isLoading}
                  onClick={() => void add(occasion)}
                >
                  {occasion === BLANK ? t('anEmptyOne') : occasion.name}
                  <span className={classes.gist}>
                    {occasion === BLANK
                      ? t('startFromNothing')
                      : sayStart(occasion, data?.rules ?? FIRST_RULES)}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </Dialog>
      )}
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && all.length === 0 && <p className="quiet">{t('noOccasionsYetStartFromA')}</p>}
      {all.length > 0 && shop !== undefined && data && (
        <div className={classes.columns} data-columns>
          <Listed all={all} open={open?.id ?? null} onOpen={show} />
          {open ? (
            <OpenOccasion key={open.id} shop={shop} stored={open} others={all} rules={data.rules} />
          ) : (
            !isFetching && <p className="quiet">{t('thisOccasionNoLongerExistsChoose')}</p>
          )}
        </div>
      )}
      {shop !== undefined && data && (
        <Sheets
          {...{ sheet, shop }}
          rules={data.rules}
          version={data.rules_version}
          occasions={all}
          onClose={() => setSheet(null)}
        />
      )}
    </main>
  );
}

function Sheets({
  sheet,
  shop,
  rules,
  version,
  occasions,
  onClose,
}: {
  sheet: Sheet | null;
  shop: string;
  rules: ShopRules;
  version: string;
  occasions: readonly StoredOccasion[];
  onClose: () => void;
}) {
  switch (sheet) {
    case 'segments':
      return <SegmentsSheet shop={shop} onClose={onClose} />;
    case 'rules':
      return <RulesSheet shop={shop} rules={rules} version={version} onClose={onClose} />;
    case 'hand':
      return <HandLists shop={shop} occasions={occasions} onClose={onClose} />;
    case null:
      return null;
  }
}

function Listed({
  all,
  open,
  onOpen,
}: {
  all: readonly StoredOccasion[];
  open: string | null;
  onOpen: (id: string) => void;
}) {
  const now = useNow();
  return (
    <nav className={classes.list} aria-label={t('occasions')}>
      {all.map(({ id, occasion, on_since, inside, armed, next }) => (
        <button key={id} type="button" aria-current={id === open} onClick={() => onOpen(id)}>
          <span className={classes.state} data-on={on_since !== null || undefined} aria-hidden />
          <span>
            {occasion.name}
            <span className={classes.gist}>
              {on_since === null
                ? t('off')
                : inside + armed === 0
                  ? t('onNobodyInside')
                  : t('onPeopleInsideWhich', {
                      people: counted(inside, 'person', 'people'),
                      which: armed > 0 ? t('armedCouldEnter', { armed }) : '',
                    })}
              {on_since !== null && next !== null && t('nextNext', { next: ahead(next, now) })}
            </span>
          </span>
        </button>
      ))}
    </nav>
  );
}
