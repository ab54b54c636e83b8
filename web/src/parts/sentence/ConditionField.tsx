import { useState, type ReactNode } from 'react';
import { Button, Group } from '@mantine/core';
import type { ScopeFrame } from '@carafe/core/formula';
import { formulaSentence } from '@carafe/core/sentence';
import type { Shape } from '@carafe/core/shape';
import { FormulaField } from '../formula/FormulaField';
import { SentenceEditor } from './SentenceEditor';
import { wordsOf } from '../../words';

const t = wordsOf('parts');

interface Props {
  label: string;
  placeholder?: string;
  value: string;
  shape: Shape;
  frames: readonly ScopeFrame[];
  /** Whether it holds for the recipient shown, in words. */
  now: string | null;
  onChange: (formula: string) => void;
  /** What else can be done with it. */
  children?: ReactNode;
}

/** How conditions were written last: the next one begins the same way. */
let lastMode: 'sentence' | 'formula' = 'sentence';

/** A condition, built as a sentence or written as a formula; both are the same formula. */
export function ConditionField({ label, now, children, ...field }: Props) {
  const { value, shape, frames, onChange } = field;
  const [mode, setMode] = useState(lastMode);
  const [isTurned, setTurned] = useState(false);
  const canBeSentence = formulaSentence(value) !== null;
  const isFormula = mode === 'formula' || !canBeSentence;
  const turn = () => {
    lastMode = isFormula ? 'sentence' : 'formula';
    setMode(lastMode);
    setTurned(true);
  };
  const buttons = (
    <>
      {canBeSentence && (
        <Button size="compact-xs" variant="subtle" onClick={turn}>
          {isFormula ? t('asASentence') : t('asAFormula')}
        </Button>
      )}
      {children}
    </>
  );
  return (
    <div>
      {isFormula ? (
        <FormulaField label={label} use="condition" now={now} autoFocus={isTurned} {...field} />
      ) : (
        <>
          <div className="label">{label}</div>
          <SentenceEditor {...{ label, value, shape, frames, onChange }} more={buttons} />
          {value !== '' && now !== null && <div className="now">{t('hereNow', { now })}</div>}
        </>
      )}
      {!canBeSentence && mode === 'sentence' && (
        <p className="quiet">{t('thisIsTooComplexToShow')}</p>
      )}
      {isFormula && <Group gap={4}>{buttons}</Group>}
    </div>
  );
}
