import { useEffect, useState } from 'react';
import { ColorPicker, ColorSwatch, Popover, TextInput, UnstyledButton } from '@mantine/core';
import { wordsOf } from '../words';

const t = wordsOf('parts');

interface Props {
  label: string;
  description?: string;
  placeholder?: string;
  /** #rrggbb; undefined where none is given. */
  value: string | undefined;
  /** It can be left empty. */
  optional?: boolean;
  onChange: (colour: string | undefined) => void;
}

/** #abc and abcdef are colours too, as people type them; null for what is none yet. */
export function readColour(typed: string): string | null {
  const digits = /^#?([0-9a-f]{3}|[0-9a-f]{6})$/i.exec(typed.trim())?.[1];
  if (digits === undefined) return null;
  const six = digits.length === 3 ? digits.replace(/./g, '$&$&') : digits;
  return `#${six.toLowerCase()}`;
}

/** A colour, typed or picked. What is half typed stays in the field, and goes when it is left. */
export function ColourField({ value, optional = false, onChange, ...rest }: Props) {
  const [typed, setTyped] = useState(value ?? '');
  const [opened, setOpened] = useState(false);
  useEffect(() => setTyped(value ?? ''), [value]);
  const isWrong = typed !== '' && readColour(typed) === null;
  return (
    <TextInput
      size="xs"
      {...rest}
      value={typed}
      error={isWrong ? t('aColourSuchAs0b6e75') : undefined}
      leftSection={
        <Popover opened={opened} onChange={setOpened} position="bottom-start" trapFocus returnFocus>
          <Popover.Target>
            <UnstyledButton
              aria-label={t('pickLabel', { label: rest.label.toLowerCase() })}
              onClick={() => setOpened((now) => !now)}
            >
              <ColorSwatch size={16} color={value ?? 'transparent'} />
            </UnstyledButton>
          </Popover.Target>
          <Popover.Dropdown p={8} data-keep-open>
            <ColorPicker
              format="hex"
              value={value ?? '#ffffff'}
              hueLabel={t('labelHue', { label: rest.label })}
              saturationLabel={t('labelSaturationAndBrightness', { label: rest.label })}
              onChange={(picked) => onChange(picked.toLowerCase())}
            />
          </Popover.Dropdown>
        </Popover>
      }
      onChange={({ currentTarget: { value: now } }) => {
        setTyped(now);
        const colour = readColour(now);
        if (now === '' && optional) onChange(undefined);
        // Three digits may be the beginning of six: they are taken when the field is left.
        else if (colour && now.trim().replace('#', '').length === 6) onChange(colour);
      }}
      onBlur={() => {
        const colour = readColour(typed);
        if (colour && colour !== value) onChange(colour);
        else if (typed !== '' || !optional) setTyped(value ?? '');
      }}
    />
  );
}
