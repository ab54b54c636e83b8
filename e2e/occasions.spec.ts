import { axeFindsInBoth } from './axe';
import { expect, FIRST_PORT, NOW, test, type APIRequestContext, type Page } from './carafe';
import { makeFiles } from '@carafe/demo';
import { simpleParser } from 'mailparser';
import { moveClock } from './moveClock';
import { startServer } from './server';

const SHOP = 'quillmoss-gb';
const HOUR = 3_600_000;
const DAY = 24 * HOUR;

test.use({ actionTimeout: 20_000 });

let origin = '';
let stop = () => Promise.resolve();
// The clock is moved here: these tests have a server and a database of their own.
test.beforeAll(async () => {
  ({ origin, stop } = await startServer(FIRST_PORT + 50, NOW));
});
test.afterAll(() => stop());

interface Event {
  kind: string;
  at: string;
  email: string;
  sku?: string;
  variant?: string;
}

/** What the cart occasion would have sent in the last 60 days, counted by hand from the demo’s own files. */
function countByHand() {
  const files = makeFiles(new Date(NOW));
  const events = (files.events[SHOP] ?? '')
    .split('\n')
    .filter((text) => text !== '')
    .map((text) => JSON.parse(text) as Event);
  const [head = '', ...rows] = (files.people[SHOP] ?? '').split(/\r?\n/);
  const names = head.split(',');
  const agreed = new Set(
    rows
      .map((row) => row.split(','))
      .filter(
        (cells) =>
          cells[names.indexOf('consent')] === 'true' || cells[names.indexOf('consent')] === 'yes',
      )
      .map((cells) => (cells[names.indexOf('email')] ?? '').toLowerCase()),
  );
  const now = Date.parse(NOW);
  const from = now - 60 * DAY;
  const byPerson = new Map<string, Event[]>();
  for (const event of events) {
    const own = byPerson.get(event.email.toLowerCase()) ?? [];
    byPerson.set(event.email.toLowerCase(), [...own, event]);
  }
  let first = 0;
  let second = 0;
  const reached = new Set<string>();
  for (const [email, own] of byPerson) {
    if (!agreed.has(email)) continue;
    const lines = new Set<string>();
    let touched: number | null = null;
    let rest = Number.NEGATIVE_INFINITY;
    const leave = (until: number) => {
      // The cart lay still from `touched` until something happened to it.
      if (touched === null || lines.size < 2) return;
      const one = touched + 4 * HOUR;
      if (touched + HOUR < from || one > until || one > now || touched + HOUR - rest < 14 * DAY)
        return;
      first++;
      rest = one;
      reached.add(email);
      if (one + DAY <= Math.min(until, now)) {
        second++;
        rest = one + DAY;
      }
    };
    for (const event of own) {
      const at = Date.parse(event.at);
      const line = `${event.sku ?? ''} ${event.variant ?? ''}`;
      if (event.kind === 'cart_added') {
        leave(at - 1);
        lines.add(
          `${line} ${JSON.stringify((event as { properties?: unknown }).properties ?? [])}`,
        );
        touched = at;
      } else if (event.kind === 'cart_removed') {
        leave(at - 1);
        for (const known of lines) if (known.startsWith(line)) lines.delete(known);
        touched = lines.size > 0 ? at : null;
      } else if (event.kind === 'order_placed') {
        leave(at - 1);
        lines.clear();
        touched = null;
      }
    }
    leave(Number.POSITIVE_INFINITY);
  }
  return { first, second, reached: reached.size };
}

const json = async <T>(request: APIRequestContext, path: string): Promise<T> =>
  (await (await request.get(`${origin}/api${path}`)).json()) as T;

/** Somebody who agreed, has ordered before, and has nothing in the cart now. */
async function somebody(request: APIRequestContext): Promise<{ id: number; email: string }> {
  const { recipients } = await json<{ recipients: { id: number; email: string; lines: number }[] }>(
    request,
    `/shops/${SHOP}/recipients?having=order&limit=200`,
  );
  const ids = recipients.filter(({ lines }) => lines === 0).map(({ id }) => id);
  const { people } = await json<{
    people: { id: number; data: { person: { consent: boolean; email: string } } }[];
  }>(request, `/shops/${SHOP}/people?ids=${ids.slice(0, 50).join(',')}`);
  const found = people.find(({ data }) => data.person.consent);
  if (!found) throw new Error('Nobody is like that.');
  return { id: found.id, email: found.data.person.email };
}

/** Writes a formula into the one field of conditions that is open. */
async function condition(
  page: Page,
  within: ReturnType<Page['locator']>,
  label: string,
  formula: string,
) {
  const asFormula = within.getByRole('button', { name: 'As a formula' }).last();
  const field = within.getByRole('textbox', { name: label });
  await expect(asFormula.or(field).first()).toBeVisible();
  if (await asFormula.isVisible()) await asFormula.click();
  await field.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.insertText(formula);
  await page.keyboard.press('Escape');
}

const withoutLinks = (html: string) =>
  html.replace(/<img [^>]*\/mail\/open\/[^>]*>/, '').replace(/(href=")[^"]*"/g, '$1"');

test('a left cart: built, replayed, switched on, one mail held, approved, read, followed home, and no second after the order', async ({
  page,
  request,
}) => {
  test.setTimeout(300_000);
  await page.goto(`${origin}/occasions`);
  await page.getByRole('button', { name: 'Add an occasion' }).click();
  await page.getByRole('button', { name: /^Empty/ }).click();
  const form = page.getByRole('region', { name: 'Occasion', exact: true });
  await expect(form.getByText('When a cart has been quiet for 1 hour')).toBeVisible();
  await form.getByText('For everybody').click();
  await condition(page, form, 'And only if', 'cart.count >= 2');
  await form.getByLabel('Not the same person again within').fill('14');
  await expect(
    form.getByText(/cart count is at least 2, who have not received it within 14 days/),
  ).toBeVisible();
  await form.locator('summary').first().click();

  const add = async (kind: string) => {
    const kinds = page.getByRole('menuitem', { name: kind });
    // The column may grow under the pointer when the walk of the person beside it comes in.
    await expect(async () => {
      await form.getByRole('button', { name: 'Add a step', exact: true }).click();
      await expect(kinds).toBeVisible({ timeout: 3_000 });
    }).toPass({ timeout: 30_000 });
    await kinds.click();
  };
  await add('Wait');
  await form.getByRole('textbox', { name: 'Wait for', exact: true }).fill('3');
  await form.getByRole('combobox', { name: 'Wait for, in', exact: true }).click();
  await page.getByRole('option', { name: 'hours' }).click();
  await expect(form.getByRole('button', { name: 'Wait 3 hours' })).toBeVisible();
  await add('Continue only if');
  await condition(page, form, 'Continue only if', 'not occasion.ordered_since');
  await expect(
    form.getByRole('button', { name: /Only if they have not ordered since/ }),
  ).toBeVisible();
  const mail = async (template: string) => {
    await add('Send an email');
    await form.getByRole('combobox', { name: 'Template', exact: true }).click();
    await page.getByRole('option', { name: template }).click();
    await expect(
      form.getByRole('button', { name: `Send “${template}”, held for approval` }),
    ).toBeVisible();
  };
  await mail('You left these on the potting bench');
  await add('Wait');
  await expect(form.getByRole('button', { name: 'Wait 1 day' })).toBeVisible();
  await add('Continue only if');
  await condition(page, form, 'Continue only if', 'cart is filled and not occasion.ordered_since');
  await mail('Still on the bench');
  await expect(form.getByText('+1 d 4 h').first()).toBeVisible();

  const replay = page.getByRole('region', { name: 'Replay and rehearsal' });
  await replay.getByRole('button', { name: 'Replay', exact: true }).click();
  const { first, second, reached } = countByHand();
  expect(second).toBeGreaterThan(50);
  await expect(replay.getByTestId('replayed')).toContainText(
    `${first + second} emails to ${reached} people`,
    { timeout: 60_000 },
  );
  await expect(replay.getByText('1,250 of 1,250 people checked.')).toBeVisible();
  await expect(replay.locator('figcaption').first()).toContainText(`Still on the bench” ${second}`);
  expect(await axeFindsInBoth(page)).toEqual([]);

  await form.getByRole('button', { name: 'Switch on' }).click();
  const ask = page.getByRole('dialog', { name: 'Switch on' });
  await expect(
    ask.getByText(/Emails of 2 steps wait in the outbox for your approval/),
  ).toBeVisible();
  await ask.getByRole('button', { name: 'Switch on' }).click();
  await expect(form.getByText('On, same as this draft')).toBeVisible();

  const person = await somebody(request);
  await page.goto(`${origin}/shop`);
  const put = async (shelf: string, n: number) => {
    await page.getByRole('navigation', { name: 'Shelves' }).getByText(shelf).click();
    await page.locator('.shop-shelf button:not(:has(em))').nth(n).click();
    const sheet = page.getByRole('dialog');
    const name = await sheet.getByRole('heading').innerText();
    await sheet.getByRole('button', { name: /basket/i }).click();
    await expect(page.getByRole('status')).toContainText(`${name} is in your basket`);
    await expect(sheet).toHaveCount(0);
  };
  await put('Tools', 1);
  await put('Seeds', 2);
  const basket = page.getByRole('region', { name: 'Basket' });
  await basket.getByLabel(/address|email/i).fill(person.email);
  await basket.getByRole('button', { name: /checkout/i }).click();
  await expect(page.getByRole('status')).toContainText('You may leave now');
  const left = (await basket.locator('ul').innerText()).replace(/\s+/g, ' ');

  await page.goto(`${origin}/outbox`);
  await expect(page.getByText('No emails yet.')).toBeVisible();
  await moveClock(page, 3, 'hours');
  await expect(page.getByText('No emails yet.')).toBeVisible();
  await moveClock(page, 2, 'hours');
  const rows = page.getByRole('button', { name: person.email });
  await expect(rows).toHaveCount(1);
  expect(await axeFindsInBoth(page)).toEqual([]);
  await rows.click();
  const sheet = page.getByRole('dialog');
  await expect(sheet.getByText('Shown as it would be filled now')).toBeVisible();
  await expect(sheet.getByRole('list', { name: 'Story' })).toContainText('met');
  await sheet.getByText('Why', { exact: true }).click();
  await expect(sheet.getByText('cart.lines').first()).toBeVisible();
  expect(await axeFindsInBoth(page)).toEqual([]);
  // What the canvas shows for this person now.
  const { templates } = await json<{ templates: { id: string; name: string }[] }>(
    request,
    '/templates',
  );
  const template = templates.find(({ name }) => name === 'You left these on the potting bench');
  const { record } = await json<{ record: object }>(
    request,
    `/shops/${SHOP}/person?email=${person.email}`,
  );
  const { shared } = (await (
    await request.post(`${origin}/api/shops/${SHOP}/shared`, { data: { catalogs: null } })
  ).json()) as { shared: object };
  const { now } = await json<{ now: string }>(request, '/clock');
  const canvas = (await (
    await request.post(`${origin}/api/render`, {
      data: { template_id: template?.id, records: [{ ...record, ...shared }], as_of: now },
    })
  ).json()) as { mails: { html: string; text: string; subject: string }[] };
  await sheet.getByRole('button', { name: 'Approve' }).click();
  await expect(sheet.getByText('Sent', { exact: true })).toBeVisible();

  const { mails } = await json<{ mails: { id: string; to: string[] }[] }>(request, '/mailbox');
  expect(mails.map(({ to }) => to)).toEqual([[person.email]]);
  const source = await (
    await request.get(`${origin}/api/mailbox/${mails[0]?.id ?? ''}.eml`)
  ).body();
  const read = await simpleParser(source, { skipImageLinks: true });
  expect(read.subject).toBe(canvas.mails[0]?.subject);
  expect(withoutLinks(String(read.html))).toBe(withoutLinks(canvas.mails[0]?.html ?? ''));
  const noAddresses = (text: string) => text.replace(/https?:\/\/\S+/g, '');
  expect(noAddresses(read.text ?? '')).toBe(noAddresses(canvas.mails[0]?.text ?? ''));
  expect(String(read.html)).not.toContain(person.email);
  const { item } = await json<{ item: { id: string } }>(
    request,
    `/outbox/${(await json<{ mails: { id: string }[] }>(request, `/shops/${SHOP}/outbox`)).mails[0]?.id ?? ''}`,
  );
  const outbox = await (await request.get(`${origin}/api/outbox/${item.id}.eml`)).body();
  const kept = await simpleParser(outbox, { skipImageLinks: true });
  expect([kept.html, kept.text]).toEqual([read.html, read.text]);

  // The link leads back to that very cart, in a browser that the shop does not know.
  const home =
    /href="([^"]*\/go\/[^"]+)"[^>]*>[^<]*Back to the bench/.exec(String(read.html))?.[1] ?? '';
  await page.context().clearCookies();
  await page.evaluate(() => localStorage.clear());
  await page.goto(home);
  await expect(page.getByRole('status')).toContainText('Welcome back');
  expect((await basket.locator('ul').innerText()).replace(/\s+/g, ' ')).toBe(left);
  await basket.getByRole('button', { name: /order/i }).click();
  await expect(page.getByRole('status')).toContainText('Ordered');

  await page.goto(`${origin}/outbox`);
  await moveClock(page, 2, 'days');
  await expect(page.getByRole('button', { name: person.email })).toHaveCount(1);
  await page.goto(`${origin}/occasions`);
  await page.getByRole('button', { name: /^New occasion/ }).click();
  const walk = page.getByRole('region', { name: 'One person' });
  const who = walk.getByRole('combobox', { name: 'Person', exact: true });
  const found = page.getByRole('option').filter({ hasText: person.email, visible: true });
  // Whoever is shown at first comes by themselves; two of one name are told apart by their address.
  await expect(who).not.toHaveValue('');
  await expect(async () => {
    await who.fill(person.email);
    await found.click({ timeout: 4_000 });
  }).toPass({ timeout: 60_000 });
  await expect(walk.getByText('What it did')).toBeVisible();
  await expect(walk.getByText(/Ended: its cause no longer exists/).last()).toBeVisible();

  // Unsubscribed, somebody gets nothing more.
  const leave = /href="([^"]*\/mail\/unsubscribe\/[^"]+)"/.exec(String(read.html))?.[1] ?? '';
  await page.goto(leave);
  await page.getByRole('button', { name: 'Unsubscribe' }).click();
  await expect(page.getByRole('heading', { name: 'You are unsubscribed' })).toBeVisible();
  await page.goto(`${origin}/shop`);
  await put('Tools', 2);
  await put('Seeds', 3);
  await basket.getByRole('button', { name: /checkout/i }).click();
  await page.goto(`${origin}/outbox`);
  await moveClock(page, 20, 'days');
  await expect(page.getByRole('button', { name: person.email })).toHaveCount(1);
});
