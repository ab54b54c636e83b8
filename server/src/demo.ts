import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { SourceKind, SourceTarget } from '@carafe/contract';
import {
  DEMO_FEEDS,
  demoTemplates,
  drawLogo,
  drawProduct,
  makeCatalog,
  makeFiles,
  makePosts,
} from '@carafe/demo';
import type { Services } from './app';
import { nextFetch } from './schedule';
import { asRss } from './standins/feeds';
import { journalPosts } from './standins/journalposts';

const HOURLY = 60;

interface DemoSource {
  shop: string | null;
  name: string;
  kind: SourceKind;
  target: SourceTarget;
  slot: string;
  file: string;
  text: string;
  address?: string;
}

const NOTES = [
  {
    about: 'Bulbs',
    title: 'Before your bulbs go in',
    words: 'Twice as deep as they are tall, pointed end up, and water them once.',
    status: 'Sent',
  },
  {
    about: 'Pots',
    title: 'Give the clay a drink',
    words: 'Soak a new pot overnight: dry clay drinks what you meant for the plant.',
    status: 'Sent',
  },
];

function sourcesOf(services: Services): DemoSource[] {
  const asOf = services.now();
  const files = makeFiles(asOf);
  const sources: DemoSource[] = [];
  for (const { id: shop } of files.shops) {
    const csv = (target: SourceTarget, slot: string, says: string, text: string | undefined) =>
      sources.push({
        ...{ shop, target, slot, text: text ?? '', kind: 'file' as const },
        name: says,
        file: `${slot}.csv`,
      });
    csv('catalog', 'garden', 'Garden catalog', files.catalogs[shop]);
    csv('people', 'people', 'People', files.people[shop]);
    csv('coupons', 'coupons', 'Coupon codes', files.coupons[shop]);
    sources.push({
      ...{ shop, kind: 'events', target: 'events', slot: 'events', file: 'events.ndjson' },
      name: 'Shop events',
      text: files.events[shop] ?? '',
    });
  }
  const posts = journalPosts(services.store.db);
  const made = makePosts(asOf);
  for (const feed of DEMO_FEEDS) {
    for (const post of [...made[feed.id]].reverse()) posts.insert(feed.id, post);
    sources.push({
      ...{ shop: null, name: feed.title, kind: 'address', target: 'feed', slot: feed.id },
      file: 'rss.xml',
      text: asRss({ ...feed, posts: posts.list(feed.id) }),
      address: `/journal/${feed.id}/rss.xml`,
    });
  }
  sources.push({
    ...{ shop: 'quillmoss-gb', kind: 'typed', target: 'notes', slot: 'notes', file: 'typed in' },
    name: 'Growing notes',
    text: NOTES.map((note) => JSON.stringify(note)).join('\n'),
  });
  return sources;
}

/** Brings the seed house in, by the same path that a user's files take. */
export async function loadDemo(services: Services): Promise<void> {
  const { store, imports, now, newId } = services;
  const asOf = now();
  for (const shop of makeFiles(asOf).shops) store.shops.insert(shop);
  for (const source of sourcesOf(services)) {
    const { shop, name, kind, target, slot, file, text, address = null } = source;
    const id = newId();
    const every_minutes = kind === 'address' ? HOURLY : null;
    const fresh_hours = kind === 'address' ? 24 : 24 * 30;
    store.sources.insert(
      {
        ...{ id, shop, name, kind, target, slot, address, every_minutes, fresh_hours },
        next_fetch_at: nextFetch(every_minutes, asOf),
      },
      asOf.toISOString(),
    );
    const one = imports.receiveText(imports.sourceOf(id), file, text);
    const taken = await imports.takeBySelf(one);
    if (taken.state !== 'applied' || (taken.counts?.rejected ?? 0) > 0)
      throw new Error(`The demo's ${name} was not taken in whole: ${JSON.stringify(taken.counts)}`);
  }
  // Each a while before the other, so that the order of the templates is the same each time.
  demoTemplates().forEach((template, i) => {
    store.templates.insert(
      newId(),
      template,
      new Date(asOf.getTime() - i * 90_000_000).toISOString(),
    );
  });
}

/** Draws the pictures of the demo's products where they are not there yet. */
export function drawPictures(folder: string): void {
  const done = join(folder, '.complete');
  if (existsSync(done)) return;
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'logo.png'), drawLogo());
  for (const product of makeCatalog(new Date(0), 'GBP', 'shop.quillmoss.example'))
    writeFileSync(join(folder, `${product.sku.toLowerCase()}.png`), drawProduct(product));
  writeFileSync(done, '');
}
