import { useState, type ReactNode } from 'react';
import { Button, Group } from '@mantine/core';
import type { Refused } from '../../app/ask';
import { outboxApi } from '../../app/occasionsApi';
import { Dialog } from '../../parts/Dialog';
import type { OutboxAsked } from './useOutbox';
import { counted } from '@carafe/core/words';
import { notifyFailure } from '../../parts/notify';
import { wordsOf } from '../../words';

const t = wordsOf('outbox');

export type MailChange =
  'approve' | 'stop' | 'go_on' | 'try_again' | 'count_as_sent' | 'send_again' | 'repeat';

/** Which emails: some, or all that are looked at. */
export type WhichMails = { ids: string[] } | { query: OutboxAsked; count: number };

interface Question {
  title: string;
  message: string;
  no: string;
  yes: string;
  answer: (isYes: boolean) => void;
}

/** So many are changed without asking first: a slip is mended one by one. */
const FEW = 5;
/** What is asked before many are changed. */
const ASKS: Record<MailChange, { does: string; says: string }> = {
  approve: { does: t('approve'), says: t('theyAreSentRightAway') },
  stop: { does: t('stop'), says: t('theyAreNotSentYouCan') },
  go_on: {
    does: t('resume'),
    says: t('thoseThatWereStoppedByHand'),
  },
  try_again: { does: t('tryAgain'), says: t('theyAreHandedToTheMail') },
  count_as_sent: { does: t('countAsSent'), says: t('carafeDoesNotSendThemAgain') },
  send_again: {
    does: t('sendAgain'),
    says: t('someOfThemMayHaveArrived'),
  },
  repeat: {
    does: t('sendAgain'),
    says: t('aNewEmailIsCreatedFor'),
  },
};

const asksForOff = (error: unknown): boolean =>
  JSON.stringify((error as Partial<Refused>).body ?? null).includes('"even_off"');

/**
 * Changes emails of the outbox. Before many are changed, and where their occasion was switched off since, a dialog asks: it is
 * to be shown wherever the hook is used. Gives how many were changed; null where nothing was.
 */
export function useChangeMails(shop: string): {
  change: (to: MailChange, which: WhichMails) => Promise<number | null>;
  isChanging: boolean;
  dialog: ReactNode;
} {
  const [send, sending] = outboxApi.useChangeOutboxMutation();
  const [question, setQuestion] = useState<Question | null>(null);
  const asked = async (about: Omit<Question, 'answer'>): Promise<boolean> => {
    const isMeant = await new Promise<boolean>((answer) => setQuestion({ ...about, answer }));
    setQuestion(null);
    return isMeant;
  };
  const change = async (to: MailChange, which: WhichMails): Promise<number | null> => {
    const count = 'ids' in which ? which.ids.length : which.count;
    const { does, says } = ASKS[to];
    const title = `${does}: ${counted(count, 'email')}`;
    const isMany = count > FEW || to === 'repeat';
    if (isMany && !(await asked({ title, message: says, no: t('cancel'), yes: title })))
      return null;
    const body = 'ids' in which ? { ids: which.ids } : { query: which.query };
    const { data, error } = await send({ shop, to, ...body });
    if (!error) return data?.changed ?? 0;
    if (!asksForOff(error)) {
      notifyFailure(error);
      return null;
    }
    const off = { title: t('itsOccasionIsOff'), no: t('doNotSend'), yes: t('sendAnyway') };
    if (!(await asked({ ...off, message: (error as Refused).message }))) return null;
    const again = await send({ shop, to, ...body, even_off: true });
    if (again.error) notifyFailure(again.error);
    return again.data?.changed ?? null;
  };
  const dialog = question && (
    <Dialog opened onClose={() => question.answer(false)} title={question.title} size={460}>
      <p>{question.message}</p>
      <Group justify="flex-end" mt={16}>
        <Button variant="default" data-autofocus onClick={() => question.answer(false)}>
          {question.no}
        </Button>
        <Button variant="light" onClick={() => question.answer(true)}>
          {question.yes}
        </Button>
      </Group>
    </Dialog>
  );
  return { change, isChanging: sending.isLoading, dialog };
}
