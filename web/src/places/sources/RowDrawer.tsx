import { Button } from '@mantine/core';
import type { SourceSummary } from '@carafe/contract';
import { api } from '../../app/api';
import { tellFailure, tellUndoable } from '../../parts/tell';
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
      tellUndoable(`“${row.key}” was deleted`, () => api.typeRows(source.id, [row.record]));
      onClose();
    } catch (error) {
      tellFailure(error);
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
