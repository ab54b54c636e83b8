import { Quiet } from './quiet';

// What nobody waits for begins when no long work goes on.

/** Work that ends when it is told to. */
function openWork() {
  let end: () => void = () => undefined;
  const work = new Promise<void>((done) => (end = done));
  return { work: () => work, end };
}

test('it begins at once where no long work went on', async () => {
  await new Quiet(60_000, 60_000).come();
});

test('it waits for all long work that goes on', async () => {
  const quiet = new Quiet(1, 60_000);
  const order: string[] = [];
  const works = ['first', 'second'].map((name) => {
    const { work, end } = openWork();
    const over = quiet.during(work).then(() => order.push(name));
    return { end, over };
  });
  const came = quiet.come().then(() => order.push('aside'));
  for (const { end, over } of works) {
    end();
    await over;
  }
  await came;
  expect(order).toEqual(['first', 'second', 'aside']);
});

test('long work that fails is over as well', async () => {
  const quiet = new Quiet(1, 60_000);
  const failing = quiet.during(() => Promise.reject(new Error('no')));
  await expect(failing).rejects.toThrow('no');
  await quiet.come();
});

test('it goes on in the end while long work does not end', async () => {
  const { work, end } = openWork();
  const quiet = new Quiet(1, 5);
  const over = quiet.during(work);
  await quiet.come();
  end();
  await over;
});
