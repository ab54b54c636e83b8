/** @jest-environment jsdom */
import { useState } from 'react';
import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPart } from '../testing';
import { ColourField, readColour } from './ColourField';

let given: (string | undefined)[] = [];
function shown(first: string | undefined, optional: boolean) {
  given = [];
  function Page() {
    const [value, setValue] = useState(first);
    return (
      <ColourField
        label="Text colour"
        value={value}
        optional={optional}
        onChange={(colour) => {
          given.push(colour);
          setValue(colour);
        }}
      />
    );
  }
  renderPart(<Page />);
  return screen.getByRole<HTMLInputElement>('textbox', { name: 'Text colour' });
}
afterEach(cleanup);

test('colours are read as people type them', () => {
  expect(['#0B6E75', '0b6e75', '#abc', 'abcd', 'red', ''].map(readColour)).toEqual([
    ...['#0b6e75', '#0b6e75', '#aabbcc', null, null, null],
  ]);
});

test('it can be typed letter by letter, and a half one stays in the field only', async () => {
  const field = shown('#ffffff', false);
  await userEvent.clear(field);
  await userEvent.type(field, '#0b6');
  expect(given).toEqual([]);
  await userEvent.type(field, 'e75');
  expect(given).toEqual(['#0b6e75']);
  await userEvent.type(field, 'zz');
  expect(field.getAttribute('aria-invalid')).toBe('true');
  await userEvent.tab();
  expect(field.value).toBe('#0b6e75');
});

test('three digits are taken when the field is left; an optional one can be emptied', async () => {
  const field = shown(undefined, true);
  await userEvent.type(field, 'abc');
  await userEvent.tab();
  expect(given).toEqual(['#aabbcc']);
  await userEvent.clear(field);
  expect(given.at(-1)).toBeUndefined();
});

test('its sliders have names, and move by the arrows', async () => {
  shown('#0b6e75', false);
  await userEvent.click(screen.getByRole('button', { name: 'Pick text colour' }));
  const hue = await screen.findByRole('slider', { name: 'Text colour: hue' });
  expect(screen.getByRole('slider', { name: /saturation and brightness/ })).toBeTruthy();
  hue.focus();
  await userEvent.keyboard('{ArrowRight}');
  expect(given.at(-1)).toMatch(/^#[0-9a-f]{6}$/);
});
