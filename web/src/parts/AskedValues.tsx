import type { AskedParts } from '@carafe/contract';
import classes from './parts.module.css';

/** What a condition asked, as it was then: “cart count: 3 · ordered since: no”. */
export function AskedValues({ parts }: { parts: AskedParts }) {
  if (parts.length === 0) return null;
  const said = parts.map(({ source, value }) => (source ? `${source}: ${value}` : value));
  return <span className={classes.asked}>{said.join(' · ')}</span>;
}
