import { Button, Switch } from '@mantine/core';
import { IconPlus } from '@tabler/icons-react';
import type { BlockOf } from '@carafe/core/template';
import { FormulaField } from '../../../parts/FormulaField';
import { useScope } from '../../../parts/words/scope';
import { useEdit } from '../useEdit';
import { LabelledLine } from './Labelled';
import { ListItems } from './ListItems';

type Row = BlockOf<'totals'>['rows'][number];

/** The rows of a block of totals. */
export function TotalsForm({ block }: { block: BlockOf<'totals'> }) {
  const { changeById } = useEdit();
  const put = (says: string, recipe: (b: typeof block) => void) =>
    changeById(block.id, says, recipe);
  return (
    <>
      <ListItems
        items={block.rows}
        nameOf={(row) => (row.strong ? 'Strong row' : 'Row')}
        onChange={(rows) => put('Order the rows', (b) => void (b.rows = rows))}
        render={(row, i) => (
          <RowForm
            row={row}
            onChange={(next) => put('Edit a row', (b) => void (b.rows[i] = next))}
          />
        )}
      />
      <Button
        variant="default"
        leftSection={<IconPlus size={14} />}
        disabled={block.rows.length >= 20}
        onClick={() =>
          put('Add a row', (b) => void b.rows.push({ label: 'Total', amount: 'cart.total' }))
        }
      >
        Add a row
      </Button>
    </>
  );
}

function RowForm({ row, onChange }: { row: Row; onChange: (row: Row) => void }) {
  const { shape, frames } = useScope();
  return (
    <>
      <LabelledLine
        label="Label"
        value={row.label}
        onChange={(label) => onChange({ ...row, label })}
      />
      <FormulaField
        label="Amount"
        value={row.amount}
        use="value"
        shape={shape}
        frames={frames}
        onChange={(amount) => onChange({ ...row, amount })}
      />
      <FormulaField
        label="Only if"
        placeholder="There is an amount"
        value={row.when ?? ''}
        use="condition"
        shape={shape}
        frames={frames}
        onChange={(when) => {
          const { when: _before, ...rest } = row;
          onChange(when.trim() === '' ? rest : { ...row, when });
        }}
      />
      <Switch
        mt={6}
        label="Strong"
        checked={row.strong === true}
        onChange={({ currentTarget: { checked } }) => onChange({ ...row, strong: checked })}
      />
    </>
  );
}
