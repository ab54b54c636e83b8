import { said, TEST_SHOP, testServer } from '../testing';
import { stageOf } from '../testingOccasions';

let carafe: Awaited<ReturnType<typeof testServer>>;
let source: string;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
  await carafe.mailServer.start(0);
  const made = await api('post', '/sources', {
    ...{ shop: 's', name: 'People', kind: 'typed', target: 'people', formula_name: 'people' },
  });
  source = (made.body as { id: string }).id;
});
afterEach(async () => {
  await carafe.runner.idle();
  await carafe.sender.stop();
  await carafe.mailServer.stop();
  carafe.store.close();
});
const stage = stageOf(() => carafe);
const { api, move, template, send, on, states } = stage;

// The clock of the tests begins on the 24th of November.
test.each(['1987-11-26', '11-26', '26.11.', '26 November', '--11-26'])(
  'a birthday that was imported as %s starts an email on its day',
  async (birthday) => {
    const words = await template('Happy birthday');
    const start = {
      kind: 'date_of_person',
      field: 'birthday',
      days: 0,
      yearly: true,
      time: '09:00',
    };
    await on({ start: start as never, steps: [send('a', words, { mail: 'service' })] });
    const typed = await api('post', `/sources/${source}/typed`, {
      records: [{ email: 'maud@post.example', birthday }],
    });
    expect([typed.status, said(typed)]).toEqual([200, undefined]);
    await carafe.runner.idle();
    await move(24 * 60);
    expect(await states()).toEqual([]);
    await move(25 * 60);
    expect(await states()).toEqual(['maud a sent']);
    await move(365 * 24 * 60);
    expect(await states()).toEqual(['maud a sent', 'maud a sent']);
  },
);
