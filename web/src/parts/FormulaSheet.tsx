import { useState, type FormEvent } from 'react';
import { Autocomplete, SegmentedControl, TextInput } from '@mantine/core';
import { OWN, type NamedFormula } from '@carafe/core/library';
import { ANY } from '@carafe/core/shape';
import { api, type KeptAs } from '../app/api';
import { FormulaField } from './formula/FormulaField';
import { SamplesList } from './SamplesList';
import { AudienceBar } from './sentence/AudienceBar';
import { ConditionField } from './sentence/ConditionField';
import { SideSheet } from './SideSheet';
import { SheetFoot } from './SheetFoot';
import classes from './parts.module.css';
import { wordsOf } from '../words';

const t = wordsOf('parts');

interface Props {
  shop: string;
  /** Null for a new one. */
  kept: KeptAs | null;
  formula: NamedFormula;
  onClose: () => void;
  /** Where it is kept for something that uses it: its use is known, and so is what it is asked for. */
  onKept?: (formula: NamedFormula) => void;
}

/** A name as formulas write it: small letters, digits and _. */
export function nameFor(label: string): string {
  return label
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{Nd}]+/gu, '_')
    .replace(/^[_\d]+|_+$/g, '')
    .slice(0, 40);
}

/** One formula with its name, and what it gives for people of the shop. */
export function FormulaSheet({ shop, kept: keptAs, formula: given, onClose, onKept }: Props) {
  const [formula, setFormula] = useState(given);
  const [isNamed, setIsNamed] = useState(keptAs !== null);
  const { data: shape = ANY } = api.useShapeQuery(shop);
  const { data: kept } = api.useFormulasQuery(shop);
  const groups = [...new Set(kept?.formulas.map((one) => one.formula.group))].filter(Boolean);
  const [add, adding] = api.useAddFormulaMutation();
  const [change, changing] = api.useChangeFormulaMutation();
  const [remove, removing] = api.useDeleteFormulaMutation();
  const put = (some: Partial<NamedFormula>) => setFormula((now) => ({ ...now, ...some }));
  const problem = adding.error ?? changing.error ?? removing.error;
  const isCondition = formula.use === 'condition';
  const save = async (event: FormEvent) => {
    event.preventDefault();
    const { error } =
      keptAs === null ? await add({ shop, formula }) : await change({ ...keptAs, formula });
    if (error) return;
    onKept?.(formula);
    onClose();
  };
  const drop = async () => {
    if (keptAs !== null && !(await remove(keptAs.id)).error) onClose();
  };
  const shared = {
    ...{ value: formula.formula, shape, frames: [] },
    onChange: (source: string) => put({ formula: source }),
  };
  return (
    <SideSheet
      title={onKept ? t('saveAsANamedFormula') : keptAs === null ? t('aNewFormula') : given.label}
      width={480}
      isForm
      onClose={onClose}
    >
      <form className={classes.sheetForm} onSubmit={(event) => void save(event)}>
        <TextInput
          label={t('name')}
          data-autofocus
          value={formula.label}
          onChange={({ currentTarget: { value } }) =>
            put({ label: value, ...(!isNamed && { name: nameFor(value) }) })
          }
        />
        <TextInput
          label={t('usedInFormulasAs')}
          leftSection={<span className={classes.source}>{OWN}.</span>}
          leftSectionWidth={44}
          styles={{ input: { fontFamily: 'var(--mantine-font-family-monospace)', fontSize: 12 } }}
          value={formula.name}
          onChange={({ currentTarget: { value } }) => {
            setIsNamed(true);
            put({ name: value });
          }}
        />
        {!onKept && (
          <SegmentedControl
            aria-label={t('whatItIsUsedFor')}
            value={formula.use}
            data={[
              { value: 'value', label: t('mergeTag') },
              { value: 'condition', label: t('condition') },
            ]}
            onChange={(use) => put({ use: use as NamedFormula['use'] })}
          />
        )}
        {isCondition ? (
          <ConditionField label={t('holdsIf')} placeholder={t('always')} now={null} {...shared} />
        ) : (
          <FormulaField label={t('formula')} use="tag" {...shared} />
        )}
        {isCondition ? (
          <AudienceBar shop={shop} formula={formula.formula} />
        ) : (
          <SamplesList shop={shop} formula={formula.formula} />
        )}
        <TextInput
          label={t('whatItIsFor')}
          value={formula.description}
          onChange={({ currentTarget: { value } }) => put({ description: value })}
        />
        <Autocomplete
          label={t('group')}
          data={groups.sort()}
          value={formula.group}
          onChange={(group) => put({ group })}
        />
        <SheetFoot
          problem={problem}
          onDelete={keptAs === null ? undefined : () => void drop()}
          onCancel={onClose}
          disabled={formula.label.trim() === '' || formula.formula.trim() === ''}
          busy={adding.isLoading || changing.isLoading}
        />
      </form>
    </SideSheet>
  );
}
