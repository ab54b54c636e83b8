import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { SourceKind, SourceTarget } from '@carafe/contract';
import {
  DEMO_FEEDS,
  DEMO_SHOPS,
  demoRules,
  demoTemplates,
  drawLogo,
  drawScene,
  SCENES,
  drawProduct,
  makeCatalog,
  makeFiles,
  makePast,
  makePosts,
} from '@carafe/demo';
import type { Store } from '../database/store';
import type { ImportsService } from '../imports/service';
import { nextFetch } from '../schedule/fetchService';
import type { ShopsRepository } from '../shops/repository';
import type { ProductChangesRepository } from '../sources/productChangesRepository';
import type { SourcesRepository } from '../sources/repository';
import { asRss } from '../standins/feeds';
import type { JournalRepository } from '../standins/journalRepository';
import { EMPTY_NOTE, noteOfRow, type NamedFormula, type ProductNote } from '@carafe/core/library';
import type { LibraryRepository } from '../library/repository';
import type { PicturesService } from '../pictures/service';
import { Readable } from 'node:stream';
import { presets } from '@carafe/core/occasion';
import type { Template } from '@carafe/core/template';
import type { OccasionsRepository } from '../occasions/repository';
import type { SegmentsRepository } from '../occasions/segmentsRepository';
import { presetTemplates } from '../occasions/presetTemplates';
import type { PublishedRepository } from '../templates/publishedRepository';
import type { RulesRepository } from '../recommend/repository';
import type { TemplatesRepository } from '../templates/repository';

interface Given {
  store: Pick<Store, 'write'>;
  shops: ShopsRepository;
  sources: SourcesRepository;
  productChanges: Pick<ProductChangesRepository, 'tell'>;
  templates: TemplatesRepository;
  rules: Pick<RulesRepository, 'insert'>;
  published: Pick<PublishedRepository, 'insert'>;
  segments: Pick<SegmentsRepository, 'insert'>;
  occasions: Pick<OccasionsRepository, 'insert'>;
  posts: JournalRepository;
  imports: ImportsService;
  library: Pick<LibraryRepository, 'insert'>;
  pictures: Pick<PicturesService, 'add' | 'change'>;
  now: () => Date;
  newId: () => string;
}

/** Where the demo's templates and rules are of. */
const DEMO_SHOP = 'quillmoss-gb';
const HOURLY = 60;

interface DemoSource {
  shop: string | null;
  name: string;
  kind: SourceKind;
  target: SourceTarget;
  formula_name: string;
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

async function sourcesOf({ store, posts, now }: Given): Promise<DemoSource[]> {
  const asOf = now();
  const files = makeFiles(asOf);
  const sources: DemoSource[] = [];
  for (const { id: shop } of files.shops) {
    const csv = (
      target: SourceTarget,
      formula_name: string,
      label: string,
      text: string | undefined,
    ) =>
      sources.push({
        ...{ shop, target, formula_name, text: text ?? '', kind: 'file' as const },
        name: label,
        file: `${formula_name}.csv`,
      });
    csv('catalog', 'garden', 'Garden catalog', files.catalogs[shop]);
    csv('people', 'people', 'People', files.people[shop]);
    csv('coupons', 'coupons', 'Coupon codes', files.coupons[shop]);
    sources.push({
      ...{ shop, kind: 'events', target: 'events', formula_name: 'events', file: 'events.ndjson' },
      name: 'Shop events',
      text: files.events[shop] ?? '',
    });
  }
  const made = makePosts(asOf);
  for (const feed of DEMO_FEEDS) {
    await store.write(() => {
      for (const post of [...made[feed.id]].reverse()) posts.insert(feed.id, post);
    });
    sources.push({
      ...{ shop: null, name: feed.title, kind: 'address', target: 'feed', formula_name: feed.id },
      file: 'rss.xml',
      text: asRss({ ...feed, posts: posts.list(feed.id) }),
      address: `/journal/${feed.id}/rss.xml`,
    });
  }
  sources.push({
    ...{
      shop: 'quillmoss-gb',
      kind: 'typed',
      target: 'notes',
      formula_name: 'notes',
      file: 'typed in',
    },
    name: 'Growing notes',
    text: NOTES.map((note) => JSON.stringify(note)).join('\n'),
  });
  return sources;
}

/** What a catalog of the house changed before it came. */
function pastOf({ target, shop: id }: DemoSource, asOf: Date) {
  const shop = DEMO_SHOPS.find((one) => one.id === id);
  if (target !== 'catalog' || !shop) return [];
  return makePast(makeCatalog(asOf, shop.currency, new URL(shop.url).host), asOf);
}

/** Brings the seed house in, by the same path that a user's files take. */
export async function loadDemo(given: Given): Promise<void> {
  const { store, shops, sources, templates, published, imports, now, newId } = given;
  const asOf = now();
  await store.write(() => makeFiles(asOf).shops.forEach((shop) => shops.insert(shop)));
  for (const source of await sourcesOf(given)) {
    const { shop, name, kind, target, formula_name, file, text, address = null } = source;
    const id = newId();
    const every_minutes = kind === 'address' ? HOURLY : null;
    const fresh_hours = kind === 'address' ? 24 : 24 * 30;
    const row = {
      ...{ id, shop, name, kind, target, formula_name, address, every_minutes, fresh_hours },
      next_fetch_at: nextFetch(every_minutes, asOf),
    };
    await store.write(() => sources.insert(row, asOf.toISOString()));
    const one = await imports.receiveText(imports.sourceOf(id), file, text);
    const taken = await imports.takeBySelf(one);
    if (taken.state !== 'applied' || (taken.counts?.rejected ?? 0) > 0)
      throw new Error(`The demo's ${name} was not taken in whole: ${JSON.stringify(taken.counts)}`);
    const past = pastOf(source, asOf);
    await store.write(() => given.productChanges.tell(id, past));
  }
  await fillLibrary(given);
  await store.write(() => {
    for (const rule of demoRules())
      given.rules.insert(newId(), DEMO_SHOP, rule, asOf.toISOString());
  });
  // Each a while before the other, so that the order of the templates is the same each time.
  await store.write(() =>
    demoTemplates().forEach((template, i) => {
      const at = new Date(asOf.getTime() - i * 90_000_000).toISOString();
      const id = newId();
      templates.insert(id, template, at);
      published.insert(id, { number: 1, at: asOf.toISOString(), note: '' }, template);
    }),
  );
  // The shipped occasions, off: somebody looks at what they would do, and switches them on.
  const own = templates.list().filter(({ template }) => (template as Template).shop === DEMO_SHOP);
  await store.write(() => {
    given.segments.insert(
      DEMO_SHOP,
      { name: 'Regular customers', formula: 'person.orders_count >= 3' },
      asOf.toISOString(),
    );
    for (const occasion of presets(presetTemplates(own)))
      given.occasions.insert(newId(), DEMO_SHOP, occasion, asOf.toISOString());
  });
}

/** What the house keeps for its mails: some pictures, formulas with a name, a note for what is sown. */
async function fillLibrary({ store, library, pictures, now, newId }: Given): Promise<void> {
  for (const { name, alt, tags, category } of SCENES) {
    const { id } = await pictures.add(name, Readable.from(Buffer.from(drawScene(category))));
    await pictures.change(id, { alt, tags: [...tags] });
  }
  const shop = DEMO_SHOP;
  const at = now().toISOString();
  const formulas: NamedFormula[] = [
    {
      ...{ name: 'greeting', label: 'Greeting', group: 'Words', use: 'value' },
      description: 'By first name, else by what we all are',
      formula: '"Dear " & (title(person.first_name) otherwise "gardener")',
    },
    {
      ...{ name: 'regular', label: 'Regular customer', group: 'People', use: 'condition' },
      description: 'Three orders or more',
      formula: 'person.orders_count >= 3',
    },
  ];
  const note: ProductNote = {
    ...EMPTY_NOTE,
    ...{ title: 'Before you sow', categories: ['Seeds'], place: 'line' },
    text: noteOfRow({ words: 'Soak the seed overnight, and keep what is left dry and dark.' }).text,
  };
  await store.write(() => {
    for (const document of formulas) library.insert('formula', { id: newId(), shop, document }, at);
    library.insert('note', { id: newId(), shop, document: note }, at);
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
