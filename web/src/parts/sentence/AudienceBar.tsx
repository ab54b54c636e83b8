import { Button } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Recipient } from '@carafe/contract';
import { parsedFormula } from '@carafe/core/formula';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import classes from './sentence.module.css';

const PAUSE_MS = 400;

/** For how many people of a shop a condition holds, and one of each kind to look at. */
export function AudienceBar({
  shop,
  formula,
  onLook,
  onMake,
}: {
  shop: string;
  formula: string;
  /** Where one of them can be looked at. */
  onLook?: (recipient: Recipient) => void;
  /** Where somebody can be made for whom it holds, or does not. */
  onMake?: (holds: boolean) => void;
}) {
  const [settled] = useDebouncedValue(formula.trim(), PAUSE_MS);
  const isAsked = settled !== '' && parsedFormula(settled).ok;
  const { data, error, isFetching } = api.useAudienceQuery(
    isAsked ? { shop, formula: settled } : skipToken,
  );
  if (!isAsked) return null;
  if (error) return <p role="alert">{messageOf(error)}</p>;
  if (!data) return <p className="quiet">Counting …</p>;
  const { of, holds, unknown = 0, yes, no } = data;
  const look = (recipient: Recipient | null, label: string) =>
    recipient &&
    onLook && (
      <Button size="compact-xs" variant="subtle" onClick={() => onLook(recipient)}>
        {label}
      </Button>
    );
  return (
    <div aria-busy={isFetching} data-testid="audience">
      <div className={classes.bar}>
        <div style={{ width: `${of === 0 ? 0 : (100 * holds) / of}%` }} />
      </div>
      <div className={classes.people}>
        <span className="figures">
          {holds.toLocaleString('en-GB')} of {of.toLocaleString('en-GB')}{' '}
          {of === 1 ? 'person' : 'people'}
        </span>
        {unknown > 0 && (
          <span role="alert">
            For {unknown.toLocaleString('en-GB')} of them this takes too long to calculate. Simplify
            the condition.
          </span>
        )}
        {look(yes, 'View one')}
        {look(no, 'View one who does not match')}
        {onMake && !yes && (
          <Button size="compact-xs" variant="subtle" onClick={() => onMake(true)}>
            Nobody matches: make one
          </Button>
        )}
        {onMake && !no && of > 0 && (
          <Button size="compact-xs" variant="subtle" onClick={() => onMake(false)}>
            Everybody matches: make one who does not
          </Button>
        )}
      </div>
    </div>
  );
}
