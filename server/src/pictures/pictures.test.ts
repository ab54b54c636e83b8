import type { Picture, StoredTemplate } from '@carafe/contract';
import { libraryPicture, pictureAddress } from '@carafe/core/picture';
import sharp from 'sharp';
import request from 'supertest';
import { testServer, TEST_SHOP } from '../testing';

type Server = Awaited<ReturnType<typeof testServer>>;
let carafe: Server;
beforeEach(async () => {
  carafe = await testServer();
  carafe.tables.shops.insert(TEST_SHOP);
});
afterEach(() => carafe.store.close());

const host = { Host: '127.0.0.1' };
const api = () => request(carafe.app);

/** Left half red, right half blue. */
async function halves(width = 400, height = 200): Promise<Buffer> {
  const half = { width: width / 2, height, channels: 3 as const };
  const blue = await sharp({ create: { ...half, background: '#0000ff' } })
    .png()
    .toBuffer();
  return sharp({ create: { ...half, width, background: '#ff0000' } })
    .composite([{ input: blue, left: width / 2, top: 0 }])
    .png()
    .toBuffer();
}
async function send(file: Buffer | string, name = 'bed.png') {
  const { status, body } = await api()
    .post(`/api/pictures?name=${name}`)
    .set(host)
    .type('application/octet-stream')
    .send(file);
  return { status, body: body as Picture & { error?: { message: string } } };
}
async function drawn(address: string) {
  const { body, status } = await api().get(address).set(host).responseType('blob');
  return { status, body: body as Buffer };
}
const colourOf = async (file: Buffer) => {
  const { dominant } = await sharp(file).stats();
  return dominant.r > dominant.b ? 'red' : 'blue';
};

test('a picture is kept with its size, and drawn at the size that is asked for', async () => {
  const { status, body } = await send(await halves());
  expect(status).toBe(201);
  expect(body).toMatchObject({ name: 'bed.png', type: 'png', width: 400, height: 200 });
  const small = await drawn(`/pictures/library/${body.id}/100x50`);
  expect(await sharp(small.body).metadata()).toMatchObject({ width: 100, height: 50 });
  for (const size of ['0x1', '9999x1', '100', '100x50.exe', '..%2f..'])
    expect((await drawn(`/pictures/library/${body.id}/${size}`)).status).toBe(404);
  expect((await drawn('/pictures/library/nobody/10x10')).status).toBe(404);
});

test('the focus says what of it is seen where it is cut', async () => {
  const { body } = await send(await halves());
  const change = (focus: object) =>
    api().patch(`/api/pictures/${body.id}`).set(host).send({ focus });
  await change({ x: 0.1, y: 0.5, zoom: 1 });
  expect(await colourOf((await drawn(`/pictures/library/${body.id}/60x60`)).body)).toBe('red');
  await change({ x: 0.9, y: 0.5, zoom: 2 });
  expect(await colourOf((await drawn(`/pictures/library/${body.id}/60x60`)).body)).toBe('blue');
  expect((await change({ x: 2, y: 0, zoom: 1 })).status).toBe(400);
});

test('a picture turned by its camera is kept as it is seen', async () => {
  const turned = await sharp(await halves())
    .jpeg()
    .withMetadata({ orientation: 6 })
    .toBuffer();
  expect((await send(turned)).body).toMatchObject({ type: 'jpeg', width: 200, height: 400 });
});

test('what is no picture is refused in words, and nothing is kept', async () => {
  const whole = await sharp(await halves(800, 800))
    .jpeg()
    .toBuffer();
  const refused: [Buffer | string, RegExp][] = [
    ['', /This file is empty/],
    ['sku,name\n1,Pot', /not a picture that can be read/],
    ['{"a": 1}', /not a picture that can be read/],
    [whole.subarray(0, whole.length / 2), /not a picture that can be read/],
    [
      '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>',
      /contains a script, which is not allowed in emails/,
    ],
    [
      '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9" onload="a()"/>',
      /contains a script/,
    ],
  ];
  for (const [file, words] of refused) {
    const { status, body } = await send(file);
    expect([status, body.error?.message]).toEqual([422, expect.stringMatching(words)]);
  }
  const { status, body } = await send(Buffer.alloc(20_000_001));
  expect([status, body.error?.message]).toEqual([413, expect.stringMatching(/at most 20 MB/)]);
  const list = await api().get('/api/pictures').set(host);
  expect(list.body).toEqual({ pictures: [] });
});

test('an SVG is drawn, since mails cannot show one', async () => {
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 10"><rect width="20" height="10" fill="red"/></svg>';
  expect((await send(svg)).body).toMatchObject({ type: 'png', width: 1600, height: 800 });
});

test('a picture whose replacement was cut off by a stop is drawn all the same', async () => {
  const { body } = await send(await halves());
  const kept = carafe.tables.pictures.find(body.id);
  if (!kept) throw new Error('The picture is gone.');
  // What is on record is of another file than the one that lies there.
  carafe.tables.pictures.update({ ...kept, width: 4000, height: 3000 });
  const { status, body: file } = await drawn(`/pictures/library/${body.id}/80x60`);
  expect([status, (await sharp(file).metadata()).width]).toEqual([200, 80]);
});

test('a play mark is drawn on the picture of a video, and icons in the colour that is asked for', async () => {
  const { body } = await send(await halves());
  const plain = await drawn(`/pictures/library/${body.id}/200x100`);
  const marked = await drawn(`/pictures/library/${body.id}/200x100-play`);
  expect(await sharp(marked.body).metadata()).toMatchObject({ width: 200, height: 100 });
  expect(marked.body.equals(plain.body)).toBe(false);
  const icon = await drawn('/pictures/icons/square/0000ff/mail.png');
  expect(await sharp(icon.body).metadata()).toMatchObject({ width: 96, height: 96, format: 'png' });
  expect(await colourOf(icon.body)).toBe('blue');
  for (const wrong of ['round/0000ff/nothing', 'star/0000ff/mail', 'round/red/mail'])
    expect((await drawn(`/pictures/icons/${wrong}.png`)).status).toBe(404);
});

describe('a picture in a template', () => {
  async function use({ id, width, height }: Picture): Promise<void> {
    const made = await api()
      .post('/api/templates')
      .set(host)
      .send({ layout: 'cart', name: 'With a picture', shop: TEST_SHOP.id });
    const stored = made.body as StoredTemplate;
    const src = pictureAddress({ id, width, height });
    const text = JSON.stringify(stored.template);
    expect(text).toContain('{{ shop.logo }}');
    const template = JSON.parse(text.replaceAll('{{ shop.logo }}', src)) as unknown;
    const saved = await api()
      .put(`/api/templates/${stored.id}`)
      .set(host)
      .send({ version: stored.version, template });
    expect(saved.status).toBe(200);
  }

  test('is told where it is used, cannot be deleted there, and is replaced everywhere at once', async () => {
    const { body } = await send(await halves());
    await use(body);
    const list = await api().get('/api/pictures').set(host);
    const [one] = (list.body as { pictures: Picture[] }).pictures;
    expect(one?.used_by.map(({ name }) => name)).toEqual(['With a picture']);
    const gone = await api().delete(`/api/pictures/${body.id}`).set(host);
    expect(gone.status).toBe(409);
    expect(JSON.stringify(gone.body)).toMatch(/is shown in “With a picture”. Remove it there/);
    const square = await sharp({
      create: { width: 90, height: 90, channels: 3, background: '#0000ff' },
    })
      .png()
      .toBuffer();
    const replaced = await api()
      .put(`/api/pictures/${body.id}/file`)
      .set(host)
      .type('application/octet-stream')
      .send(square);
    expect(replaced.body).toMatchObject({ id: body.id, width: 90, height: 90 });
    // The mail keeps its shape: what it asks for is cut from the new one.
    const { body: shown } = await drawn(`/pictures/library/${body.id}/400x200`);
    expect(await sharp(shown).metadata()).toMatchObject({ width: 400, height: 200 });
    expect(await colourOf(shown)).toBe('blue');
    expect(libraryPicture(pictureAddress(body))?.id).toBe(body.id);
  });

  test('that nobody uses goes; emails that went out show it as long as it can be restored', async () => {
    const { body } = await send(await halves());
    expect((await api().delete(`/api/pictures/${body.id}`).set(host)).status).toBe(204);
    const { pictures } = (await api().get('/api/pictures').set(host)).body as {
      pictures: object[];
    };
    expect(pictures).not.toContainEqual(expect.objectContaining({ id: body.id }));
    expect((await drawn(`/pictures/library/${body.id}/40x20`)).status).toBe(200);
    expect((await drawn('/pictures/library/nothing/40x20')).status).toBe(404);
  });
});

test.each([
  [
    'filters',
    `<svg xmlns="http://www.w3.org/2000/svg">${'<filter id="a"><feTurbulence/></filter>'.repeat(30)}</svg>`,
  ],
  [
    'uses',
    `<svg xmlns="http://www.w3.org/2000/svg"><g id="a"/>${'<use href="#a"/>'.repeat(300)}</svg>`,
  ],
  [
    'a blur that reaches far',
    '<svg xmlns="http://www.w3.org/2000/svg"><filter id="a"><feGaussianBlur stdDeviation="4000"/></filter></svg>',
  ],
  ['a huge area', '<svg xmlns="http://www.w3.org/2000/svg" width="900000" height="10"/>'],
])('an SVG with too many %s is refused before anything draws it', async (_, svg) => {
  const { status, body } = await send(Buffer.from(svg), 'a.svg');
  expect(status).toBe(422);
  expect(body.error?.message).toMatch(/SVG/);
});

test('drawing an SVG holds up nothing else', async () => {
  const slow = `<svg xmlns="http://www.w3.org/2000/svg" width="1600" height="1600"><filter id="f"><feTurbulence numOctaves="9"/><feGaussianBlur stdDeviation="90"/></filter>${'<rect width="1600" height="1600" filter="url(#f)"/>'.repeat(40)}</svg>`;
  const sent = send(Buffer.from(slow), 'slow.svg');
  const asked = api().get('/api/clock').set(host);
  const first = await Promise.race([sent.then(() => 'drawn'), asked.then(() => 'answered')]);
  expect(first).toBe('answered');
  expect([201, 422]).toContain((await sent).status);
});
