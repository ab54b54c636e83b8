import { useCallback } from 'react';
import { ENDPOINTS } from '@carafe/contract';
import { ask } from '../../../app/ask';
import { useAppDispatch, useAppSelector } from '../../../app/store';
import { notifyFailure } from '../../../parts/notify';
import { deskActions } from '../deskSlice';

/** Shows the mail of one person on the canvas. */
export function useLookAt(): (person: number) => void {
  const dispatch = useAppDispatch();
  const shop = useAppSelector((s) => s.desk.template?.shop ?? '');
  return useCallback(
    (person) => {
      ask(ENDPOINTS.someRecipients, { params: { shop }, query: { ids: String(person) } })
        .then(({ recipients: [found] }) => {
          if (found) dispatch(deskActions.lookedAt(found));
        })
        .catch(notifyFailure);
    },
    [dispatch, shop],
  );
}
