import { useEffect } from 'react';
import { Button, Group } from '@mantine/core';
import { useRouteError } from 'react-router';

/** What stands where a page could not be drawn: what is safe, and the ways on. */
export function Broken() {
  const error = useRouteError();
  useEffect(() => {
    // For whoever looks into it; the page itself speaks plainly.
    console.error(error);
  }, [error]);
  return (
    <main style={{ maxWidth: 520, padding: 32 }}>
      <h1 style={{ fontSize: 20 }}>This page could not be shown</h1>
      <p role="alert">
        Something in it failed. What you wrote is kept in this browser and on the server; nothing of
        it is lost. If reloading does not help, undo the last change in another tab, or tell whoever
        runs Carafe.
      </p>
      <Group gap={8}>
        <Button onClick={() => window.location.reload()}>Reload the page</Button>
        <Button variant="default" component="a" href="/">
          To the templates
        </Button>
      </Group>
    </main>
  );
}
