import { useEffect } from 'react';
import { Link, useLocation } from 'react-router';
import classes from './Library.module.css';

const TABS = [
  { to: '/library', label: 'Pictures' },
  { to: '/library/notes', label: 'Product notes' },
  { to: '/library/formulas', label: 'Named formulas' },
  { to: '/library/deleted', label: 'Recently deleted' },
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
