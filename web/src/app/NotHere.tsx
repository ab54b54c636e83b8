import { useEffect } from 'react';
import { Button } from '@mantine/core';
import { Link, useLocation } from 'react-router';

/** What stands at an address that leads nowhere: which one it was, and the way on. */
export function NotHere() {
  const { pathname } = useLocation();
  useEffect(() => {
    document.title = 'Not here · Carafe';
  }, []);
  return (
    <main style={{ maxWidth: 520, padding: 32 }}>
      <h1 style={{ fontSize: 20 }}>There is no page here</h1>
      <p style={{ overflowWrap: 'anywhere' }}>
        There is nothing at {pathname}. The address may be shortened or mistyped. Use the menu above
        to go on.
      </p>
      <Button variant="default" component={Link} to="/">
        To the templates
      </Button>
    </main>
  );
}
