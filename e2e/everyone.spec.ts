import { axeFinds } from './axe';
import { expect, test, type Page } from './carafe';
import { simpleParser } from 'mailparser';
import { walkNodes, type Template } from '@carafe/core/template';
import { demoTemplates } from '@carafe/demo';
import { copyOf, htmlFor, inspector, line, openDesk, saved } from './desk';

const CART = 'You left these on the potting bench';
const panel = (page: Page) => page.getByRole('complementary', { name: 'Everybody' });
const finding = (page: Page, check: string) =>
  panel(page).locator(`[data-check="${check}"]`).first();

/** Opens what everybody gets, and waits until everybody is filled. */
async function everybody(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'What everybody gets' }).click();
  await filled(page);
}
async function filled(page: Page): Promise<void> {
  await expect(panel(page).getByTestId('survey-state')).toHaveAttribute('data-running', 'false');
}

/** Other tests count who there is: whoever was made up goes again. */
test.afterEach(async ({ request }) => {
  const path = '/api/shops/quillmoss-gb/test-recipients';
  const { recipients } = (await (await request.get(path)).json()) as {
    recipients: { id: number }[];
  };
  for (const { id } of recipients) await request.delete(`${path}/${id}`);
});

test('a template broken in five ways is found, repaired, and three tests of it are read', async ({
  page,
  request,
}) => {
  const stored = await copyOf(request, CART, 'Broken in five ways');
  const template = structuredClone(stored.template) as unknown as Template;
  const blocks = template.sections.at(-1)?.columns[0]?.blocks ?? [];
  const text = (id: string, words: string, more: object = {}) => ({
    ...{ kind: 'text' as const, id, ...more },
    text: {
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text: words }] }],
    },
  });
  template.envelope.preview_text = '';
  blocks.unshift(
    text('left', 'Lorem ipsum dolor sit amet'),
    text('never', 'For the very rich', { when: 'cart.total > 100000' }),
    text('all', 'One of all', { loop: { list: 'catalog.catalog', as: 'p' } }),
  );
  const { sources } = (await (await request.get('/api/sources')).json()) as {
    sources: { target: string; formula_name: string; shop: string }[];
  };
  const catalog = sources.find(
    ({ target, shop }) => target === 'catalog' && shop === 'quillmoss-gb',
  );
  const loop = blocks.find(({ id }) => id === 'all')?.loop;
  if (loop) loop.list = `catalog.${catalog?.formula_name ?? ''}`;
  const put = await request.put(`/api/templates/${stored.id}`, {
    data: { version: stored.version, template },
  });
  expect(put.status()).toBe(200);

  await openDesk(page, stored.id);
  await everybody(page);
  await panel(page)
    .getByRole('tab', { name: /^Checks/ })
    .click();
  for (const check of [
    'blank_tag',
    'preview_blank',
    'leftover_words',
    'condition_never',
    'unbounded_list',
  ])
    await expect(finding(page, check)).toBeVisible();
  expect(await axeFinds(page)).toEqual([]);

  // Two by a click, one by making somebody, the others by hand.
  await finding(page, 'blank_tag').getByRole('button', { name: 'Add a fallback' }).click();
  await expect(finding(page, 'blank_tag')).toHaveCount(0);
  await finding(page, 'unbounded_list').getByRole('button', { name: 'At most 12' }).click();
  await expect(finding(page, 'unbounded_list')).toHaveCount(0);
  await finding(page, 'condition_never').getByRole('button', { name: 'Make one' }).click();
  await expect(page.getByTestId('who')).toContainText('made up');
  await expect(
    page.frameLocator('iframe[title^="The email"]').getByText('For the very rich'),
  ).toBeVisible();
  for (const words of ['Lorem ipsum', 'For the very rich']) {
    await line(page, words).click();
    await page.keyboard.press('Delete');
  }
  // What the click put there waits for words, and says so.
  await expect(finding(page, 'leftover_words')).toContainText('waits for your words');
  await page.getByRole('button', { name: 'Close what everybody gets' }).click();
  await line(page, /Hello ‹first_name›/).click();
  await inspector(page)
    .getByRole('button', { name: /Merge tag title\(person\.first_name/ })
    .click();
  await page.getByLabel('Fallback').fill('gardener');
  await page.keyboard.press('Escape');
  await line(page, 'Envelope and style').click();
  await inspector(page).getByRole('textbox', { name: 'Preview text' }).click();
  await page.keyboard.type('Kept together for you');
  await saved(page);
  await everybody(page);
  await panel(page)
    .getByRole('tab', { name: /^Checks/ })
    .click();
  await expect(finding(page, 'preview_blank')).toHaveCount(0);
  for (const check of ['leftover_words', 'condition_never'])
    await expect(finding(page, check)).toHaveCount(0);

  await panel(page).getByRole('tab', { name: 'Variants' }).click();
  const rows = panel(page).getByRole('region', { name: 'Variants' }).getByRole('listitem');
  for (const at of [0, 1, 2]) {
    await expect(rows.nth(at).locator('iframe')).toBeVisible();
    await rows.nth(at).getByRole('button').click();
    await expect(rows.nth(at).getByRole('checkbox')).toBeChecked();
  }
  await request.delete('/api/mailbox');
  await panel(page).getByRole('tab', { name: 'Tests' }).click();
  await panel(page).getByRole('button', { name: 'Send the 3 ticked' }).click();
  await expect(panel(page).getByText(/^3 tests went to/)).toBeVisible();

  const now = (await (await request.get(`/api/templates/${stored.id}`)).json()) as {
    template: unknown;
  };
  const survey = (await (
    await request.post('/api/shops/quillmoss-gb/survey', {
      data: { template: now.template, most: 5_000 },
    })
  ).json()) as { survey: { variants: { people: number; person: number }[] } };
  const looked = [...survey.survey.variants].sort((a, b) => b.people - a.people).slice(0, 3);
  const { mails } = (await (await request.get('/api/mailbox')).json()) as {
    mails: { id: string }[];
  };
  expect(mails).toHaveLength(3);
  const got = await Promise.all(
    mails.map(async ({ id }) => {
      const parsed = await simpleParser(await (await request.get(`/api/mailbox/${id}.eml`)).body());
      return { html: String(parsed.html), text: parsed.text };
    }),
  );
  for (const { person } of looked) {
    const { recipients } = (await (
      await request.get(`/api/shops/quillmoss-gb/recipients/some?ids=${person}`)
    ).json()) as { recipients: { email: string }[] };
    const html = await htmlFor(page, recipients[0]?.email ?? '');
    const wanted = (await (
      await request.post('/api/shops/quillmoss-gb/filled', {
        data: { template: now.template, person },
      })
    ).json()) as { html: string; text: string };
    expect(wanted.html).toBe(html);
    expect(got.some((one) => one.html === html && one.text?.trim() === wanted.text.trim())).toBe(
      true,
    );
  }
});

test('what is expected of every mail is proposed, judged, and asks for a reason to be published', async ({
  page,
  request,
}) => {
  const { id } = await copyOf(request, CART, 'Expected');
  await openDesk(page, id);
  await everybody(page);
  await panel(page).getByRole('tab', { name: 'Expected' }).click();
  await panel(page).getByRole('button', { name: 'Suggest what is true today' }).click();
  const offered = panel(page).getByRole('list', { name: 'Proposed' });
  const unsubscribe = offered.getByRole('listitem').filter({ hasText: 'links.unsubscribe' });
  await unsubscribe.getByRole('button', { name: 'Add' }).click();
  await filled(page);
  await expect(panel(page).getByText('True for everybody')).toBeVisible();
  await saved(page);
  const stored = (await (await request.get(`/api/templates/${id}`)).json()) as {
    version: number;
    template: Template;
  };
  stored.template.expectations = [{ formula: 'cart.total > 20', name: 'Only large carts' }];
  await request.put(`/api/templates/${id}`, {
    data: { version: stored.version, template: stored.template },
  });
  await openDesk(page, id);
  await page.getByRole('button', { name: 'Publish', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'Publish' });
  await dialog.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(dialog.getByRole('alert')).toContainText('“Only large carts” is not true');
  await dialog.getByLabel('Reason for publishing anyway').fill('Small ones are welcome too');
  await dialog.getByRole('button', { name: 'Publish', exact: true }).click();
  await expect(dialog).toHaveCount(0);
  const { versions } = (await (await request.get(`/api/templates/${id}/published`)).json()) as {
    versions: { note: string }[];
  };
  expect(versions[0]?.note).toContain('Small ones are welcome too');

  // Against what is published, an edit changes everybody’s mail.
  await line(page, 'Envelope and style').click();
  await inspector(page).getByRole('textbox', { name: 'Subject' }).pressSequentially('Today: ');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled();
  await saved(page);
  await everybody(page);
  await panel(page).getByRole('tab', { name: 'Impact' }).click();
  await expect(
    panel(page).getByText(/^This changes the email of ([\d,]+) of \1 people/),
  ).toBeVisible();
  // Both mails of one person, with what differs marked.
  await panel(page).getByRole('button', { name: 'Side by side' }).first().click();
  const both = page.getByRole('dialog', { name: 'Side by side' });
  for (const side of ['Published', 'Draft'])
    await expect(
      both.getByRole('region', { name: side }).locator('[data-differs]').getByText(/./).first(),
    ).toContainText('Subject');
  await page.keyboard.press('Escape');
  await panel(page).getByRole('tab', { name: 'Inbox' }).click();
  await expect(panel(page).getByRole('list').getByRole('button')).toHaveCount(6);
  await panel(page).getByRole('tab', { name: 'Impact' }).click();
  await line(page, 'Your cart').click();
  await page.keyboard.press('Delete');
  await expect(line(page, 'Your cart')).toHaveCount(0);
  await expect(panel(page).getByRole('button', { name: 'Your cart is gone' })).not.toHaveCount(0);
  await panel(page).getByRole('button', { name: 'Side by side' }).first().click();
  const marks = (side: string) =>
    both.getByRole('region', { name: side }).frameLocator('iframe').locator('[data-carafe-mark]');
  await expect(marks('Published')).not.toHaveCount(0);
  await expect(marks('Draft')).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(both).toHaveCount(0);
});

test('a test recipient is copied, changed, looked at and deleted', async ({ page, request }) => {
  const { id } = await copyOf(request, CART, 'For a test recipient');
  const mail = await openDesk(page, id);
  await page.getByRole('button', { name: 'Find a recipient' }).click();
  await page.getByRole('button', { name: 'Test recipients …' }).click();
  const sheet = page.getByRole('dialog', { name: 'Test recipients' });
  await sheet.getByRole('button', { name: /^Copy Maud/ }).click();
  await sheet.getByLabel('Called').fill('A new one');
  await sheet.getByLabel('First name').fill('Zora');
  await sheet.getByRole('button', { name: 'Save' }).click();
  const row = sheet.getByRole('listitem').filter({ hasText: 'A new one' });
  await row.getByRole('button', { name: 'Show' }).click();
  await expect(mail.getByText('Zora').first()).toBeVisible();
  await expect(page.getByTestId('who')).toContainText('made up');
  await page.getByRole('button', { name: 'Find a recipient' }).click();
  await page.getByRole('button', { name: 'Test recipients …' }).click();
  await row.getByRole('button', { name: 'A new one' }).click();
  await sheet.getByLabel('Everything, as JSON').fill('{"person": 3}');
  await sheet.getByRole('button', { name: 'Save' }).click();
  await expect(sheet.getByRole('alert')).toContainText('This is not a recipient.');
  await sheet.getByRole('button', { name: 'Delete this test recipient' }).click();
  await expect(row).toHaveCount(0);

  // One that is written from nothing, with something in the cart.
  await sheet.getByRole('button', { name: 'Create one' }).click();
  await sheet.getByLabel('First name').fill('Quince');
  await sheet.getByLabel('One more product').and(page.locator('input')).fill('long tom');
  await page
    .getByRole('option', { name: /Long Tom pot/ })
    .first()
    .click();
  await sheet.getByLabel('How many Long Tom pot').fill('4');
  await sheet.getByRole('button', { name: 'Save' }).click();
  await sheet
    .getByRole('listitem')
    .filter({ hasText: 'A new one' })
    .getByRole('button', { name: 'Show' })
    .click();
  await expect(mail.getByText('Quince').first()).toBeVisible();
  await expect(mail.getByText('Long Tom pot').first()).toBeVisible();
});

test('for every part of the demo’s templates somebody is there or is made up, elses among them', async ({
  request,
}) => {
  test.slow();
  const shop = '/api/shops/quillmoss-gb';
  const { templates } = (await (await request.get('/api/templates')).json()) as {
    templates: { id: string; name: string }[];
  };
  const names = new Set(demoTemplates().map(({ name }) => name));
  const shipped = templates.filter(({ name }) => names.has(name));
  expect(shipped.length).toBeGreaterThanOrEqual(names.size);
  const unreached: string[] = [];
  let parts = 0;
  for (const { id } of shipped) {
    const { template } = (await (await request.get(`/api/templates/${id}`)).json()) as {
      template: Template;
    };
    const nodes: string[] = [];
    walkNodes(template, ({ node }) => void nodes.push(node.id));
    for (const node of nodes) {
      parts++;
      const data = { template, target: { node } };
      const answer = await request.post(`${shop}/made`, { data });
      if (!answer.ok()) unreached.push(`${template.name}: ${node}: ${await answer.text()}`);
      else {
        const { recipient } = (await answer.json()) as { recipient: { id: number } };
        await request.delete(`${shop}/test-recipients/${recipient.id}`);
      }
    }
  }
  expect(unreached).toEqual([]);
  expect(parts).toBeGreaterThan(100);
});
