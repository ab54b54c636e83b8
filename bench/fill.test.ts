import { waysToFill } from './fill';
import { fillRecords } from './fill-template';

test('every way that is raced fills the same mail, to the byte', async () => {
  const { Carafe, ...others } = await waysToFill();
  expect(Object.keys(others)).toHaveLength(6);
  for (const record of fillRecords(60)) {
    const mail = Carafe?.(record);
    expect(mail).toContain('Heritage seed');
    for (const fill of Object.values(others)) expect(fill(record)).toBe(mail);
  }
});
