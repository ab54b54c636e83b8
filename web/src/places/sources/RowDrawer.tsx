import { Button } from '@mantine/core';
import type { SourceSummary } from '@carafe/contract';
import { api } from '../../app/api';
import { notifyFailure, notifyUndoable } from '../../parts/notify';
import { SideSheet } from '../../parts/SideSheet';
import { RecordList } from './RecordList';
import type { StoredRow } from './useRows';
import classes from './Source.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

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
  const [deleteRow] = api.useDeleteRowMutation();
  const [typeRows] = api.useTypeRowsMutation();
  const drop = async () => {
    try {
      await deleteRow({ id: source.id, key: row.key }).unwrap();
      notifyUndoable(t('keyWasDeleted', { key: row.key }), () =>
        typeRows({ id: source.id, records: [row.record] }).unwrap(),
      );
      onClose();
    } catch (error) {
      notifyFailure(error);
    }
  };
  return (
    <SideSheet title={row.key} width={460} onClose={onClose}>
      <div className={classes.record}>
        <RecordList record={row.record} />
        {source.kind === 'typed' && (
          <Button variant="default" color="clay" onClick={() => void drop()}>
            {t('deleteThisRow')}
          </Button>
        )}
      </div>
    </SideSheet>
  );
}
