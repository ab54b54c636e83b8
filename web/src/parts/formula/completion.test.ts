import { CompletionContext } from '@codemirror/autocomplete';
import { EditorState } from '@codemirror/state';
import { inferShape } from '@carafe/core/shape';
import { completions } from './completion';

const shape = inferShape([
  { person: { first_name: 'Maud', last_name: '' }, cart: { lines: [{ name: 'Pot' }] } },
  { person: { first_name: 'A name that is far too long to be shown', last_name: '' } },
]);
const complete = completions(shape, []);

/** What is offered where | stands. */
function at(text: string, explicit = false) {
  const pos = text.indexOf('|');
  const state = EditorState.create({ doc: text.replace('|', '') });
  return complete(new CompletionContext(state, pos, explicit));
}
const labels = (text: string, explicit = false) =>
  at(text, explicit)?.options.map(({ label }) => label) ?? [];

describe('completion of formulas', () => {
  it('offers fields by their path, and functions with how they are used', () => {
    expect(labels('per|')).toEqual(expect.arrayContaining(['person.first_name', 'cart.lines']));
    const upper = at('up|')?.options.find(({ label }) => label === 'upper');
    expect(upper).toMatchObject({ type: 'function', apply: 'upper(' });
    expect(upper?.detail).toMatch(/^\(/);
    expect(upper?.info).toMatch(/\w/);
  });

  it('says how often a field is filled, and shows a sample', () => {
    const field = (label: string) => at('p|')?.options.find((one) => one.label === label);
    expect(field('person.first_name')?.detail).toBe('100 % · Maud');
    expect(field('person.last_name')?.detail).toMatch(/^0 % · /);
  });

  it('replaces the whole path that stands before the cursor', () => {
    expect(at('upper(person.fi|)')?.from).toBe(6);
    expect(at('a + b|')?.from).toBe(4);
  });

  it('waits for a letter, unless it is asked for', () => {
    expect(at('1 + |')).toBeNull();
    expect(labels('1 + |', true)).toContain('person.first_name');
  });

  it('leaves texts in quotes alone', () => {
    expect(at('person.first_name = "per|')).toBeNull();
    expect(labels('"a" + per|')).toContain('person.first_name');
  });

  it('offers the members of the loops that stand round a formula', () => {
    const inLoop = completions(shape, [
      { as: 'line', shape: inferShape([{ name: 'Pot' }]) } as never,
    ]);
    const state = EditorState.create({ doc: 'li' });
    const found = inLoop(new CompletionContext(state, 2, false));
    expect(found?.options.map(({ label }) => label)).toContain('line.name');
  });
});
