import { Input } from '@mantine/core';
import { LineField } from './words/WordsEditor';

interface Props {
  label: string;
  description?: string;
  placeholder?: string;
  value: string;
  onChange: (value: string) => void;
}

/** A line of words with merge tags, with its label. */
export function LabelledLine({ label, description, value, onChange }: Props) {
  return (
    <Input.Wrapper label={label} size="xs" labelElement="div" {...(description && { description })}>
      <LineField label={label} value={value} onChange={onChange} />
    </Input.Wrapper>
  );
}
