import { useEffect, useState } from 'react';
import { Autocomplete, TagsInput } from '@mantine/core';
import { useProductSearch } from './useProductSearch';
import { wordsOf } from '../words';

const t = wordsOf('parts');

/** A product in a list of proposals: its name before its SKU. */
const proposal = (names: ReadonlyMap<string, string>) =>
  function Proposal({ option: { value } }: { option: { value: string } }) {
    return (
      <span>
        {names.get(value)} <span className="quiet">{value}</span>
      </span>
    );
  };

const NONE: ReadonlyMap<string, string> = new Map();

/** What the server found is not looked through once more. */
const all = <T,>({ options }: { options: T }): T => options;

interface OneProps {
  shop: string | undefined;
  label: string;
  placeholder?: string;
  /** A SKU, or blank. */
  value: string;
  /** The row of the catalog comes with it, where the product was proposed. */
  onChange: (sku: string, row?: Record<string, unknown>) => void;
}

/** One product of the shop, looked for by its name; what is typed counts when it is chosen, or left. */
export function ProductChoice({ shop, label, placeholder = '', value, onChange }: OneProps) {
  const [words, setWords] = useState(value);
  useEffect(() => setWords(value), [value]);
  const found = useProductSearch(shop, words);
  const names = found?.names ?? NONE;
  const isUnknown = value !== '' && found?.asked === value && !names.has(value);
  const choose = (sku: string) => {
    setWords(sku);
    if (sku !== value) onChange(sku, found?.rows.get(sku));
  };
  return (
    <Autocomplete
      label={label}
      placeholder={placeholder}
      description={isUnknown ? t('noProductHasThisSKU') : (names.get(value) ?? null)}
      inputWrapperOrder={['label', 'input', 'description', 'error']}
      data={[...names.keys()]}
      filter={all}
      renderOption={proposal(names)}
      value={words}
      onChange={setWords}
      onOptionSubmit={choose}
      onBlur={() => choose(words.trim())}
    />
  );
}

interface SomeProps {
  shop: string | undefined;
  label: string;
  /** SKUs. */
  value: readonly string[];
  most: number;
  description?: string;
  /** Within a line of other controls: small, its label read only. */
  inline?: boolean;
  onChange: (skus: string[]) => void;
}

/** Several products of the shop, looked for by their names. */
export function ProductsChoice({
  shop,
  label,
  value,
  most,
  description,
  inline = false,
  onChange,
}: SomeProps) {
  const [words, setWords] = useState('');
  const names = useProductSearch(shop, words)?.names ?? NONE;
  return (
    <TagsInput
      {...(inline ? { 'aria-label': label, size: 'xs', w: 260 } : { label, description })}
      placeholder={value.length === 0 ? t('namesOrSKUs') : ''}
      maxTags={most}
      data={[...names.keys()]}
      filter={all}
      renderOption={proposal(names)}
      searchValue={words}
      onSearchChange={setWords}
      value={[...value]}
      onChange={onChange}
    />
  );
}
