import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import type { SourceSummary } from '@carafe/contract';
import { api, messageOf } from '../../app/api';
import { SideSheet } from '../../parts/SideSheet';
import { RecordList } from './RecordList';
import type { StoredRow } from './useRows';
import classes from './Source.module.css';

/** One row of a source as it is stored. */
export function RowDrawer({
  source,
  row,
  onClose,
}: {
  source: SourceSummary;
  row: StoredRow;
  onClose: () => void;
}) {
  const drop = async () => {
    try {
      await api.dropRow(source.id, row.key);
      const note = notifications.show({
        title: `“${row.key}” was deleted`,
        autoClose: 12_000,
        message: (
          <Button
            variant="default"
            mt={6}
            onClick={() => {
              notifications.hide(note);
              void api.typeRows(source.id, [row.record]);
            }}
          >
            Undo
          </Button>
        ),
      });
      onClose();
    } catch (error) {
      notifications.show({
        color: 'clay',
        title: 'Nothing was changed',
        message: messageOf(error),
      });
    }
  };
  return (
    <SideSheet title={row.key} width={460} onClose={onClose}>
      <div className={classes.record}>
        <RecordList record={row.record} />
        {source.kind === 'typed' && (
          <Button variant="default" color="clay" onClick={() => void drop()}>
            Delete this row
          </Button>
        )}
      </div>
    </SideSheet>
  );
}
