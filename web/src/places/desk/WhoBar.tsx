import { memo } from 'react';
import { ActionIcon, Button, SegmentedControl, Tooltip } from '@mantine/core';
import { DateInput } from '@mantine/dates';
import {
  IconChevronLeft,
  IconChevronRight,
  IconDeviceDesktop,
  IconDeviceMobile,
  IconMoon,
  IconPhoto,
  IconPhotoOff,
  IconX,
} from '@tabler/icons-react';
import type { Having } from '@carafe/contract';
import {
  compile,
  dayIn,
  evaluate,
  instantOfWall,
  parsedFormula,
  printValue,
} from '@carafe/core/formula';
import { contextFor } from '@carafe/core/render';
import { api } from '../../app/api';
import { store, useAppDispatch, useAppSelector } from '../../app/store';
import { useNow } from '../../app/useNow';
import { deskActions } from './deskSlice';
import { narrowedTo } from './narrowed';
import { useDesk } from './useDesk';
import { useShownIndex } from './useShownIndex';
import { WhoSearch } from './WhoSearch';
import classes from './WhoBar.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('desk');

/** The facts of a recipient that matter at the desk, each a formula over their record. */
const FACTS: { label: string; formula: string; needs?: Having; means?: string }[] = [
  {
    label: t('cart'),
    formula:
      'if(cart is empty, "no cart", plural(cart.count, "one line", "# lines") & ", " & money(cart.total))',
    needs: 'cart',
  },
  {
    label: t('lastOrder'),
    formula: 'if(order is empty, "none", order.number & ", " & money(order.total))',
    needs: 'order',
  },
  { label: t('lastOrder'), formula: 'date(person.last_order_at) otherwise "none"', needs: 'cart' },
  {
    label: t('rank'),
    formula: 'person.rank otherwise "none yet"',
    needs: 'all',
    means: t('amongTheShopsCustomersByHow'),
  },
  { label: t('language'), formula: 'person.locale otherwise "not known"' },
  { label: t('consent'), formula: 'if(person.consent, "yes", "no")' },
];

/** Who the mail is filled for, and how it is looked at. */
export function WhoBar() {
  return (
    <div className={classes.bar} role="region" aria-label={t('recipient')}>
      <Who />
      <ViewTools />
    </div>
  );
}

/** The recipient shown, and the way to others. */
function Who() {
  const dispatch = useAppDispatch();
  const recipients = useAppSelector((s) => s.desk.recipients);
  const index = useShownIndex();
  const total = useAppSelector((s) => s.desk.total);
  const having = useAppSelector((s) => s.desk.having);
  const search = useAppSelector((s) => s.desk.search);
  const filter = useAppSelector((s) => s.desk.filter);
  const narrowed = narrowedTo(search, filter);
  const { record, person, asOf } = useDesk();
  const flip = (by: number) => dispatch(deskActions.flipped(store.getState().desk.index + by));
  const shown = recipients[index];
  const context = record && person === shown?.id ? contextFor(record, { asOf }) : null;
  const facts = FACTS.filter(({ needs }) => !needs || needs === having);
  const fact = (formula: string) => {
    const parsed = parsedFormula(formula);
    return parsed.ok && context
      ? printValue(evaluate(compile(parsed.value), context), context)
      : '…';
  };
  return (
    <>
      <ActionIcon
        variant="default"
        size="md"
        aria-label={t('previousRecipientK')}
        disabled={index === 0}
        onClick={() => flip(-1)}
      >
        <IconChevronLeft size={16} />
      </ActionIcon>
      <ActionIcon
        variant="default"
        size="md"
        aria-label={t('nextRecipientJ')}
        disabled={index >= recipients.length - 1}
        onClick={() => flip(1)}
      >
        <IconChevronRight size={16} />
      </ActionIcon>
      <WhoSearch />
      {narrowed !== '' && (
        <ActionIcon
          variant="subtle"
          size="sm"
          aria-label={t('showEveryone')}
          title={t('onlyNarrowedShowEveryone', { narrowed })}
          onClick={() => dispatch(deskActions.searched({ search: '', filter: {} }))}
        >
          <IconX size={14} />
        </ActionIcon>
      )}
      <div className={classes.facts} aria-live="polite" data-testid="who">
        <strong>
          {shown ? shown.name || t('noName') : total === 0 && narrowed !== '' ? t('nobody') : '…'}
        </strong>
        {shown?.made_up && <span className={classes.fact}>{t('madeUp')}</span>}
        {shown &&
          facts.map(({ label, formula, means }) => (
            <span key={label} className={classes.fact} title={means}>
              <span className="quiet">{label}</span> {fact(formula)}
            </span>
          ))}
      </div>
    </>
  );
}

/** Nine in the morning of a day in a zone, in ISO 8601. */
const morningOf = (day: string, zone: string): string =>
  new Date(instantOfWall(Date.parse(`${day}T09:00:00Z`), zone)).toISOString();

/** How the mail is looked at. */
const ViewTools = memo(function ViewTools() {
  const dispatch = useAppDispatch();
  const view = useAppSelector((s) => s.desk.view);
  const shop = useAppSelector((s) => s.desk.template?.shop);
  const { data } = api.useShopsQuery();
  const zone = data?.shops.find(({ id }) => id === shop)?.timezone ?? 'UTC';
  const now = useNow();
  return (
    <div className={classes.view}>
      <Tooltip label={t('previewTheEmailAsOfThis')} position="left">
        <DateInput
          size="xs"
          aria-label={t('previewDate')}
          w={124}
          valueFormat="D MMM YYYY"
          value={dayIn(view.asOf ? new Date(view.asOf) : now, zone).toJSON()}
          onChange={(day) =>
            dispatch(deskActions.viewed({ asOf: day ? morningOf(day, zone) : '' }))
          }
        />
      </Tooltip>
      <SegmentedControl
        size="xs"
        aria-label={t('width')}
        value={view.width}
        onChange={(width) => dispatch(deskActions.viewed({ width: width as 'wide' | 'phone' }))}
        data={[
          { value: 'wide', label: <IconDeviceDesktop size={15} aria-label={t('desktopWidth')} /> },
          { value: 'phone', label: <IconDeviceMobile size={15} aria-label={t('phoneWidth')} /> },
        ]}
      />
      <Toggle
        label={t('picturesOff')}
        pressed={!view.pictures}
        onClick={() => dispatch(deskActions.viewed({ pictures: !view.pictures }))}
      >
        {view.pictures ? <IconPhoto size={16} /> : <IconPhotoOff size={16} />}
      </Toggle>
      <Toggle
        label={t('darkModeRoughlyAsEmailClients')}
        pressed={view.dark}
        onClick={() => dispatch(deskActions.viewed({ dark: !view.dark }))}
      >
        <IconMoon size={16} />
      </Toggle>
      <Because />
    </div>
  );
});

function Because() {
  const dispatch = useAppDispatch();
  const open = useAppSelector((s) => s.desk.becauseOpen);
  return (
    <Tooltip label={t('whyEachPartIsAsIt')}>
      <Button
        size="compact-sm"
        variant={open ? 'light' : 'subtle'}
        aria-pressed={open}
        onClick={() => dispatch(deskActions.becauseToggled())}
      >
        {t('why')}
      </Button>
    </Tooltip>
  );
}

function Toggle({
  label,
  pressed,
  onClick,
  children,
}: {
  label: string;
  pressed: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <Tooltip label={label}>
      <ActionIcon
        variant={pressed ? 'light' : 'subtle'}
        aria-pressed={pressed}
        aria-label={label}
        onClick={onClick}
      >
        {children}
      </ActionIcon>
    </Tooltip>
  );
}
