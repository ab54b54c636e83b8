import { Button, Group } from '@mantine/core';
import { wordsOf } from '../words';

const t = wordsOf('parts');

/** The end of a form in a dialog: what is wrong, the way out, and the way on. */
export function FormFoot({
  problem,
  submit,
  busy = false,
  onCancel,
}: {
  problem: string | null;
  submit: string;
  busy?: boolean;
  onCancel: () => void;
}) {
  return (
    <>
      {problem && (
        <p role="alert" style={{ color: 'var(--attention)', fontSize: 13 }}>
          {problem}
        </p>
      )}
      <Group justify="flex-end" mt={16}>
        <Button variant="default" onClick={onCancel}>
          {t('cancel')}
        </Button>
        <Button type="submit" loading={busy}>
          {submit}
        </Button>
      </Group>
    </>
  );
}
