import { blankTemplate, composer, countedIds, elseOwners, findNode, withElseShown } from '.';

const c = composer(countedIds());
const deepest = c.text('Not even that.');
const other = { ...c.text('Nothing left.'), when: 'a = 1', else: deepest };
const first = { ...c.text('Your cart.'), when: 'cart is filled', else: other };
const template = blankTemplate('T', 's', [c.section('S', [first])]);

test('an else is shown where the conditions before it do not hold; its own stands', () => {
  expect(elseOwners(template, deepest.id).map(({ id }) => id)).toEqual([other.id, first.id]);
  const shown = withElseShown(template, other.id);
  const when = (id: string) => shown && findNode(shown, id)?.node.when;
  expect([when(first.id), when(other.id)]).toEqual(['false', 'a = 1']);
  expect(template.sections[0]?.columns[0]?.blocks[0]?.when).toBe('cart is filled');
});

test('what is in no else is shown as it is', () => {
  expect(withElseShown(template, first.id)).toBeNull();
  expect(withElseShown(template, 'gone')).toBeNull();
});
