import { useState } from 'react';
import { ENDPOINTS, type BodyOf } from '@carafe/contract';
import { ask } from '../../../app/ask';
import { store, useAppDispatch } from '../../../app/store';
import { notifyFailure, notifyUndoable } from '../../../parts/notify';
import { deskActions } from '../deskSlice';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

export type MakeTarget = BodyOf<typeof ENDPOINTS.makeOne>['target'];

/** Makes up a recipient who reaches a part of the template, and shows the mail for them. */
export function useMakeOne() {
  const dispatch = useAppDispatch();
  const [busy, setBusy] = useState(false);
  const make = async (target: MakeTarget) => {
    const { template } = store.getState().desk;
    if (!template) return;
    const { shop } = template;
    setBusy(true);
    try {
      const { recipient } = await ask(ENDPOINTS.makeOne, {
        params: { shop },
        body: { template, target },
      });
      dispatch(deskActions.lookedAt(recipient));
      notifyUndoable(t('nameSavedAsATestRecipient', { name: recipient.name }), () =>
        ask(ENDPOINTS.deleteTestRecipient, { params: { shop, id: String(recipient.id) } }),
      );
    } catch (error) {
      notifyFailure(error, t('noRecipientCouldBeMade'));
    }
    setBusy(false);
  };
  return { make, busy };
}
