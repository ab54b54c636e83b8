import { Button } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { skipToken } from '@reduxjs/toolkit/query';
import type { Recipient } from '@carafe/contract';
import { parsedFormula } from '@carafe/core/formula';
import { api } from '../../app/api';
import { messageOf } from '../../app/ask';
import classes from './sentence.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

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
  if (!data) return <p className="quiet">{t('counting')}</p>;
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
          {t('holdsOfOfWhich', {
            holds: holds.toLocaleString('en-GB'),
            of: of.toLocaleString('en-GB'),
            which: of === 1 ? t('person') : t('people'),
          })}
        </span>
        {unknown > 0 && (
          <span role="alert">
            {t('forUnknownOfThemThisTakes', { unknown: unknown.toLocaleString('en-GB') })}
          </span>
        )}
        {look(yes, 'View one')}
        {look(no, 'View one who does not match')}
        {onMake && !yes && (
          <Button size="compact-xs" variant="subtle" onClick={() => onMake(true)}>
            {t('nobodyMatchesMakeOne')}
          </Button>
        )}
        {onMake && !no && of > 0 && (
          <Button size="compact-xs" variant="subtle" onClick={() => onMake(false)}>
            {t('everybodyMatchesMakeOneWhoDoes')}
          </Button>
        )}
      </div>
    </div>
  );
}
