import { Button, Menu } from '@mantine/core';
import { IconMenu2 } from '@tabler/icons-react';
import { Link, useLocation } from 'react-router';
import { counted } from '@carafe/core/words';
import { useAttention } from './useAttention';
import classes from './Shell.module.css';
import { wordsOf } from '../words';

const t = wordsOf('app');

const AFTER_TEMPLATES = 'Recommendations Occasions Outbox People Library Sources Mailbox'.split(
  ' ',
);
const PLACES = [
  {
    to: '/',
    label: t('templates'),
    isAt: (at: string) => at === '/' || at.startsWith('/templates'),
  },
  ...AFTER_TEMPLATES.map((label) => {
    const to = `/${label.toLowerCase()}`;
    return { to, label, isAt: (at: string) => at.startsWith(to) };
  }),
];

/** How many sources ask for attention, beside their place. */
function SourcesAsking() {
  const attention = useAttention();
  if (attention === 0) return null;
  return (
    <span
      className={classes.attention}
      title={t('sourcesWhichForAttention', {
        sources: counted(attention, 'source'),
        which: attention === 1 ? 'asks' : 'ask',
      })}
    >
      {attention}
    </span>
  );
}

/** The places in a row; on a template, whose own tools need the room, in one menu. */
export function Places() {
  const { pathname } = useLocation();
  const isDesk = pathname.startsWith('/templates/');
  if (isDesk) return <PlacesMenu at={pathname} />;
  return (
    <nav aria-label={t('places')} className={classes.places}>
      {PLACES.map(({ to, label, isAt }) => (
        <Link key={to} to={to} {...(isAt(pathname) && { 'aria-current': 'page' })}>
          {label}
          {to === '/sources' && <SourcesAsking />}
        </Link>
      ))}
    </nav>
  );
}

function PlacesMenu({ at }: { at: string }) {
  return (
    <nav aria-label={t('places')}>
      <Menu position="bottom-start" width={200}>
        <Menu.Target>
          <Button
            variant="subtle"
            size="compact-sm"
            className={classes.menu}
            leftSection={<IconMenu2 size={15} aria-hidden />}
            rightSection={<SourcesAsking />}
          >
            {t('menu')}
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          {PLACES.map(({ to, label, isAt }) => (
            <Menu.Item
              key={to}
              component={Link}
              to={to}
              {...(isAt(at) && { 'aria-current': 'page' as const })}
              rightSection={to === '/sources' && <SourcesAsking />}
            >
              {label}
            </Menu.Item>
          ))}
        </Menu.Dropdown>
      </Menu>
    </nav>
  );
}
