import { Button, Table } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { Link } from 'react-router';
import type { ImportState, ImportSummary } from '@carafe/contract';
import { api } from '../../app/api';
import { useNow } from '../../app/useNow';
import { notifyFailure } from '../../parts/notify';
import { ago } from '../../parts/ago';
import { figure } from '@carafe/core/words';
import table from '../../parts/table.module.css';
import classes from './Source.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('sources');

const STATE_WORDS: Record<ImportState, string> = {
  looking: 'Not checked yet',
  checking: 'Being checked',
  checked: 'Checked, needs review',
  applying: 'Being imported',
  applied: 'Imported',
  failed: t('couldNotBeRead'),
  stopped: t('notImported'),
  undone: 'Undone',
};

/** Every file that came, what it did, and the way back from the last. */
export function FilesView({ imports }: { imports: ImportSummary[] }) {
  const now = useNow();
  const [undoImport, { isLoading, originalArgs }] = api.useUndoImportMutation();
  const undo = async (id: string) => {
    try {
      await undoImport(id).unwrap();
      notifications.show({ message: t('theSourceIsAsItWas') });
    } catch (error) {
      notifyFailure(error);
    }
  };
  if (imports.length === 0) return <p className="quiet">{t('noFileHasComeYet')}</p>;
  return (
    <div className={classes.list}>
      <Table className={table.table ?? ''}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>{t('file')}</Table.Th>
            <Table.Th>{t('when')}</Table.Th>
            <Table.Th>{t('state')}</Table.Th>
            <Table.Th className={table.number ?? ''}>{t('rows')}</Table.Th>
            <Table.Th className={table.number ?? ''}>{t('new')}</Table.Th>
            <Table.Th className={table.number ?? ''}>{t('changed')}</Table.Th>
            <Table.Th className={table.number ?? ''}>{t('gone')}</Table.Th>
            <Table.Th className={table.number ?? ''}>{t('rejected')}</Table.Th>
            <Table.Th />
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {imports.map((one) => (
            <Table.Tr key={one.id}>
              <Table.Td>
                <Link to={`/sources/${one.source}/files/${one.id}`}>{one.name}</Link>
              </Table.Td>
              <Table.Td>{ago(one.made_at, now)}</Table.Td>
              <Table.Td title={one.message ?? undefined}>{STATE_WORDS[one.state]}</Table.Td>
              {(['read', 'new', 'changed', 'gone', 'rejected'] as const).map((name) => (
                <Table.Td key={name} className={table.number ?? ''}>
                  {one.counts ? figure(one.counts[name]) : '–'}
                </Table.Td>
              ))}
              <Table.Td>
                {one.undoable && (
                  <Button
                    variant="default"
                    size="compact-xs"
                    loading={isLoading && originalArgs === one.id}
                    onClick={() => void undo(one.id)}
                  >
                    {t('undoThisImport')}
                  </Button>
                )}
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
    </div>
  );
}
