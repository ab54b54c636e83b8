import { useEffect } from 'react';
import { Button, Group } from '@mantine/core';
import { useRouteError } from 'react-router';
import { wordsOf } from '../words';

const t = wordsOf('app');

/** What stands where a page could not be drawn: what is safe, and the ways on. */
export function Broken() {
  const error = useRouteError();
  useEffect(() => {
    // For whoever looks into it; the page itself speaks plainly.
    console.error(error);
  }, [error]);
  return (
    <main style={{ maxWidth: 520, padding: 32 }}>
      <h1 style={{ fontSize: 20 }}>{t('thisPageCouldNotBeShown')}</h1>
      <p role="alert">{t('somethingInItFailedWhatYou')}</p>
      <Group gap={8}>
        <Button onClick={() => window.location.reload()}>{t('reloadThePage')}</Button>
        <Button variant="default" component="a" href="/">
          {t('toTheTemplates')}
        </Button>
      </Group>
    </main>
  );
}
