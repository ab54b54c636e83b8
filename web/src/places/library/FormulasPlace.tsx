import { useState } from 'react';
import { Table } from '@mantine/core';
import { skipToken } from '@reduxjs/toolkit/query';
import { Link } from 'react-router';
import type { StoredFormula } from '@carafe/contract';
import { OWN, UNNAMED, type NamedFormula } from '@carafe/core/library';
import { api, type KeptAs } from '../../app/api';
import { messageOf } from '../../app/ask';
import table from '../../parts/table.module.css';
import { useShop } from '../../parts/useShop';
import { PlaceHead } from '../../parts/PlaceHead';
import { FormulaSheet } from '../../parts/FormulaSheet';
import { LibraryTabs } from './LibraryTabs';
import classes from './Library.module.css';
import { wordsOf } from '../../words';

const t = wordsOf('library');

/** Merge tags and conditions with a name, used in many templates and changed once. */
export function FormulasPlace() {
  const { shop, choice } = useShop();
  const { data, error } = api.useFormulasQuery(shop ?? skipToken);
  const [open, setOpen] = useState<{ kept: KeptAs | null; formula: NamedFormula } | null>(null);
  const formulas = data?.formulas ?? [];
  const groups = [...new Set(formulas.map(({ formula }) => formula.group))].sort();
  return (
    <main className={classes.place}>
      <LibraryTabs />
      <PlaceHead
        title={t('namedFormulas')}
        beside={choice}
        hint={t('yourOwnMergeTagsAndConditions')}
        add={t('addAFormula')}
        onAdd={() => setOpen({ kept: null, formula: UNNAMED })}
      />
      {error && <p role="alert">{messageOf(error)}</p>}
      {data && formulas.length === 0 && <p className="quiet">{t('noNamedFormulasYetWriteA')}</p>}
      {formulas.length > 0 && (
        <Table className={table.table}>
          <Table.Thead>
            <Table.Tr>
              <Table.Th>{t('name')}</Table.Th>
              <Table.Th>{t('usedInFormulasAs')}</Table.Th>
              <Table.Th>{t('whatItIs')}</Table.Th>
              <Table.Th>{t('usedIn')}</Table.Th>
            </Table.Tr>
          </Table.Thead>
          {groups.map((group) => (
            <Table.Tbody key={group}>
              {group !== '' && (
                <Table.Tr>
                  <Table.Th colSpan={4} scope="rowgroup" className={classes.group ?? ''}>
                    {group}
                  </Table.Th>
                </Table.Tr>
              )}
              {formulas
                .filter((one) => one.formula.group === group)
                .map((one) => (
                  <FormulaLine key={one.id} one={one} onOpen={setOpen} />
                ))}
            </Table.Tbody>
          ))}
        </Table>
      )}
      {open && shop !== undefined && (
        <FormulaSheet shop={shop} {...open} onClose={() => setOpen(null)} />
      )}
    </main>
  );
}

function FormulaLine({
  one: { id, version, formula, used_by: usedBy },
  onOpen,
}: {
  one: StoredFormula;
  onOpen: (open: { kept: KeptAs; formula: NamedFormula }) => void;
}) {
  return (
    <Table.Tr>
      <Table.Td>
        <button
          type="button"
          className={classes.open}
          onClick={() => onOpen({ kept: { id, version }, formula })}
        >
          {formula.label}
        </button>
        {formula.description && <div className="quiet">{formula.description}</div>}
      </Table.Td>
      <Table.Td className={classes.formula}>
        {OWN}.{formula.name}
      </Table.Td>
      <Table.Td className={classes.formula}>{formula.formula}</Table.Td>
      <Table.Td>
        {usedBy.length === 0 ? (
          <span className="quiet">{t('nothing')}</span>
        ) : (
          usedBy.map((template, i) => (
            <span key={template.id}>
              {i > 0 && ', '}
              <Link to={`/templates/${template.id}`}>{template.name}</Link>
            </span>
          ))
        )}
      </Table.Td>
    </Table.Tr>
  );
}
