import { skipToken } from '@reduxjs/toolkit/query';
import { useState } from 'react';
import { allSteps, sayStep, type Occasion } from '@carafe/core/occasion';
import { occasionsApi } from '../../app/occasionsApi';
import { useNow } from '../../app/useNow';
import { ahead } from '../../parts/ago';
import { counted } from '@carafe/core/words';
import classes from './Occasions.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

/** Who is inside, where, and when they are looked at next. */
export function InsideList({
  id,
  occasion,
  count,
}: {
  id: string;
  occasion: Occasion;
  count: number;
}) {
  const [opened, setOpened] = useState(false);
  const { data } = occasionsApi.useInsideOfQuery(opened ? id : skipToken);
  const now = useNow();
  if (count === 0) return null;
  const said = (step: string | null) => {
    const found = allSteps(occasion.steps).find((one) => one.id === step);
    return found ? sayStep(found, { template: () => t('anEmail') }) : t('theEnd');
  };
  return (
    <details
      className={classes.whom}
      onToggle={({ currentTarget }) => setOpened(currentTarget.open)}
    >
      <summary>
        {t('peopleInsideOrAboutToEnter', { people: counted(count, 'person', 'people') })}
      </summary>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col">{t('who')}</th>
            <th scope="col">{t('next')}</th>
            <th scope="col">{t('when')}</th>
          </tr>
        </thead>
        <tbody>
          {(data?.people ?? []).map(({ email, name, step, entered, due, cause }) => (
            <tr key={`${email} ${cause}`}>
              <th scope="row">{name || email}</th>
              <td>{entered === null ? t('couldEnter') : said(step)}</td>
              <td>{ahead(due, now)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
