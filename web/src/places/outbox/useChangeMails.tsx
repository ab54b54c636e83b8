import { useState, type ReactNode } from 'react';
import { Button, Group } from '@mantine/core';
import type { Refused } from '../../app/ask';
import { outboxApi } from '../../app/occasionsApi';
import { Dialog } from '../../parts/Dialog';
import { notifyFailure } from '../../parts/notify';

export type MailChange =
  'approve' | 'stop' | 'go_on' | 'try_again' | 'count_as_sent' | 'send_again';

interface Question {
  message: string;
  answer: (isYes: boolean) => void;
}

const asksForOff = (error: unknown): boolean =>
  JSON.stringify((error as Partial<Refused>).body ?? null).includes('"even_off"');

/**
 * Changes emails of the outbox. Where their occasion was switched off since, a dialog asks first: it is to be shown wherever
 * the hook is used. Gives how many were changed; null where nothing was.
 */
export function useChangeMails(shop: string): {
  change: (to: MailChange, ids: string[]) => Promise<number | null>;
  isChanging: boolean;
  dialog: ReactNode;
} {
  const [send, sending] = outboxApi.useChangeOutboxMutation();
  const [question, setQuestion] = useState<Question | null>(null);
  const change = async (to: MailChange, ids: string[]): Promise<number | null> => {
    const { data, error } = await send({ shop, to, ids });
    if (!error) return data?.changed ?? 0;
    if (!asksForOff(error)) {
      notifyFailure(error);
      return null;
    }
    const isMeant = await new Promise<boolean>((answer) =>
      setQuestion({ message: (error as Refused).message, answer }),
    );
    setQuestion(null);
    if (!isMeant) return null;
    const again = await send({ shop, to, ids, even_off: true });
    if (again.error) notifyFailure(again.error);
    return again.data?.changed ?? null;
  };
  const dialog = question && (
    <Dialog opened onClose={() => question.answer(false)} title="Its occasion is off" size={460}>
      <p>{question.message}</p>
      <Group justify="flex-end" mt={16}>
        <Button variant="default" data-autofocus onClick={() => question.answer(false)}>
          Do not send
        </Button>
        <Button variant="light" onClick={() => question.answer(true)}>
          Send anyway
        </Button>
      </Group>
    </Dialog>
  );
  return { change, isChanging: sending.isLoading, dialog };
}
