import { useState, type FormEvent } from 'react';
import { Button, Group, NumberInput, Select } from '@mantine/core';
import { Dialog } from '../parts/Dialog';
import { messageOf } from './ask';
import { outboxApi } from './occasionsApi';
import { FormFoot } from '../parts/FormFoot';
import { momentOf } from '../parts/moment';
import { wordsOf } from '../words';

const t = wordsOf('app');

const MINUTES = { minutes: 1, hours: 60, days: 1440 };
type Unit = keyof typeof MINUTES;

/** Moves the clock on: all that is due until then happens, each at its time. */
export function MoveClock({ onClose }: { onClose: () => void }) {
  const { data } = outboxApi.useClockQuery();
  const [move, moving] = outboxApi.useMoveClockMutation();
  const [reset, resetting] = outboxApi.useResetClockMutation();
  const [n, setN] = useState(4);
  const [unit, setUnit] = useState<Unit>('hours');
  const [problem, setProblem] = useState<string | null>(null);
  const tell = ({ error }: { error?: unknown }) => setProblem(error ? messageOf(error) : null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    tell(await move(n * MINUTES[unit]));
  };
  return (
    <Dialog opened onClose={onClose} title={t('moveTheClock')} size={420}>
      <form onSubmit={(event) => void submit(event)}>
        <p role="status">
          {data && t('hereItIsNow', { now: momentOf(data.now) })}
          {data && data.moved !== 0 && t('aheadOfTheRealTime')}.
        </p>
        <p className="quiet">{t('everythingDueUntilThenHappensAt')}</p>
        <Group gap={8}>
          <NumberInput
            aria-label={t('howFar')}
            w={90}
            min={1}
            max={366}
            value={n}
            onChange={(to) => typeof to === 'number' && setN(to)}
          />
          <Select
            aria-label={t('in')}
            w={120}
            allowDeselect={false}
            data={Object.keys(MINUTES)}
            value={unit}
            onChange={(to) => to && setUnit(to as Unit)}
          />
          {data && data.moved !== 0 && (
            <Button
              variant="subtle"
              loading={resetting.isLoading}
              onClick={() => void reset().then(tell)}
            >
              {t('returnToTheRealTime')}
            </Button>
          )}
        </Group>
        <FormFoot
          problem={problem}
          submit={t('moveTheClock')}
          busy={moving.isLoading}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
