import { ActionIcon } from '@mantine/core';
import { arrayMove } from '@dnd-kit/sortable';
import { IconArrowDown, IconArrowUp, IconX } from '@tabler/icons-react';
import { MOST_PICKS } from '@carafe/core/sentence';
import { SortableList, useSorted } from '../../../parts/SortableList';
import { useNames } from './catalogProducts';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

interface Props {
  source: string;
  picks: readonly string[];
  /** What those that were picked just now are called. */
  seen: ReadonlyMap<string, string>;
  onPick: (picks: string[]) => void;
  /** Is told while one of them is held to be moved. */
  onHold: (isHeld: boolean) => void;
}

/** The products that were picked, in their order, which is changed by dragging or by keys. */
export function PickedProducts({ source, picks, seen, onPick, onHold }: Props) {
  const names = useNames(
    source,
    picks.filter((sku) => !seen.has(sku)),
  );
  const move = (from: number, to: number) => onPick(arrayMove([...picks], from, to));
  return (
    <section aria-label={t('picked')}>
      <p className="quiet">
        {picks.length === 0
          ? t('nothingIsPickedYet')
          : picks.length >= MOST_PICKS
            ? t('mOSTPICKSProductsAreTheMost', { MOST_PICKS })
            : t('inThisOrder')}
      </p>
      <SortableList ids={picks} onMove={move} onHold={onHold}>
        <ol className={classes.picked}>
          {picks.map((sku, i) => (
            <Picked
              key={sku}
              sku={sku}
              name={seen.get(sku) ?? names.get(sku) ?? sku}
              isGone={names.get(sku) === null}
              onUp={i === 0 ? null : () => move(i, i - 1)}
              onDown={i === picks.length - 1 ? null : () => move(i, i + 1)}
              onOut={() => onPick(picks.filter((one) => one !== sku))}
            />
          ))}
        </ol>
      </SortableList>
    </section>
  );
}

interface PickedProps {
  sku: string;
  name: string;
  /** Whether it has left the catalog. */
  isGone: boolean;
  onUp: (() => void) | null;
  onDown: (() => void) | null;
  onOut: () => void;
}

function Picked({ sku, name, isGone, onUp, onDown, onOut }: PickedProps) {
  const { place, grip } = useSorted(sku, name);
  const mover = (label: string, icon: React.ReactNode, onClick: (() => void) | null) => (
    <ActionIcon
      variant="subtle"
      size="sm"
      aria-label={label}
      disabled={onClick === null}
      {...(onClick && { onClick })}
    >
      {icon}
    </ActionIcon>
  );
  return (
    <li {...place}>
      {grip}
      <span>
        {name}
        {isGone && <span className={classes.gone}> {t('noLongerInTheCatalog')}</span>}
      </span>
      {mover(`Move ${name} up`, <IconArrowUp size={14} />, onUp)}
      {mover(`Move ${name} down`, <IconArrowDown size={14} />, onDown)}
      {mover(`Remove ${name}`, <IconX size={14} />, onOut)}
    </li>
  );
}
