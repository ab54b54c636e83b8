import { useEffect, useState } from 'react';
import { ActionIcon, Button, Group, Modal, TextInput } from '@mantine/core';
import { useDebouncedValue, useDisclosure } from '@mantine/hooks';
import { IconArrowDown, IconArrowUp, IconCheck, IconPlus, IconX } from '@tabler/icons-react';
import { ENDPOINTS } from '@carafe/contract';
import { MOST_PICKS, pickedLoop, picksOf } from '@carafe/core/sentence';
import { namedFormula, type Loop } from '@carafe/core/template';
import { api } from '../../../app/api';
import { ask, messageOf } from '../../../app/ask';
import { useAppSelector } from '../../../app/store';
import { counted } from '../../../parts/counted';
import classes from './Inspector.module.css';

/** A product of the catalog, as it is listed. */
interface Product {
  sku: string;
  name: string;
  price: string;
  isGone: boolean;
}

const text = (value: unknown) =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';

function productOf(record: Record<string, unknown>): Product {
  return {
    sku: text(record['sku']),
    name: text(record['name']) || text(record['sku']),
    price: typeof record['price'] === 'number' ? record['price'].toFixed(2) : '',
    isGone: record['in_stock'] === false,
  };
}

/** Looks for products of a catalog; what is asked last is shown. */
function useProducts(source: string | undefined, query: string) {
  const [found, setFound] = useState<{
    query: string;
    products: Product[];
    problem: string | null;
  }>();
  useEffect(() => {
    if (source === undefined) return undefined;
    let isLatest = true;
    ask(ENDPOINTS.sourceRows, { params: { id: source }, query: { q: query, limit: 60 } })
      .then(({ rows }) => {
        if (isLatest)
          setFound({ query, products: rows.map((r) => productOf(r.record)), problem: null });
      })
      .catch((error: unknown) => {
        if (isLatest) setFound({ query, products: [], problem: messageOf(error) });
      });
    return () => {
      isLatest = false;
    };
  }, [source, query]);
  return found;
}

/** Picks products one by one out of a catalog, and puts them in order; only for loops over a catalog. */
export function PickProducts({ loop, onPick }: { loop: Loop; onPick: (loop: Loop) => void }) {
  const [opened, { open, close }] = useDisclosure();
  const shop = useAppSelector((s) => s.desk.template?.shop);
  const { data } = api.useSourcesQuery();
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
            ? 'Pick products by hand'
            : `${counted(picks.length, 'product')} picked by hand`}
        </Button>
        {picks.length > 0 && (
          <Button variant="subtle" onClick={() => onPick(pickedLoop(loop, []))}>
            Filter the catalog instead
          </Button>
        )}
      </Group>
      <Modal opened={opened} onClose={close} title="Pick products" size="xl">
        {opened && (
          <Picker source={source.id} picks={picks} onPick={(to) => onPick(pickedLoop(loop, to))} />
        )}
        <Group justify="flex-end" mt={12}>
          <Button onClick={close}>Done</Button>
        </Group>
      </Modal>
    </>
  );
}

function Picker({
  source,
  picks,
  onPick,
}: {
  source: string;
  picks: readonly string[];
  onPick: (picks: string[]) => void;
}) {
  const [words, setWords] = useState('');
  const [query] = useDebouncedValue(words, 200);
  const found = useProducts(source, query);
  // What a picked product is called is known from when it was seen.
  const [names, setNames] = useState<ReadonlyMap<string, string>>(new Map());
  useEffect(() => {
    if (!found) return;
    setNames(
      (known) => new Map([...known, ...found.products.map((p) => [p.sku, p.name] as const)]),
    );
  }, [found]);
  const move = (i: number, by: number) => {
    const next = [...picks];
    const [one] = next.splice(i, 1);
    if (one !== undefined) next.splice(i + by, 0, one);
    onPick(next);
  };
  const isFull = picks.length >= MOST_PICKS;
  // Enter takes the first that is found, as soon as it is, and the next can be looked for.
  const [wanted, setWanted] = useState<string | null>(null);
  useEffect(() => {
    if (wanted === null || found?.query !== wanted) return;
    setWanted(null);
    const first = found.products.find(({ sku }) => sku !== '' && !picks.includes(sku));
    if (!first || isFull) return;
    onPick([...picks, first.sku]);
    setWords('');
  }, [wanted, found, picks, isFull, onPick]);
  return (
    <div className={classes.picker}>
      <section aria-label="Products of the catalog">
        <TextInput
          aria-label="Search products"
          placeholder="Name, SKU, category …"
          data-autofocus
          value={words}
          onChange={({ currentTarget: { value } }) => setWords(value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            setWanted(words);
          }}
        />
        {found?.problem && <p role="alert">{found.problem}</p>}
        <ul className={classes.products}>
          {found?.products.map(({ sku, name, price, isGone }) => {
            const isPicked = picks.includes(sku);
            return (
              <li key={sku}>
                <button
                  type="button"
                  disabled={isPicked || isFull || sku === ''}
                  onClick={() => onPick([...picks, sku])}
                >
                  {isPicked ? <IconCheck size={14} /> : <IconPlus size={14} />}
                  <span>{name}</span>
                  <span className="quiet">
                    {sku}
                    {isGone && ', out of stock'}
                  </span>
                  <span className="figures">{price}</span>
                </button>
              </li>
            );
          })}
        </ul>
        {found?.products.length === 0 && !found.problem && (
          <p className="quiet">No product has “{query}” in it. Try fewer words.</p>
        )}
      </section>
      <section aria-label="Picked">
        <p className="quiet">
          {picks.length === 0
            ? 'Nothing is picked yet: the list stays as it is.'
            : isFull
              ? `${MOST_PICKS} products are the most that can be picked.`
              : 'In this order:'}
        </p>
        <ol className={classes.picked}>
          {picks.map((sku, i) => {
            const name = names.get(sku) ?? sku;
            return (
              <li key={sku}>
                <span>{name}</span>
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={`Move ${name} up`}
                  disabled={i === 0}
                  onClick={() => move(i, -1)}
                >
                  <IconArrowUp size={14} />
                </ActionIcon>
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={`Move ${name} down`}
                  disabled={i === picks.length - 1}
                  onClick={() => move(i, 1)}
                >
                  <IconArrowDown size={14} />
                </ActionIcon>
                <ActionIcon
                  variant="subtle"
                  size="sm"
                  aria-label={`Take ${name} out`}
                  onClick={() => onPick(picks.filter((one) => one !== sku))}
                >
                  <IconX size={14} />
                </ActionIcon>
              </li>
            );
          })}
        </ol>
      </section>
    </div>
  );
}
