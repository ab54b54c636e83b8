import { useEffect } from 'react';
import { Link, useLocation } from 'react-router';
import classes from './Library.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('library');

const TABS = [
  { to: '/library', label: t('pictures') },
  { to: '/library/notes', label: t('productNotes') },
  { to: '/library/formulas', label: t('namedFormulas') },
  { to: '/library/deleted', label: t('recentlyDeleted') },
];

/** The parts of the library, one beside the other. */
export function LibraryTabs() {
  const { pathname, search } = useLocation();
  const now = TABS.find(({ to }) => to === pathname)?.label;
  useEffect(() => {
    document.title = t('nowCarafe', { now: now ?? t('library') });
  }, [now]);
  return (
    <nav className={classes.tabs} aria-label={t('library')}>
      {TABS.map(({ to, label }) => (
        <Link key={to} to={`${to}${search}`} {...(to === pathname && { 'aria-current': 'page' })}>
          {label}
        </Link>
      ))}
    </nav>
  );
}
