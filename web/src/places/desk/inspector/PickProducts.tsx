import { useMemo, useState } from 'react';
import { Button, Group } from '@mantine/core';
import { Dialog } from '../../../parts/Dialog';
import { useDisclosure } from '@mantine/hooks';
import { MOST_PICKS, pickedLoop, picksOf } from '@carafe/core/sentence';
import { namedFormula, type Loop } from '@carafe/core/template';
import { api } from '../../../app/api';
import { useAppSelector } from '../../../app/store';
import { counted } from '@carafe/core/words';
import { PickedProducts } from './PickedProducts';
import { ProductSearch } from './ProductSearch';
import classes from './Inspector.module.css';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** Picks products one by one out of a catalog, and puts them in order; only for loops over a catalog. */
export function PickProducts({ loop, onPick }: { loop: Loop; onPick: (loop: Loop) => void }) {
  const [opened, { open, close }] = useDisclosure();
  const [isHeld, setIsHeld] = useState(false);
  const shop = useAppSelector((s) => s.desk.template?.shop);
  const { data } = api.useSourcesQuery();
  const shops = api.useShopsQuery().data?.shops;
  const currency = shops?.find(({ id }) => id === shop)?.currency ?? '';
  const source = data?.sources.find(
    ({ target, formula_name, shop: own }) =>
      target === 'catalog' &&
      (own === null || own === shop) &&
      namedFormula('catalog', formula_name) === loop.list,
  );
  const picks = picksOf(loop) ?? [];
  if (!source) return null;
  return (
    <>
      <Group gap={8}>
        <Button variant="default" onClick={open}>
          {picks.length === 0
            ? t('pickProductsByHand')
            : t('productsPickedByHand', { products: counted(picks.length, 'product') })}
        </Button>
        {picks.length > 0 && (
          <Button variant="subtle" onClick={() => onPick(pickedLoop(loop, []))}>
            {t('filterTheCatalogInstead')}
          </Button>
        )}
      </Group>
      <Dialog
        opened={opened}
        onClose={close}
        // Escape puts down what is held, and closes nothing.
        closeOnEscape={!isHeld}
        title={t('pickProducts')}
        size="xl"
      >
        {opened && (
          <Picker
            source={source.id}
            currency={currency}
            picks={picks}
            onPick={(to) => onPick(pickedLoop(loop, to))}
            onHold={setIsHeld}
          />
        )}
        <Group justify="flex-end" mt={12}>
          <Button onClick={close}>{t('done')}</Button>
        </Group>
      </Dialog>
    </>
  );
}

interface PickerProps {
  source: string;
  currency: string;
  picks: readonly string[];
  onPick: (picks: string[]) => void;
  onHold: (isHeld: boolean) => void;
}

function Picker({ source, currency, picks, onPick, onHold }: PickerProps) {
  const known = useMemo(() => new Set(picks), [picks]);
  const [seen, setSeen] = useState<ReadonlyMap<string, string>>(new Map());
  return (
    <div className={classes.picker}>
      <ProductSearch
        source={source}
        currency={currency}
        isPicked={(sku) => known.has(sku)}
        isFull={picks.length >= MOST_PICKS}
        onPick={({ sku, name }) => {
          setSeen((before) => new Map([...before, [sku, name]]));
          onPick([...picks, sku]);
        }}
      />
      <PickedProducts {...{ source, picks, seen, onPick, onHold }} />
    </div>
  );
}
