import { useEffect, useRef } from 'react';
import { ActionIcon, Tooltip, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { IconMoon, IconSearch, IconSun } from '@tabler/icons-react';
import { spotlight } from '@mantine/spotlight';
import { Link, Outlet, useLocation } from 'react-router';
import { counted } from '@carafe/core/words';
import { api, staleTags } from './api';
import { useLive } from './live';
import { useAppDispatch } from './store';
import { useAttention } from './useAttention';
import { BAR_SLOT } from './BarSlot';
import { Finder } from './Finder';
import { Attention } from './Attention';
import { TestOnly } from './TestOnly';
import classes from './Shell.module.css';

const PLACES = [
  { to: '/', label: 'Templates', isAt: (at: string) => at === '/' || at.startsWith('/templates') },
  {
    to: '/recommendations',
    label: 'Recommendations',
    isAt: (at: string) => at.startsWith('/recommendations'),
  },
  {
    to: '/occasions',
    label: 'Occasions',
    isAt: (at: string) => at.startsWith('/occasions'),
  },
  { to: '/outbox', label: 'Outbox', isAt: (at: string) => at.startsWith('/outbox') },
  { to: '/library', label: 'Library', isAt: (at: string) => at.startsWith('/library') },
  { to: '/sources', label: 'Sources', isAt: (at: string) => at.startsWith('/sources') },
  { to: '/mailbox', label: 'Mailbox', isAt: (at: string) => at.startsWith('/mailbox') },
];

/** What stands round every place: the name, the places, the finder. */
export function Shell() {
  const { setColorScheme } = useMantineColorScheme();
  const scheme = useComputedColorScheme('light');
  const { pathname } = useLocation();
  const place = useRef<HTMLDivElement>(null);
  const cameFrom = useRef(pathname);
  // Another page begins at its beginning, for the keyboard and for who listens to it.
  useEffect(() => {
    if (cameFrom.current === pathname) return;
    cameFrom.current = pathname;
    place.current?.focus({ preventScroll: true });
  }, [pathname]);
  const attention = useAttention();
  const dispatch = useAppDispatch();
  useLive((update) => {
    const tags = staleTags(update);
    if (tags.length > 0) dispatch(api.util.invalidateTags(tags));
  });
  return (
    <div className={classes.shell}>
      <header className={classes.bar}>
        <Link to="/" className={classes.mark}>
          <img src="/carafe.svg" alt="" width={20} height={20} />
          Carafe
        </Link>
        <nav aria-label="Places" className={classes.places}>
          {PLACES.map(({ to, label, isAt }) => (
            <Link key={to} to={to} {...(isAt(pathname) && { 'aria-current': 'page' })}>
              {label}
              {to === '/sources' && attention > 0 && (
                <span
                  className={classes.attention}
                  title={`${counted(attention, 'source')} ${attention === 1 ? 'asks' : 'ask'} for attention`}
                >
                  {attention}
                </span>
              )}
            </Link>
          ))}
        </nav>
        <div id={BAR_SLOT} className={classes.slot} />
        <TestOnly />
        <button
          type="button"
          className={classes.find}
          aria-label="Find anything"
          onClick={() => spotlight.open()}
        >
          <IconSearch size={14} aria-hidden /> <span>Find anything</span> <kbd>Ctrl K</kbd>
        </button>
        <Tooltip label={scheme === 'dark' ? 'Light' : 'Dark'}>
          <ActionIcon
            variant="subtle"
            aria-label={scheme === 'dark' ? 'Light interface' : 'Dark interface'}
            onClick={() => setColorScheme(scheme === 'dark' ? 'light' : 'dark')}
          >
            {scheme === 'dark' ? <IconSun size={17} /> : <IconMoon size={17} />}
          </ActionIcon>
        </Tooltip>
      </header>
      <Attention />
      <div ref={place} className={classes.place} tabIndex={-1}>
        <Outlet />
      </div>
      <Finder />
    </div>
  );
}
