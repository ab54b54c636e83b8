import { useEffect } from 'react';
import { Select } from '@mantine/core';
import { Link, useLocation, useSearchParams } from 'react-router';
import { api } from '../../app/api';
import classes from './Library.module.css';

const TABS = [
  { to: '/library', label: 'Pictures' },
  { to: '/library/notes', label: 'Product notes' },
  { to: '/library/formulas', label: 'Named formulas' },
];

/** The parts of the library, one beside the other. */
export function LibraryTabs() {
  const { pathname, search } = useLocation();
  const now = TABS.find(({ to }) => to === pathname)?.label;
  useEffect(() => {
    document.title = `${now ?? 'Library'} · Carafe`;
  }, [now]);
  return (
    <nav className={classes.tabs} aria-label="Library">
      {TABS.map(({ to, label }) => (
        <Link key={to} to={`${to}${search}`} {...(to === pathname && { 'aria-current': 'page' })}>
          {label}
        </Link>
      ))}
    </nav>
  );
}

/** The shop whose library is looked at; the first one where none is chosen. */
export function useShop(): { shop: string | undefined; choice: React.ReactNode } {
  const { data } = api.useShopsQuery();
  const [params, setParams] = useSearchParams();
  const shops = data?.shops ?? [];
  const shop = params.get('shop') ?? shops[0]?.id;
  const choice = shops.length > 1 && (
    <Select
      aria-label="Shop"
      w={220}
      allowDeselect={false}
      data={shops.map(({ id, name }) => ({ value: id, label: name }))}
      value={shop ?? null}
      onChange={(to) => to && setParams({ shop: to })}
    />
  );
  return { shop, choice };
}
