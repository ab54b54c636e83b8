import { useState } from 'react';
import { Button } from '@mantine/core';
import { parsedFormula } from '@carafe/core/formula';
import { isNamed, UNNAMED } from '@carafe/core/library';
import { FormulaSheet } from '../../../parts/FormulaSheet';
import { wordsOf } from '../../../words';

const t = wordsOf('desk');

/** Gives a condition a name, by which other templates use it too; one that has a name is not named again. */
export function KeepCondition({
  shop,
  formula,
  onKept,
}: {
  shop: string;
  formula: string;
  onKept: (name: string) => void;
}) {
  const [isOpen, setOpen] = useState(false);
  if (isNamed(formula) || !parsedFormula(formula).ok) return null;
  return (
    <>
      <Button size="compact-xs" variant="subtle" onClick={() => setOpen(true)}>
        {t('saveAsANamedFormula')}
      </Button>
      {isOpen && (
        <FormulaSheet
          shop={shop}
          kept={null}
          formula={{ ...UNNAMED, use: 'condition', formula }}
          onKept={({ name }) => onKept(name)}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  );
}
