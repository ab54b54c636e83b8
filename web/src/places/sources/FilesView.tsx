import { useState } from 'react';
import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { Link } from 'react-router';
import type { ImportState, ImportSummary } from '@carafe/contract';
import { api } from '../../app/api';
import { tellFailure } from '../../parts/tell';
import { ago } from '../../parts/ago';
import { figure } from '../../parts/counted';
import table from '../../parts/table.module.css';
import classes from './Source.module.css';

const STATE_WORDS: Record<ImportState, string> = {
  looking: 'Looked at, not checked',
  checking: 'Is being checked',
  checked: 'Checked, waits for you',
  applied: 'Taken in',
  failed: 'Could not be read',
  stopped: 'Not taken',
  undone: 'Gone back from',
};

/** Every file that came, what it did, and the way back from the last. */
export function FilesView({
  imports,
  onChanged,
}: {
  imports: ImportSummary[];
  onChanged: () => Promise<void>;
}) {
  const [busy, setBusy] = useState<string | null>(null);
  const undo = async (id: string) => {
    setBusy(id);
    try {
      await api.undoImport(id);
      notifications.show({ message: 'The source is as it was before that file.' });
    } catch (error) {
      tellFailure(error);
    } finally {
      setBusy(null);
      await onChanged();
    }
  };
  if (imports.length === 0) return <p className="quiet">No file has come yet.</p>;
  return (
    <div className={classes.list}>
      <table className={table.table}>
        <thead>
          <tr>
            <th>File</th>
            <th>When</th>
            <th>State</th>
            <th className={table.number}>Rows</th>
            <th className={table.number}>New</th>
            <th className={table.number}>Changed</th>
            <th className={table.number}>Gone</th>
            <th className={table.number}>Rejected</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {imports.map((one) => (
            <tr key={one.id}>
              <td>
                <Link to={`/sources/${one.source}/files/${one.id}`}>{one.name}</Link>
              </td>
              <td>{ago(one.made_at, new Date())}</td>
              <td title={one.message ?? undefined}>{STATE_WORDS[one.state]}</td>
              {(['read', 'new', 'changed', 'gone', 'rejected'] as const).map((name) => (
                <td key={name} className={table.number}>
                  {one.counts ? figure(one.counts[name]) : '–'}
                </td>
              ))}
              <td>
                {one.undoable && (
                  <Button
                    variant="default"
                    size="compact-xs"
                    loading={busy === one.id}
                    onClick={() => void undo(one.id)}
                  >
                    Go back to before
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
