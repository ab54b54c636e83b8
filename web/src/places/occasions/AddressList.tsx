import { useState } from 'react';
import { Textarea } from '@mantine/core';
import { readAddresses } from '@carafe/core/occasion';
import { counted } from '@carafe/core/words';
import { wordsOf } from '../../words';

const t = wordsOf('occasions');

interface Props {
  addresses: readonly string[];
  onPut: (addresses: string[]) => void;
}

/** The addresses that alone are meant. Where one of them is none, it says which, and nothing is taken until it is mended. */
export function AddressList({ addresses, onPut }: Props) {
  const [problem, setProblem] = useState<string | null>(null);
  const take = (text: string) => {
    const read = readAddresses(text);
    setProblem(read.problem);
    if (read.problem === null && read.addresses.join() !== addresses.join()) onPut(read.addresses);
  };
  const count =
    addresses.length > 0 ? ` ${counted(addresses.length, 'address', 'addresses')}.` : '';
  return (
    <Textarea
      label={t('onlyTheseAddresses')}
      description={t('separateThemWithCommasOrNew', { number: count })}
      size="xs"
      autosize
      minRows={1}
      maxRows={5}
      key={addresses.join()}
      defaultValue={addresses.join(', ')}
      error={problem}
      onBlur={({ currentTarget: { value } }) => take(value)}
    />
  );
}
