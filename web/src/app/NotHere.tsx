import { useEffect } from 'react';
import { Button } from '@mantine/core';
import { Link, useLocation } from 'react-router';
import { wordsOf } from '../words';

const t = wordsOf('app');

/** What stands at an address that leads nowhere: which one it was, and the way on. */
export function NotHere() {
  const { pathname } = useLocation();
  useEffect(() => {
    document.title = t('notHereCarafe');
  }, []);
  return (
    <main style={{ maxWidth: 520, padding: 32 }}>
      <h1 style={{ fontSize: 20 }}>{t('thereIsNoPageHere')}</h1>
      <p style={{ overflowWrap: 'anywhere' }}>{t('thereIsNothingAtPathnameThe', { pathname })}</p>
      <Button variant="default" component={Link} to="/">
        {t('toTheTemplates')}
      </Button>
    </main>
  );
}
