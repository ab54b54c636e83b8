import { Button, Group } from '@mantine/core';
import { messageOf } from '../app/ask';
import { wordsOf } from '../words';

const t = wordsOf('parts');

interface Props {
  /** What was refused. */
  problem: unknown;
  /** Left out for what is new. */
  onDelete?: (() => void) | undefined;
  onCancel: () => void;
  disabled?: boolean;
  busy: boolean;
}

/** The end of a sheet: what is wrong, deleting, the way out, and the way on. */
export function SheetFoot({ problem, onDelete, onCancel, disabled = false, busy }: Props) {
  return (
    <>
      {problem !== undefined && <p role="alert">{messageOf(problem)}</p>}
      <Group justify="space-between">
        {onDelete ? (
          <Button variant="subtle" color="clay" onClick={onDelete}>
            {t('delete')}
          </Button>
        ) : (
          <span />
        )}
        <Group gap={8}>
          <Button variant="default" onClick={onCancel}>
            {t('cancel')}
          </Button>
          <Button type="submit" disabled={disabled} loading={busy}>
            {t('save')}
          </Button>
        </Group>
      </Group>
    </>
  );
}
