import { skipToken } from '@reduxjs/toolkit/query';
import { useState } from 'react';
import { allSteps, sayStep, type Occasion } from '@carafe/core/occasion';
import { occasionsApi } from '../../app/occasionsApi';
import { useNow } from '../../app/useNow';
import { ahead } from '../../parts/ago';
import { counted } from '@carafe/core/words';
import classes from './Occasions.module.css';

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
    return found ? sayStep(found, { template: () => 'an email' }) : 'the end';
  };
  return (
    <details
      className={classes.whom}
      onToggle={({ currentTarget }) => setOpened(currentTarget.open)}
    >
      <summary>{counted(count, 'person', 'people')} inside or about to enter</summary>
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col">Who</th>
            <th scope="col">Next</th>
            <th scope="col">When</th>
          </tr>
        </thead>
        <tbody>
          {(data?.people ?? []).map(({ email, name, step, entered, due, cause }) => (
            <tr key={`${email} ${cause}`}>
              <th scope="row">{name || email}</th>
              <td>{entered === null ? 'Could enter' : said(step)}</td>
              <td>{ahead(due, now)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
