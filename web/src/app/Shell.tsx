import { useEffect, useRef } from 'react';
import { ActionIcon, Tooltip, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { IconCircleHalf2, IconSearch } from '@tabler/icons-react';
import { spotlight } from '@mantine/spotlight';
import { Link, Outlet, useLocation } from 'react-router';
import { api, staleTags } from './api';
import { useLive } from './live';
import { useAppDispatch } from './store';
import { Places } from './Places';
import { BAR_SLOT } from './BarSlot';
import { Finder } from './Finder';
import { Attention } from './Attention';
import { TestOnly } from './TestOnly';
import classes from './Shell.module.css';
import { wordsOf } from '../words';

const t = wordsOf('app');

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
          {t('carafe')}
        </Link>
        <Places />
        <div id={BAR_SLOT} className={classes.slot} />
        <TestOnly />
        <button
          type="button"
          className={classes.find}
          aria-label={t('findAnything')}
          onClick={() => spotlight.open()}
        >
          <IconSearch size={14} aria-hidden /> <span>{t('findAnything')}</span> <kbd>Ctrl K</kbd>
        </button>
        <Tooltip label={scheme === 'dark' ? t('lightInterface') : t('darkInterface')}>
          <ActionIcon
            variant="subtle"
            aria-label={scheme === 'dark' ? t('lightInterface') : t('darkInterface')}
            onClick={() => setColorScheme(scheme === 'dark' ? 'light' : 'dark')}
          >
            <IconCircleHalf2 size={17} />
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
