import { skipToken } from '@reduxjs/toolkit/query';
import { rulesApi } from '../../app/rulesApi';
import { messageOf } from '../../app/ask';
import { useDeskState } from '../../app/store';
import { PickedList } from '../../parts/PickedList';

/** Why each pick of a rule stands in the mail of the recipient shown, and what was passed over. */
export function PicksWhy({ shop, rule }: { shop: string; rule: string }) {
  const { recipients, index } = useDeskState('recipients', 'index');
  const person = recipients[index]?.email;
  const { data, error } = rulesApi.usePicksQuery(
    person === undefined ? skipToken : { shop, rule, person },
  );
  if (error) return <p role="alert">{messageOf(error)}</p>;
  return data ? <PickedList {...data} /> : null;
}
